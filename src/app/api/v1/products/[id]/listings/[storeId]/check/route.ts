import { conflict } from '@/core/errors';
import { json, route } from '@/server/http/route';
import { listingsOf, requestCheck } from '@/server/listings/listings';
import { findStore } from '@/server/stores/stores';

/** Looks in the shop whether the listing was changed there, in a job. */
export const POST = route<{ id: string; storeId: string }>('send', async ({ ctx, actor, params }) => {
  const store = await findStore(ctx, actor.workspaceId, params.storeId);
  const row = (await listingsOf(ctx.db, actor.workspaceId, [params.id])).find((r) => r.storeId === store.id);
  if (!row?.externalId) throw conflict('not-listed', `This product is not in ${store.name} yet; send it first.`);
  return json(await requestCheck(ctx, row, store.name), 202);
});
