import { json, noContent, route } from '@/server/http/route';
import { dropPriceList, findPriceList } from '@/server/price-lists/price-lists';

export const GET = route<{ id: string }>(async ({ ctx, actor, params }) =>
  json(await findPriceList(ctx, actor.workspaceId, params.id)),
);

export const DELETE = route<{ id: string }>(async ({ ctx, actor, params }) => {
  await dropPriceList(ctx, actor, params.id);
  return noContent();
});
