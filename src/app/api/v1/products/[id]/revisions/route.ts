import { json, route } from '@/server/http/route';
import { findProduct } from '@/server/products/products';
import { listRevisions } from '@/server/products/revisions';

export const GET = route<{ id: string }>('read', async ({ ctx, actor, params }) => {
  const product = await findProduct(ctx, actor.workspaceId, params.id);
  return json({ revision: product.revision, revisions: await listRevisions(ctx, product.id) });
});
