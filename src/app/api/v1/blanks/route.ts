import { parseQuery } from '@/core/shelf/query';
import { itemOf } from '@/core/shelf/shelf';
import { browseCatalog } from '@/server/catalog/shelf';
import { json, route } from '@/server/http/route';

/** One page of blanks that fit the query, with how many each further choice would leave. */
export const GET = route('read', async ({ ctx, actor, query }) => {
  const asked = parseQuery(query, actor.currency, actor.country);
  const { rows, ...answer } = await browseCatalog(ctx, actor, asked);
  return json({ ...answer, country: asked.country, items: asked.items, blanks: rows.map(itemOf) });
});
