import { noContent, route } from '@/server/http/route';
import { restoreProduct } from '@/server/products/shelving';

/** Brings an archived or deleted product back into the range. */
export const POST = route<{ id: string }>('design', async ({ ctx, actor, params }) => {
  await restoreProduct(ctx, actor, params.id);
  return noContent();
});
