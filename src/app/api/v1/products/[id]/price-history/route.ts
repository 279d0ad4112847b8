import { EDIT_CAUSES } from '@/core/listing/shown-prices';
import { oneOf, wholeOf } from '@/server/http/query';
import { json, route } from '@/server/http/route';
import { MAX_HISTORY, priceHistory } from '@/server/pricing/history';
import { findProduct } from '@/server/products/products';

/**
 * Who fixed which price, and when; newest first, down to the first: `?before=ID` goes on after the last of a page. `?store=` (an id, or `base`),
 * `?variant=`, `?person=` and `?cause=` leave out the others.
 */
export const GET = route<{ id: string }>('read', async ({ ctx, actor, params, query }) => {
  const { id } = await findProduct(ctx, actor.workspaceId, params.id);
  const limit = wholeOf(query, 'limit', MAX_HISTORY) ?? MAX_HISTORY;
  const changes = await priceHistory(ctx, id, {
    store: query.get('store') || null,
    variant: query.get('variant') || null,
    person: query.get('person') || null,
    cause: oneOf(query, 'cause', EDIT_CAUSES),
    before: wholeOf(query, 'before', Number.MAX_SAFE_INTEGER),
    limit,
  });
  return json({ changes, before: changes.length === limit ? changes.at(-1)!.id : null });
});
