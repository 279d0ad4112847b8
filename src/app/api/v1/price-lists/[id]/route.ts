import { json, noContent, route } from '@/server/http/route';
import { changedNames, dropPriceList, findPriceList } from '@/server/price-lists/price-lists';

export const GET = route<{ id: string }>('read', async ({ ctx, actor, params }) => {
  const list = await findPriceList(ctx, actor.workspaceId, params.id);
  return json({ ...list, blankNames: await changedNames(ctx, list) });
});

export const DELETE = route<{ id: string }>('money', async ({ ctx, actor, params }) => {
  await dropPriceList(ctx, actor, params.id);
  return noContent();
});
