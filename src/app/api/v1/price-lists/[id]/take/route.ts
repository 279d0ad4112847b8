import { json, route } from '@/server/http/route';
import { takePriceList } from '@/server/price-lists/price-lists';

export const POST = route<{ id: string }>('money', async ({ ctx, actor, params }) =>
  json(await takePriceList(ctx, actor, params.id)),
);
