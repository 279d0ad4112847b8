import { notFound } from '@/core/errors';
import { compareThreeWays } from '@/core/sync/compare';
import { json, route } from '@/server/http/route';
import { listingHistory, listingsOf, listingView, prepareListed } from '@/server/listings/listings';
import { loadBundle } from '@/server/products/bundle';
import { findStore } from '@/server/stores/stores';

/** One listing: its state, what differs and who changed it, and what went between us and the shop. */
export const GET = route<{ id: string; storeId: string }>('read', async ({ ctx, actor, params }) => {
  const [bundle, store] = await Promise.all([
    loadBundle(ctx, actor.workspaceId, params.id),
    findStore(ctx, actor.workspaceId, params.storeId),
  ]);
  const row = (await listingsOf(ctx.db, actor.workspaceId, [params.id])).find((r) => r.storeId === store.id);
  if (!row) throw notFound('listing of this product in the store', params.storeId);
  const prepared = prepareListed(ctx, bundle, store, row);
  const agreed: unknown = row.agreedForm ? JSON.parse(row.agreedForm) : null;
  return json({
    ...listingView(store, row, prepared),
    differences:
      agreed && prepared.form
        ? compareThreeWays(agreed, prepared.form, row.thereForm ? JSON.parse(row.thereForm) : agreed)
        : [],
    history: await listingHistory(ctx, actor.workspaceId, row.id),
  });
});
