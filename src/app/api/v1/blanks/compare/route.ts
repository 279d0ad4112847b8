import { MAX_COMPARED } from '@/core/catalog/limits';
import { compareOffers } from '@/server/catalog/compare';
import { json, route } from '@/server/http/route';

/** Up to four blanks side by side: `?id=…&id=…&to=GB&to=US&to=DE&items=1`. */
export const GET = route('read', async ({ ctx, actor, query }) => {
  const ids = query.getAll('id').slice(0, MAX_COMPARED);
  return json(await compareOffers(ctx, actor, ids, query.getAll('to'), Number(query.get('items')) || 1));
});
