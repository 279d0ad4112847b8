import { loadBlanks, loadPriceLists } from '@/server/catalog/blanks';
import { json, route } from '@/server/http/route';

export const GET = route(async ({ ctx, actor }) => {
  const blanks = await loadBlanks(ctx);
  const lists = await loadPriceLists(ctx, actor.workspaceId, blanks);
  return json({ blanks: blanks.map((blank) => ({ ...blank, priceList: lists.get(blank.id) ?? null })) });
});
