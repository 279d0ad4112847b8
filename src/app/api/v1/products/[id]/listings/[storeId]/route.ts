import { notFound } from '@/core/errors';
import { compareThreeWays } from '@/core/sync/compare';
import { json, noContent, route } from '@/server/http/route';
import { forgetHere } from '@/server/listings/agreement';
import { listingHistory, listingsOf, listingView, prepareListed, requestRemoval } from '@/server/listings/listings';
import { loadBundle } from '@/server/products/bundle';
import { findStore } from '@/server/stores/stores';

type Params = { id: string; storeId: string };

/** One listing: its state, what differs and who changed it, and what went between us and the shop. */
export const GET = route<Params>('read', async ({ ctx, actor, params }) => {
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

/** Deletes the listing: with `?there=true` in the shop too, in a job; else it is only forgotten here, and stays in the shop. */
export const DELETE = route<Params>('send', async ({ ctx, actor, params, query }) => {
  const store = await findStore(ctx, actor.workspaceId, params.storeId);
  const row = (await listingsOf(ctx.db, actor.workspaceId, [params.id])).find((r) => r.storeId === store.id);
  if (!row?.externalId) throw notFound('listing of this product in the store', params.storeId);
  if (query.get('there') === 'true') return json(await requestRemoval(ctx, row, store.name), 202);
  await forgetHere(ctx, row, store.name);
  return noContent();
});
