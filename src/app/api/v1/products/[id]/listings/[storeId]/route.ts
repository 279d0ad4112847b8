import { notFound } from '@/core/errors';
import { json, noContent, route } from '@/server/http/route';
import { forgetHere } from '@/server/listings/agreement';
import { listingGuards } from '@/server/listings/guards';
import { listingHistory, listingView, prepareListed, requestRemoval } from '@/server/listings/listings';
import { listingNumber } from '@/server/http/listing-number';
import { listingAt } from '@/server/listings/place';
import { differencesOf } from '@/server/listings/settle';
import { loadBundle } from '@/server/products/bundle';
import { findStore } from '@/server/stores/stores';

type Params = { id: string; storeId: string };

/** One listing: its state, what differs and who changed it, and what went between us and the shop. */
export const GET = route<Params>('read', async ({ ctx, actor, params, query }) => {
  const number = listingNumber(query);
  const [bundle, store] = await Promise.all([
    loadBundle(ctx, actor.workspaceId, params.id),
    findStore(ctx, actor.workspaceId, params.storeId),
  ]);
  const row = await listingAt(ctx, actor.workspaceId, params.id, store.id, number);
  if (!row) throw notFound('listing of this product in the store', params.storeId);
  const prepared = prepareListed(ctx, bundle, store, row, number);
  const differences = differencesOf(row, prepared.form);
  return json({
    ...listingView(store, { number, row }, prepared),
    differences,
    guards: listingGuards(ctx, bundle, store, row, prepared, differences),
    seen: row.seenAt && { at: row.seenAt, how: row.seenHow },
    history: await listingHistory(ctx, actor.workspaceId, row.id),
  });
});

/** Deletes the listing: with `?there=true` in the shop too, in a job; else it is only forgotten here, and stays in the shop. */
export const DELETE = route<Params>('send', async ({ ctx, actor, params, query }) => {
  const store = await findStore(ctx, actor.workspaceId, params.storeId);
  const row = await listingAt(ctx, actor.workspaceId, params.id, store.id, listingNumber(query));
  if (!row?.externalId) throw notFound('listing of this product in the store', params.storeId);
  if (query.get('there') === 'true') return json(await requestRemoval(ctx, row, store.name), 202);
  await forgetHere(ctx, row, store.name);
  return noContent();
});
