import { json, route } from '@/server/http/route';
import { undoPriceList } from '@/server/price-lists/price-lists';

/** Takes a list back that was taken: what was in force before it holds again. */
export const POST = route<{ id: string }>('money', async ({ ctx, actor, params }) =>
  json(await undoPriceList(ctx, actor, params.id)),
);
