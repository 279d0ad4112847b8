import { json, route } from '@/server/http/route';
import { findProduct } from '@/server/products/products';
import { goodsToBundle } from '@/server/products/sold-together';

/** Products that a bundle of this one can hold: `?title=` is in their title. Changed last first, the first dozen. */
export const GET = route<{ id: string }>('read', async ({ ctx, actor, params, query }) => {
  const { id } = await findProduct(ctx, actor.workspaceId, params.id);
  return json({ goods: await goodsToBundle(ctx, actor, id, query.get('title') ?? '') });
});
