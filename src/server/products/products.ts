import type { Blank } from '@/core/catalog/blank';
import { invalid, notFound, TypicaError } from '@/core/errors';
import { checkDocument } from '@/core/document/check';
import { newDocument, type ProductDocument } from '@/core/document/document';
import { withRule } from '@/core/pricing/rule';
import { applyPatch, diff, findConflicts, KEPT, touchedPaths, type Operation } from '@/core/document/patch';
import type { Context } from '../context';
import { newId } from '../db/ids';
import type { Database } from '../db/pool';
import { emit } from '../events/events';
import type { Actor } from '../people/people';
import { refuseOver } from '../quotas/quotas';
import { renewPictures } from '../pictures/renew';
import { notePriceChanges } from '../pricing/history';
import { ruleForNew } from '../pricing/rules';
import { revisionsSince } from './revisions';
import { checkReferences } from './references';
import { loadSearchWorld, writeSearchRows } from './search-rows';

export interface Product {
  readonly id: string;
  readonly workspaceId: string;
  readonly blankId: string;
  readonly title: string;
  readonly revision: number;
  readonly document: ProductDocument;
  readonly createdAt: Date;
  readonly updatedAt: Date;
}

const COLUMNS =
  'id, workspace_id AS workspaceId, blank_id AS blankId, title, revision, document, created_at AS createdAt, updated_at AS updatedAt';

export async function findProduct(ctx: Context, workspaceId: string, id: string): Promise<Product> {
  const row = await ctx.db.row<Product>(
    `SELECT ${COLUMNS} FROM product WHERE id = ? AND workspace_id = ? AND archived_at IS NULL`,
    [id, workspaceId],
  );
  if (!row) throw notFound('product', id);
  return row;
}

export const listProducts = (ctx: Context, workspaceId: string, limit = 200, offset = 0): Promise<Product[]> =>
  ctx.db.rows<Product>(
    `SELECT ${COLUMNS} FROM product WHERE workspace_id = ? AND archived_at IS NULL ORDER BY updated_at DESC, id LIMIT ? OFFSET ?`,
    [workspaceId, limit, offset],
  );

/** A variant that a new product has from the start. */
export interface NewVariant {
  readonly key: string;
  readonly sku?: string;
  readonly retailMinor?: number;
}

/** Puts variants with their SKUs and prices into a document. Throws `variant-unknown`, `variant-twice` or `sku-twice`. */
function withVariants(document: ProductDocument, blank: Blank, variants: readonly NewVariant[]): ProductDocument {
  const known = new Set(blank.variants.map((variant) => variant.key));
  const keys = new Set<string>();
  const skus = new Set<string>();
  for (const { key, sku } of variants) {
    if (!known.has(key)) throw invalid('variant-unknown', `${blank.name} has no variant "${key}".`, { key });
    if (keys.has(key)) throw invalid('variant-twice', `The variant "${key}" is named twice.`, { key });
    if (sku !== undefined && skus.has(sku))
      throw invalid('sku-twice', `The SKU "${sku}" is given to two variants; each needs its own.`, { sku });
    keys.add(key);
    if (sku !== undefined) skus.add(sku);
  }
  const prices = variants.flatMap(({ key, retailMinor }) =>
    retailMinor === undefined ? [] : [[key, { kind: 'retail', amountMinor: retailMinor }] as const],
  );
  return {
    ...document,
    variants: Object.fromEntries(variants.map(({ key, sku }) => [key, sku === undefined ? {} : { sku }])),
    price: { ...document.price, base: { ...document.price.base, variants: Object.fromEntries(prices) } },
  };
}

/** A title on one line: a line break would be refused in the document. */
export const oneLine = (title: string | undefined): string => (title ?? '').replace(/\p{Cc}+/gu, ' ').trim();

/** A new product on a blank with nothing on it yet, and with the variants that are named. */
export async function createProduct(
  ctx: Context,
  actor: Actor,
  input: { blankId: string; title?: string; variants?: readonly NewVariant[] },
): Promise<Product> {
  const world = await loadSearchWorld(ctx, actor.workspaceId, input.blankId);
  const { blank } = world;
  await refuseOver(ctx, actor.workspaceId, 'products');
  const id = newId('p');
  const plain = newDocument(blank.id, actor.currency, oneLine(input.title) || `New ${blank.name}`);
  const rule = await ruleForNew(ctx, actor.workspaceId);
  const document = withVariants(rule ? withRule(plain, rule) : plain, blank, input.variants ?? []);
  await ctx.pools.transaction(async (db) => {
    await db.run(
      'INSERT INTO product (id, workspace_id, blank_id, title, revision, document) VALUES (?, ?, ?, ?, 1, ?)',
      [id, actor.workspaceId, blank.id, document.words.base.title, JSON.stringify(document)],
    );
    await writeSearchRows(db, { id, workspaceId: actor.workspaceId, document }, world);
  });
  return findProduct(ctx, actor.workspaceId, id);
}

