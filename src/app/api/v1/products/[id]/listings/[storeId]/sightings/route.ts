import { notFound } from '@/core/errors';
import { listingNumber } from '@/server/http/listing-number';
import { json, route } from '@/server/http/route';
import { listingAt } from '@/server/listings/place';
import { sightingsOf } from '@/server/listings/sightings';
import { findStore } from '@/server/stores/stores';

/** What the shop was seen to show of a listing beside what both sides agreed on: each state once, with how and when it was learnt. */
export const GET = route<{ id: string; storeId: string }>('read', async ({ ctx, actor, params, query }) => {
  const store = await findStore(ctx, actor.workspaceId, params.storeId);
  const row = await listingAt(ctx, actor.workspaceId, params.id, store.id, listingNumber(query));
  if (!row) throw notFound('listing of this product in the store', params.storeId);
  return json({ sightings: await sightingsOf(ctx, row.id) });
});
