import { json, route } from '@/server/http/route';
import { rangePage, rangeRows } from '@/server/range/page';
import { readIds, readQuery } from '@/server/range/query';

/**
 * Products with where each stands in each store, a page at a time: `?q=` words of titles or beginnings of SKUs; `?state=`, `?store=`, `?rule=`,
 * `?finding=`, `?partner=`, `?kind=`, `?tag=`, each as often as wanted; `?margin=` percent; `?floor=under`; `?since=` a day; `?sort=`, `?limit=`, `?after=`.
 With `?id=`, as often as wanted, those products alone.
 */
export const GET = route('read', async ({ ctx, actor, query }) => {
  const ids = readIds(query);
  if (ids.length > 0) return json({ rows: await rangeRows(ctx, actor.workspaceId, ids), next: null });
  const { filter, ...how } = readQuery(query);
  return json(await rangePage(ctx, actor.workspaceId, filter, how));
});
