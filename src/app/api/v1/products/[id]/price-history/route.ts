import { json, route } from '@/server/http/route';
import { priceHistory } from '@/server/pricing/history';
import { findProduct } from '@/server/products/products';

/** Who fixed which price, and when; newest first. */
export const GET = route<{ id: string }>('read', async ({ ctx, actor, params }) => {
  const { id } = await findProduct(ctx, actor.workspaceId, params.id);
  return json({ changes: await priceHistory(ctx, id) });
});
