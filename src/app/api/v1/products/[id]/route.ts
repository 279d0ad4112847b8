import { checkPatch, touchedPaths, type Operation } from '@/core/document/patch';
import { invalid } from '@/core/errors';
import { readJson } from '@/server/http/body';
import { need, type Scope } from '@/server/people/scopes';
import { json, noContent, route } from '@/server/http/route';
import { patchProduct } from '@/server/products/patch';
import { findProduct } from '@/server/products/products';
import { deleteProduct } from '@/server/products/shelving';

type Params = { id: string };
const etag = (revision: number) => ({ etag: `"${revision}"` });

export const GET = route<Params>('read', async ({ ctx, actor, params }) => {
  const product = await findProduct(ctx, actor.workspaceId, params.id);
  return json(product, 200, etag(product.revision));
});

/** What a patch takes: prices are for who may price, all else for who may design. */
const scopesOf = (operations: readonly Operation[]): Set<Scope> =>
  new Set(
    touchedPaths(operations).flatMap((path): Scope[] =>
      path === '' ? ['price', 'design'] : path === '/price' || path.startsWith('/price/') ? ['price'] : ['design'],
    ),
  );

/** What the edit is called, for history; percent-encoded, since a header takes no other letters. */
function readLabel(header: string | null): string {
  try {
    return decodeURIComponent(header ?? '')
      .toWellFormed()
      .replace(/\p{Cc}/gu, ' ');
  } catch {
    throw invalid('label-unreadable', 'The header X-Label must be percent-encoded UTF-8.');
  }
}

/** Names one patch for all its tries. */
function readKey(header: string | null): string | undefined {
  if (header === null) return undefined;
  if (!/^[A-Za-z0-9_-]{8,40}$/.test(header))
    throw invalid('key-wrong', 'Idempotency-Key must have 8 to 40 letters, digits, - or _, the same for every try.');
  return header;
}

/** A JSON patch (RFC 6902) against the revision in `If-Match`; one with an `Idempotency-Key` is applied once, however often it is sent. */
export const PATCH = route<Params>('read', async ({ ctx, actor, request, params }) => {
  const revision = /^"?(\d+)"?$/.exec(request.headers.get('if-match') ?? '')?.[1];
  if (!revision) throw invalid('revision-missing', 'Say which revision the patch was made against: If-Match: "12".');
  const operations = checkPatch(await readJson(request));
  for (const scope of scopesOf(operations)) need(actor.credential, scope);
  const label = readLabel(request.headers.get('x-label'));
  const key = readKey(request.headers.get('idempotency-key'));
  const result = await patchProduct(ctx, actor, params.id, Number(revision), operations, { label, key });
  return json(result, 200, etag(result.revision));
});

/** Deletes a product that no shop has; for 30 days it can be brought back by `POST …/restore`. */
export const DELETE = route<Params>('design', async ({ ctx, actor, params }) => {
  await deleteProduct(ctx, actor, params.id);
  return noContent();
});
