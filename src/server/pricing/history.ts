import type { ProductDocument } from '@/core/document/document';
import { priceChanges, type PriceChange } from '@/core/pricing/changes';
import type { Context } from '../context';
import type { Database } from '../db/pool';

/** Writes down what a revision changed about prices, in its transaction. */
export async function notePriceChanges(
  db: Database,
  by: { readonly productId: string; readonly revision: number; readonly personId: string },
  before: ProductDocument,
  after: ProductDocument,
): Promise<void> {
  const changes = priceChanges(before.price, after.price);
  if (changes.length === 0) return;
  await db.insertMany(
    'price_change',
    ['product_id', 'revision', 'store_id', 'variant_key', 'what', 'was', 'now', 'person_id'],
    changes.map((c) => [by.productId, by.revision, c.storeId, c.variantKey, c.what, c.was, c.now, by.personId]),
  );
}

/** A change of prices as the API tells it; values are JSON as in the document. */
export interface NotedPriceChange extends Omit<PriceChange, 'was' | 'now'> {
  readonly was: unknown;
  readonly now: unknown;
  readonly revision: number;
  readonly by: string;
  readonly at: Date;
}

/** Changes of a product's prices, newest first. */
export async function priceHistory(ctx: Context, productId: string, limit = 200): Promise<NotedPriceChange[]> {
  const rows = await ctx.db.rows<PriceChange & { revision: number; by: string; at: Date }>(
    `SELECT c.store_id AS storeId, c.variant_key AS variantKey, c.what, c.was, c.now, c.revision, p.name AS \`by\`, c.changed_at AS at
     FROM price_change c JOIN person p ON p.id = c.person_id WHERE c.product_id = ? ORDER BY c.id DESC LIMIT ?`,
    [productId, limit],
  );
  const read = (json: string | null): unknown => (json === null ? null : (JSON.parse(json) as unknown));
  return rows.map((row) => ({ ...row, was: read(row.was), now: read(row.now) }));
}
