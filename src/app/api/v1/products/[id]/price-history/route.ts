import { invalid } from '@/core/errors';
import { json, route } from '@/server/http/route';
import { MOST_HISTORY, priceHistory } from '@/server/pricing/history';
import { findProduct } from '@/server/products/products';

function whole(text: string | null, name: string, most: number): number | null {
  if (text === null || text === '') return null;
  const value = /^\d{1,15}$/.test(text) ? Number(text) : 0;
  if (value < 1 || value > most) throw invalid('query-unreadable', `${name} is a whole number from 1 to ${most}.`);
  return value;
}

/**
 * Who fixed which price, and when; newest first, down to the first: `?before=ID` goes on after the last of a page. `?store=` (an id, or `base`),
 * `?variant=` and `?person=` leave out the others.
 */
export const GET = route<{ id: string }>('read', async ({ ctx, actor, params, query }) => {
  const { id } = await findProduct(ctx, actor.workspaceId, params.id);
  const limit = whole(query.get('limit'), 'limit', MOST_HISTORY) ?? MOST_HISTORY;
  const changes = await priceHistory(ctx, id, {
    store: query.get('store') || null,
    variant: query.get('variant') || null,
    person: query.get('person') || null,
    before: whole(query.get('before'), 'before', Number.MAX_SAFE_INTEGER),
    limit,
  });
  return json({ changes, before: changes.length === limit ? changes.at(-1)!.id : null });
});
