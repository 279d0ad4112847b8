import { invalid } from '@/core/errors';
import { json, route } from '@/server/http/route';
import { changeItems, findChange, ITEM_WHATS, type ItemWhat } from '@/server/range/many/change-row';

/** Its products, 100 at a time by id: `?what=` where they stand, `?after=` the last id of the page before. */
export const GET = route<{ id: string }>('read', async ({ ctx, actor, params, query }) => {
  const change = await findChange(ctx, actor.workspaceId, params.id);
  const what = query.get('what');
  if (what !== null && !ITEM_WHATS.includes(what as ItemWhat))
    throw invalid('what-wrong', `what is one of ${ITEM_WHATS.join(', ')}.`);
  const after = (query.get('after') ?? '').slice(0, 40);
  return json({ items: await changeItems(ctx, change.id, { what: what as ItemWhat | null, after }) });
});
