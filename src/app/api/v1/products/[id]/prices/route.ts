import { setAims } from '@/core/pricing/fixing';
import { diff } from '@/core/document/patch';
import { json, route } from '@/server/http/route';
import { exportPrices, previewPrices, refuseFaulty } from '@/server/pricing/sheet';
import { loadBundle } from '@/server/products/bundle';
import { patchProduct } from '@/server/products/products';

type Params = { id: string };

/** All prices of a product, for all stores and for each, as CSV. */
export const GET = route<Params>(async ({ ctx, actor, params }) => {
  const bundle = await loadBundle(ctx, actor.workspaceId, params.id);
  return new Response(await exportPrices(ctx, bundle), {
    headers: {
      'content-type': 'text/csv; charset=utf-8',
      'content-disposition': `attachment; filename="prices-${bundle.product.id}.csv"`,
      'cache-control': 'no-store',
    },
  });
});

/** Reads such a file: says what it would change and what is wrong, line by line. With `?apply=true` it is changed, all or nothing. */
export const POST = route<Params>(async ({ ctx, actor, params, request, query }) => {
  const bundle = await loadBundle(ctx, actor.workspaceId, params.id);
  const preview = await previewPrices(ctx, bundle, request.body);
  if (query.get('apply') !== 'true') return json({ ...preview, revision: bundle.product.revision });
  refuseFaulty(preview);
  const { product } = bundle;
  const priced = preview.changes.reduce(
    (doc, { storeId, variantKey, now }) => setAims(doc, storeId, [variantKey], now),
    product.document,
  );
  const { revision } = await patchProduct(
    ctx,
    actor,
    product.id,
    product.revision,
    diff(product.document, priced),
    `Prices from a file (${preview.changes.length})`,
  );
  return json({ ...preview, revision });
});
