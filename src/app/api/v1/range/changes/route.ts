import { readBody } from '@/server/http/body';
import { ChangeManyDto } from '@/server/http/dto/range';
import { json, route } from '@/server/http/route';
import { findChange, listChanges } from '@/server/range/many/change-row';
import { viewChange } from '@/server/range/many/changes';
import { planChange } from '@/server/range/many/plan';

/** The latest changes of many products, newest first. */
export const GET = route('read', async ({ ctx, actor }) => {
  const changes = await listChanges(ctx, actor.workspaceId);
  return json({ changes: changes.map(({ workspaceId: _w, personId: _p, ...told }) => told) });
});

/** Plans one: what it would do is looked at product by product, and nothing is done before it is begun. */
export const POST = route('read', async ({ ctx, actor, request }) => {
  const { kind, productIds, listings, found, ...asked } = await readBody(request, ChangeManyDto);
  const id = await planChange(ctx, actor, kind, asked, { productIds, listings, found });
  return json(await viewChange(ctx, await findChange(ctx, actor.workspaceId, id)), 201);
});
