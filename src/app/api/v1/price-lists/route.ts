import { json, route } from '@/server/http/route';
import { listPriceLists } from '@/server/price-lists/price-lists';

export const GET = route('read', async ({ ctx, actor }) =>
  json({ priceLists: await listPriceLists(ctx, actor.workspaceId) }),
);
