import { andMore } from '@/core/words/and-more';
import type { Blank } from '@/core/catalog/blank';
import { checkDocument, type DocumentFault } from '@/core/document/check';
import type { ProductDocument } from '@/core/document/document';
import { mergeDocuments } from '@/core/document/merge';
import { applyPatch, diff, KEPT, type Operation, type PatchConflict } from '@/core/document/patch';
import { valueAt } from '@/core/document/pointer';
import { invalid, notFound, TypicaError } from '@/core/errors';
import { sameJson } from '@/core/json/bounds';
import { contentHash } from '@/core/canonical/canonical';
import type { EditCause } from '@/core/listing/shown-prices';
import { loadBlank } from '../catalog/blanks';
import { note } from '../activity/note';
import type { Context } from '../context';
import type { Database } from '../db/pool';
import { emit } from '../events/events';
import type { Actor } from '../people/people';
import { enqueuePictures } from '../pictures/renew';
import { recordPriceChanges } from '../pricing/history';
import { findProduct, PRODUCT_COLUMNS, type Product } from './products';
import { checkReferences } from './references';
import { revisionsSince } from './revisions';
import { recordUsed } from './used';
import { writeVariantRowsSoon } from './variant-rows';

export interface PatchResult {
  readonly revision: number;
  readonly document: ProductDocument;
}

export interface PatchHow {
  /** What the edit is called in the history. */
  readonly label?: string;
  /** The same for every try of one patch: one whose answer was lost is not applied a second time. */
  readonly key?: string;
  /** How prices were changed; found from the change itself where nothing is said. */
  readonly cause?: EditCause;
}

/**
 * Applies an RFC 6902 patch that was made against `revision`. What others have changed since is kept: what the patch changes is laid over it,
 * and what both changed to the same is done already. Where both changed the same to different values it throws `revision-conflict` with both,
 * and nothing is written.
 */
export async function patchProduct(
  ctx: Context,
  actor: Actor,
  id: string,
  revision: number,
  operations: readonly Operation[],
  how: PatchHow = {},
): Promise<PatchResult> {
  const { blankId } = await findProduct(ctx, actor.workspaceId, id);
  const blank = await loadBlank(ctx, blankId);
  const result = await ctx.pools.transaction((db) => patchIn(db, actor, { id, blank }, revision, operations, how));
  if (result.changed) await writeVariantRowsSoon(ctx, id);
  return { revision: result.revision, document: result.document };
}

/** As `patchProduct`, in the caller's transaction; whoever calls writes the variants' rows afterwards. `blank` is read before it begins. */
export async function patchIn(
  db: Database,
  actor: Actor,
  of: { readonly id: string; readonly blank: Blank },
  revision: number,
  operations: readonly Operation[],
  { label = '', key, cause }: PatchHow,
): Promise<PatchResult & { readonly changed: boolean }> {
  // The row is locked first, so that two patches of one product go one after the other.
  const product = await db.row<Product>(
    `SELECT ${PRODUCT_COLUMNS} FROM product WHERE id = ? AND workspace_id = ? AND archived_at IS NULL FOR UPDATE`,
    [of.id, actor.workspaceId],
  );
  if (!product) throw notFound('product', of.id);
  const unchanged = { revision: product.revision, document: product.document, changed: false };
  const sent = key === undefined ? null : { key, hash: contentHash(operations) };
  if (sent && (await isApplied(db, of.id, sent))) return unchanged;
  const document = await laidOver(db, product, revision, operations);
  const forward = diff(product.document, document);
  if (forward.length === 0) return unchanged;
  refuseFaults(document);
  await checkReferences(db, product, document, of.blank);
  const next = product.revision + 1;
  await db.run('UPDATE product SET document = ?, revision = ?, title = ?, updated_at = UTC_TIMESTAMP(3) WHERE id = ?', [
    JSON.stringify(document),
    next,
    document.words.base.title,
    of.id,
  ]);
  await db.run(
    `INSERT INTO product_revision (product_id, revision, first_revision, patch, undo_patch, person_id, label, patch_key, patch_hash)
     VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)`,
    [
      of.id,
      next,
      next,
      JSON.stringify(forward),
      JSON.stringify(diff(document, product.document)),
      actor.personId,
      label.slice(0, 120).toWellFormed(),
      sent?.key ?? null,
      sent?.hash ?? null,
    ],
  );
  await recordPriceChanges(
    db,
    { workspaceId: actor.workspaceId, productId: of.id, revision: next, personId: actor.personId, cause },
    product.document,
    document,
  );
  await recordUsed(db, of.id, product.document, document);
  if (changesPictures(forward))
    await enqueuePictures(db, { id: of.id, workspaceId: actor.workspaceId, title: document.words.base.title });
  const says = label === '' ? 'Changed the product.' : `Changed the product: ${label}.`;
  await note(db, actor, { about: 'product', what: 'changed', says, productId: of.id, countedAs: `changed ${of.id}` });
  await emit(db, actor.workspaceId, 'product', { productId: of.id, revision: next, by: actor.personName });
  return { revision: next, document, changed: true };
}

