import { json, route } from '@/server/http/route';
import { askForPictures } from '@/server/pictures/renew';
import { picturesOf, shotsToChoose } from '@/server/pictures/product-pictures';
import { loadDesign } from '@/server/products/bundle';
import { findProduct } from '@/server/products/products';

type Params = { id: string };

/** The product's pictures in their order, what of each is in view, and the shots that there are. */
export const GET = route<Params>('read', async ({ ctx, actor, params }) => {
  const design = await loadDesign(ctx, actor.workspaceId, params.id);
  const { product } = design;
  return json({
    revision: product.revision,
    chosen: Object.keys(product.document.pictures.base).length > 0,
    pictures: await picturesOf(ctx, design),
    shots: shotsToChoose(design),
  });
});

/** Makes those that are not made as the design is now, in a job. */
export const POST = route<Params>('design', async ({ ctx, actor, params }) => {
  const product = await findProduct(ctx, actor.workspaceId, params.id);
  return json({ jobId: await askForPictures(ctx.db, product) }, 202);
});
