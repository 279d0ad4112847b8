import { checkPatch } from '@/core/document/patch';
import { invalid } from '@/core/errors';
import { readJson } from '@/server/http/body';
import { json, noContent, route } from '@/server/http/route';
import { archiveProduct, findProduct, patchProduct } from '@/server/products/products';

type Params = { id: string };
const etag = (revision: number) => ({ etag: `"${revision}"` });

export const GET = route<Params>(async ({ ctx, actor, params }) => {
  const product = await findProduct(ctx, actor.workspaceId, params.id);
  return json(product, 200, etag(product.revision));
});

/** A JSON patch (RFC 6902) against the revision in `If-Match`. */
export const PATCH = route<Params>(async ({ ctx, actor, request, params }) => {
  const revision = /^"?(\d+)"?$/.exec(request.headers.get('if-match') ?? '')?.[1];
  if (!revision) throw invalid('revision-missing', 'Say which revision the patch was made against: If-Match: "12".');
  const operations = checkPatch(await readJson(request));
  const label = decodeURIComponent(request.headers.get('x-label') ?? '');
  const result = await patchProduct(ctx, actor, params.id, Number(revision), operations, label);
  return json(result, 200, etag(result.revision));
});

export const DELETE = route<Params>(async ({ ctx, actor, params }) => {
  await archiveProduct(ctx, actor, params.id);
  return noContent();
});