/** Whether this patch is in the history already. Throws `key-used` where another one went by its key: that one would be dropped without a word. */
async function isApplied(
  db: Database,
  productId: string,
  { key, hash }: { readonly key: string; readonly hash: string },
): Promise<boolean> {
  const row = await db.row<{ hash: string | null }>(
    'SELECT patch_hash AS hash FROM product_revision WHERE product_id = ? AND patch_key = ?',
    [productId, key],
  );
  if (row && row.hash !== hash)
    throw invalid(
      'key-used',
      `The Idempotency-Key ${key} went with another patch of this product. Nothing was changed: send this one with a key of its own.`,
    );
  return row !== null;
}

const changesPictures = (operations: readonly Operation[]): boolean =>
  operations.some(({ path }) => /^\/(areas|variants|pictures)\b/.test(path));

/** Throws `document-invalid` with all faults. */
export function refuseFaults(document: unknown): asserts document is ProductDocument {
  const faults = checkDocument(document);
  if (faults.length === 0) return;
  const told = faults.map((one: DocumentFault) => `${one.path} ${one.says}`);
  throw new TypicaError(
    'invalid',
    'document-invalid',
    `The product would be invalid: ${andMore(told, 3, { join: '; ' })}.`,
    { faults },
  );
}

/** The product's document with the patch laid over what others have changed since `revision`. */
async function laidOver(
  db: Database,
  product: Product,
  revision: number,
  operations: readonly Operation[],
): Promise<ProductDocument> {
  if (revision === product.revision) return applyPatch(product.document, operations);
  const { base, by } = await baseOf(db, product, revision);
  const yours: unknown = applyPatch(base, operations);
  refuseFaults(yours);
  const { document, conflicts } = mergeDocuments(base, product.document, yours);
  const all = [...conflicts, ...testsThatFail(base, product.document, operations)];
  if (all.length === 0) return document;
  throw new TypicaError(
    'conflict',
    'revision-conflict',
    'Someone else changed the same thing since you loaded it. Nothing was overwritten: compare both and choose.',
    { revision: product.revision, conflicts: all, by },
  );
}

/** Places that the patch wants to find as they were, and that are another way now. */
const testsThatFail = (base: unknown, now: unknown, operations: readonly Operation[]): PatchConflict[] =>
  operations.flatMap((operation) => {
    if (operation.op !== 'test') return [];
    const { path, value } = operation;
    const theirs = valueAt(now, path);
    return sameJson(valueAt(base, path), theirs) || sameJson(theirs, value)
      ? []
      : [{ path, base: valueAt(base, path), theirs, yours: value }];
  });

/** The document as it was at a revision, and who changed it last. Throws `revision-unknown` or `revision-too-old`. */
async function baseOf(
  db: Database,
  product: Product,
  revision: number,
): Promise<{ base: ProductDocument; by: string | null }> {
  if (revision > product.revision)
    throw new TypicaError(
      'conflict',
      'revision-unknown',
      `Revision ${revision} does not exist; the newest is ${product.revision}. Load the product again and repeat the change.`,
      { revision: product.revision },
    );
  const since = await revisionsSince(db, product.id, revision);
  if (since === null) {
    throw new TypicaError(
      'conflict',
      'revision-too-old',
      `Revision ${revision} is no longer kept singly; load the product again and repeat the change.`,
      { revision: product.revision },
    );
  }
  const base = since
    .toReversed()
    .reduce<ProductDocument>((document, row) => applyPatch(document, row.undo, KEPT), product.document);
  return { base, by: since.at(-1)?.by ?? null };
}
