import { json, route } from '@/server/http/route';
import { bundlesTold } from '@/server/products/sold-together';

/**
 * What each bundle of a product comes to in a store (`?store=ID`; none: before any store's fees): price, bought apart, making, its parcels, what is left,
 * and its floor over all countries; or why it cannot be sold.
 */
export const GET = route<{ id: string }>('read', async ({ ctx, actor, params, query }) =>
  json(await bundlesTold(ctx, actor, params.id, query.get('store') || null)),
);
