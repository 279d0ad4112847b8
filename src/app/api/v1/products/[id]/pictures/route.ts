import { ownEntry } from '@/core/own-entry';
import { json, route } from '@/server/http/route';
import { askForPictures } from '@/server/pictures/renew';
import { picturesOf, shotsToChoose } from '@/server/pictures/product-pictures';
import { loadDesign } from '@/server/products/bundle';
import { findProduct } from '@/server/products/products';

type Params = { id: string };

/** The product's pictures in their order, for all or in one `store`, what of each is in view, and the shots that there are. */
export const GET = route<Params>('read', async ({ ctx, actor, params, query }) => {
  const storeId = query.get('store') || null;
  const design = await loadDesign(ctx, actor.workspaceId, params.id);
  const { product } = design;
  const { base, stores } = product.document.pictures;
  return json({
    revision: product.revision,
    chosen: Object.keys(storeId ? (ownEntry(stores, storeId) ?? {}) : base).length > 0,
    pictures: await picturesOf(ctx, design, storeId),
    shots: shotsToChoose(design),
  });
});

/** Makes those that are not made as the design is now, in a job. */
export const POST = route<Params>('design', async ({ ctx, actor, params }) => {
  const product = await findProduct(ctx, actor.workspaceId, params.id);
  return json({ jobId: await askForPictures(ctx.db, product) }, 202);
});
