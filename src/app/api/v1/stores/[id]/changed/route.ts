import { readBody } from '@/server/http/body';
import { SettleManyDto } from '@/server/http/dto/sends';
import { need } from '@/server/people/scopes';
import { json, route } from '@/server/http/route';
import { changedThere } from '@/server/listings/changed-there';
import { requestSettleMany } from '@/server/listings/settle-many.job';
import { findStore } from '@/server/stores/stores';

type Params = { id: string };

/** What the shop changed of the store's listings and nobody has settled, counted by kind of field. */
export const GET = route<Params>('read', async ({ ctx, actor, params }) =>
  json(await changedThere(ctx, await findStore(ctx, actor.workspaceId, params.id))),
);

/** Settles fields of one kind in all of them, in a job. */
export const POST = route<Params>('design', async ({ ctx, actor, request, params }) => {
  const wanted = await readBody(request, SettleManyDto);
  if (wanted.kind === 'price') need(actor.credential, 'price');
  const store = await findStore(ctx, actor.workspaceId, params.id);
  return json(await requestSettleMany(ctx, actor, store, wanted), 202);
});
