import { loadBlank, loadPriceLists, loadShots } from '@/server/catalog/blanks';
import { json, route } from '@/server/http/route';

export const GET = route<{ id: string }>(async ({ ctx, actor, params }) => {
  const blank = await loadBlank(ctx, params.id);
  const [lists, shots] = await Promise.all([
    loadPriceLists(ctx, actor.workspaceId, [blank]),
    loadShots(ctx, [blank.id]),
  ]);
  return json({
    ...blank,
    priceList: lists.get(blank.id) ?? null,
    shots: shots.map(({ id, code, document }) => ({ id, code, name: document.name, angle: document.angle })),
  });
});
