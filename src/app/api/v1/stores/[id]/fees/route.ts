import type { Fee } from '@/core/pricing/fees';
import { readBody } from '@/server/http/body';
import { FeesDto } from '@/server/http/dto/stores';
import { json, route } from '@/server/http/route';
import { viewFees, keepFees } from '@/server/stores/fees';
import { findStore } from '@/server/stores/stores';

type Params = { id: string };

export const GET = route<Params>('read', async ({ ctx, actor, params }) =>
  json(await viewFees(ctx, await findStore(ctx, actor.workspaceId, params.id))),
);

/** What the store takes, or all stores on its channel: a whole list, checked by the core. Null gives back to what the channel publishes. */
export const PUT = route<Params>('price', async ({ ctx, actor, request, params }) => {
  const { fees, scope } = await readBody(request, FeesDto);
  const store = await findStore(ctx, actor.workspaceId, params.id);
  return json(await keepFees(ctx, actor, store, scope, fees as Fee[] | null));
});
