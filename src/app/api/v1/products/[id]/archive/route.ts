import { noContent, route } from '@/server/http/route';
import { archiveProduct } from '@/server/products/shelving';

/** Takes a product out of the range; its listings stay in the shops. */
export const POST = route<{ id: string }>('design', async ({ ctx, actor, params }) => {
  await archiveProduct(ctx, actor, params.id);
  return noContent();
});
