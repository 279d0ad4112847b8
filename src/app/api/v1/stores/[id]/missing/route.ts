import { isMass } from '@/core/sync/missing';
import { readBody } from '@/server/http/body';
import { SayOfMissingDto } from '@/server/http/dto/sends';
import { json, route } from '@/server/http/route';
import { missingIn, sayOfMissing } from '@/server/listings/missing';
import { findStore } from '@/server/stores/stores';

type Params = { id: string };

/** How many of the store's listings its shop does not find, and whether a person has to say that they were deleted. */
export const GET = route<Params>('read', async ({ ctx, actor, params }) => {
  const store = await findStore(ctx, actor.workspaceId, params.id);
  const missing = await missingIn(ctx.db, store.id);
  return json({ ...missing, waits: isMass(missing) });
});

/** Says that they were deleted there, or has them looked for again. */
export const POST = route<Params>('send', async ({ ctx, actor, request, params }) => {
  const { deleted } = await readBody(request, SayOfMissingDto);
  const store = await findStore(ctx, actor.workspaceId, params.id);
  return json({ listings: await sayOfMissing(ctx, actor, store, deleted) }, 202);
});
