import type { Blank } from '@/core/catalog/blank';
import { invalid, notFound } from '@/core/errors';
import { newDocument, type ProductDocument } from '@/core/document/document';
import { withRule } from '@/core/pricing/rule';
import { loadBlank } from '../catalog/blanks';
import type { Context } from '../context';
import { likely } from '../db/like';
import type { Database } from '../db/pool';
import type { Actor } from '../people/people';
import { refuseOver } from '../quotas/quotas';
import { ruleForNew } from '../pricing/rules';
import { insertProduct } from './insert';
import { writeVariantRowsSoon } from './variant-rows';

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

export const PRODUCT_COLUMNS =
  'id, workspace_id AS workspaceId, blank_id AS blankId, title, revision, document, created_at AS createdAt, updated_at AS updatedAt';

export async function findProduct(ctx: Context, workspaceId: string, id: string): Promise<Product> {
  const row = await ctx.db.row<Product>(
    `SELECT ${PRODUCT_COLUMNS} FROM product WHERE id = ? AND workspace_id = ? AND archived_at IS NULL`,
    [id, workspaceId],
  );
  if (!row) throw notFound('product', id);
  return row;
}

/** Titles of products, by id; those that are not in the workspace are left out. */
export async function titlesOf(
  db: Database,
  workspaceId: string,
  ids: readonly string[],
): Promise<{ [id: string]: string }> {
  if (ids.length === 0) return {};
  const rows = await db.rows<{ id: string; title: string }>(
    `SELECT id, title FROM product WHERE workspace_id = ? AND id IN (${ids.map(() => '?').join(',')})`,
    [workspaceId, ...ids],
  );
  return Object.fromEntries(rows.map(({ id, title }) => [id, title]));
}

/** Products by their ids, in no order; what was put away is left out. */
export async function productsById(db: Database, workspaceId: string, ids: readonly string[]): Promise<Product[]> {
  if (ids.length === 0) return [];
  return db.rows<Product>(
    `SELECT ${PRODUCT_COLUMNS} FROM product WHERE workspace_id = ? AND archived_at IS NULL AND id IN (${ids.map(() => '?').join(',')})`,
    [workspaceId, ...ids],
  );
}

/** A workspace's products whose title holds a text, those changed last first. */
export const productsTitled = (ctx: Context, workspaceId: string, text: string, limit: number): Promise<Product[]> =>
  ctx.db.rows<Product>(
    `SELECT ${PRODUCT_COLUMNS} FROM product WHERE workspace_id = ? AND archived_at IS NULL AND title LIKE ? ORDER BY updated_at DESC, id LIMIT ?`,
    [workspaceId, `%${likely(text)}%`, limit],
  );

/** All of a workspace's products, a page at a time in the order of their ids: those after one. */
export const pageOfProducts = (ctx: Context, workspaceId: string, afterId: string, limit: number): Promise<Product[]> =>
  ctx.db.rows<Product>(
    `SELECT ${PRODUCT_COLUMNS} FROM product WHERE workspace_id = ? AND archived_at IS NULL AND id > ? ORDER BY id LIMIT ?`,
    [workspaceId, afterId, limit],
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
    if (!known.has(key)) throw invalid('variant-unknown', `${blank.name} has no variant “${key}”.`, { key });
    if (keys.has(key)) throw invalid('variant-twice', `The variant “${key}” is named twice.`, { key });
    if (sku !== undefined && skus.has(sku))
      throw invalid('sku-twice', `The SKU “${sku}” is given to two variants; each needs its own.`, { sku });
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
  const blank = await loadBlank(ctx, input.blankId);
  await refuseOver(ctx, actor.workspaceId, 'products');
  const plain = newDocument(blank.id, actor.currency, oneLine(input.title) || `New ${blank.name}`);
  const rule = await ruleForNew(ctx, actor.workspaceId);
  const document = withVariants(rule ? withRule(plain, rule) : plain, blank, input.variants ?? []);
  const id = await ctx.pools.transaction((db) => insertProduct(db, actor, document));
  await writeVariantRowsSoon(ctx, id);
  return findProduct(ctx, actor.workspaceId, id);
}