export interface PatchResult {
  readonly revision: number;
  readonly document: ProductDocument;
}

/**
 * Applies an RFC 6902 patch that was made against `revision`. What others have changed since is kept: a patch that touches none of it
 * goes on top; one that does throws `revision-conflict` with both values and nothing is written.
 */
export async function patchProduct(
  ctx: Context,
  actor: Actor,
  id: string,
  revision: number,
  operations: readonly Operation[],
  label = '',
): Promise<PatchResult> {
  const before = await findProduct(ctx, actor.workspaceId, id);
  const world = await loadSearchWorld(ctx, actor.workspaceId, before.blankId);
  return ctx.pools.transaction(async (db) => {
    // The row is locked first, so that two patches of one product go one after the other.
    const product = await db.row<Product>(
      `SELECT ${COLUMNS} FROM product WHERE id = ? AND workspace_id = ? FOR UPDATE`,
      [id, actor.workspaceId],
    );
    if (!product) throw notFound('product', id);
    if (revision > product.revision)
      throw new TypicaError(
        'invalid',
        'revision-unknown',
        `Revision ${revision} does not exist; the newest is ${product.revision}. Load the product again.`,
        { revision: product.revision },
      );
    if (revision < product.revision) await refuseConflicts(db, product, revision, operations);
    const document = applyPatch(product.document, operations);
    const faults = checkDocument(document);
    if (faults.length > 0) {
      throw new TypicaError(
        'invalid',
        'document-invalid',
        `The product would not be whole: ${faults
          .slice(0, 3)
          .map((fault) => `${fault.path} ${fault.says}`)
          .join('; ')}${faults.length > 3 ? ` and ${faults.length - 3} more` : ''}.`,
        { faults },
      );
    }
    await checkReferences(db, product, document, world.blank);
    const forward = diff(product.document, document);
    if (forward.length === 0) return { revision: product.revision, document: product.document };
    const next = product.revision + 1;
    await db.run(
      'UPDATE product SET document = ?, revision = ?, title = ?, updated_at = UTC_TIMESTAMP(3) WHERE id = ?',
      [JSON.stringify(document), next, document.words.base.title, id],
    );
    await db.run(
      'INSERT INTO product_revision (product_id, revision, first_revision, patch, undo_patch, person_id, label) VALUES (?, ?, ?, ?, ?, ?, ?)',
      [
        id,
        next,
        next,
        JSON.stringify(forward),
        JSON.stringify(diff(document, product.document)),
        actor.personId,
        label.slice(0, 120),
      ],
    );
    await notePriceChanges(db, { productId: id, revision: next, personId: actor.personId }, product.document, document);
    await writeSearchRows(db, { id, workspaceId: actor.workspaceId, document }, world);
    if (changesPictures(forward))
      await renewPictures(db, { id, workspaceId: actor.workspaceId, title: document.words.base.title });
    await emit(db, actor.workspaceId, 'product', { productId: id, revision: next, by: actor.personName });
    return { revision: next, document };
  });
}

const changesPictures = (operations: readonly Operation[]): boolean =>
  operations.some(({ path }) => /^\/(areas|variants|pictures)\b/.test(path));

async function refuseConflicts(
  db: Database,
  product: Product,
  revision: number,
  operations: readonly Operation[],
): Promise<void> {
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
    .reduce<unknown>((document, row) => applyPatch(document, row.undo, KEPT), product.document);
  const touched = since.flatMap((row) => touchedPaths(row.patch));
  const conflicts = findConflicts(base, product.document, operations, touched);
  if (conflicts.length > 0) {
    throw new TypicaError(
      'conflict',
      'revision-conflict',
      'Someone else changed the same thing since you loaded it. Nothing was overwritten: compare both and choose.',
      {
        revision: product.revision,
        conflicts,
        by: since.at(-1)?.by ?? null,
      },
    );
  }
}

/** Puts a product away; its listings stay as they are in the shops. */
export async function archiveProduct(ctx: Context, actor: Actor, id: string): Promise<void> {
  const { affectedRows } = await ctx.db.run(
    'UPDATE product SET archived_at = UTC_TIMESTAMP(3) WHERE id = ? AND workspace_id = ? AND archived_at IS NULL',
    [id, actor.workspaceId],
  );
  if (affectedRows === 0) throw notFound('product', id);
}
