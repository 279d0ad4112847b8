import { loadOffer } from '@/server/catalog/kept-offers';
import { loadShots } from '@/server/catalog/blanks';
import { json, route } from '@/server/http/route';
import { usesOf } from '@/server/products/used-by';

export const GET = route<{ id: string }>('read', async ({ ctx, actor, params }) => {
  const [{ blank, list }, shots] = await Promise.all([
    loadOffer(ctx, actor.workspaceId, params.id),
    loadShots(ctx, [params.id], actor.workspaceId),
  ]);
  return json({
    ...blank,
    priceList: list,
    shots: shots.map(({ id, code, document }) => ({ id, code, name: document.name, angle: document.angle })),
    usedBy: await usesOf(ctx, actor.workspaceId, blank),
  });
});
