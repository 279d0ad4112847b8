import { PRICE_CAUSES } from '@/core/listing/shown-prices';
import { oneOf, wholeOf } from '@/server/http/query';
import { json, route } from '@/server/http/route';
import { MAX_SHOWN, shownPrices } from '@/server/listings/shown-prices';
import { findProduct } from '@/server/products/products';

/**
 * Which price shops showed of a product from when on, and what had moved it; newest first, down to the first: `?before=ID` goes on after the last of a
 * page. `?store=`, `?variant=`, `?person=` and `?cause=` leave out the others.
 */
export const GET = route<{ id: string }>('read', async ({ ctx, actor, params, query }) => {
  const { id } = await findProduct(ctx, actor.workspaceId, params.id);
  const limit = wholeOf(query, 'limit', MAX_SHOWN) ?? MAX_SHOWN;
  const prices = await shownPrices(ctx, id, {
    store: query.get('store') || null,
    variant: query.get('variant') || null,
    person: query.get('person') || null,
    cause: oneOf(query, 'cause', PRICE_CAUSES),
    before: wholeOf(query, 'before', Number.MAX_SAFE_INTEGER),
    limit,
  });
  return json({ prices, before: prices.length === limit ? prices.at(-1)!.id : null });
});
