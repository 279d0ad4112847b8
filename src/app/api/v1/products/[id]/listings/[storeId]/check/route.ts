import { conflict } from '@/core/errors';
import { json, route } from '@/server/http/route';
import { requestCheck } from '@/server/listings/listings';
import { listingNumber } from '@/server/http/listing-number';
import { listingAt } from '@/server/listings/place';
import { findStore } from '@/server/stores/stores';

/** Looks in the shop whether the listing was changed there, in a job. */
export const POST = route<{ id: string; storeId: string }>('send', async ({ ctx, actor, params, query }) => {
  const store = await findStore(ctx, actor.workspaceId, params.storeId);
  const row = await listingAt(ctx, actor.workspaceId, params.id, store.id, listingNumber(query));
  if (!row?.externalId) throw conflict('not-listed', `This product is not in ${store.name} yet; send it first.`);
  return json(await requestCheck(ctx, row, store.name), 202);
});
