import { setCodes } from '@/core/document/choosing';
import { diff } from '@/core/document/patch';
import { json, route } from '@/server/http/route';
import { exportCodes, previewCodes, refuseFaulty } from '@/server/pricing/sheet';
import { loadBundle } from '@/server/products/bundle';
import { patchProduct } from '@/server/products/products';

type Params = { id: string };

/** SKUs and GTINs of the chosen variants as CSV. */
export const GET = route<Params>(async ({ ctx, actor, params }) => {
  const bundle = await loadBundle(ctx, actor.workspaceId, params.id);
  return new Response(exportCodes(bundle), {
    headers: {
      'content-type': 'text/csv; charset=utf-8',
      'content-disposition': `attachment; filename="codes-${bundle.product.id}.csv"`,
      'cache-control': 'no-store',
    },
  });
});

/** Reads such a file: says what it would change and what is wrong. With `?apply=true` it is changed, all or nothing. */
export const POST = route<Params>(async ({ ctx, actor, params, request, query }) => {
  const bundle = await loadBundle(ctx, actor.workspaceId, params.id);
  const preview = await previewCodes(bundle, request.body);
  if (query.get('apply') !== 'true') return json({ ...preview, revision: bundle.product.revision });
  refuseFaulty(preview);
  const { product } = bundle;
  const { revision } = await patchProduct(
    ctx,
    actor,
    product.id,
    product.revision,
    diff(product.document, setCodes(product.document, preview.changes)),
    `Codes from a file (${preview.changes.length})`,
  );
  return json({ ...preview, revision });
});
