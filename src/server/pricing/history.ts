import type { ProductDocument } from '@/core/document/document';
import type { EditCause } from '@/core/listing/shown-prices';
import { priceChanges, type PriceChange } from '@/core/pricing/changes';
import { withRule } from '@/core/pricing/rule';
import { sameJson } from '@/core/json/bounds';
import type { Context } from '../context';
import type { Database } from '../db/pool';
import { listRules } from './rules';

/** Whether a revision is what one of the workspace's price rules makes of the product before it. */
async function isByRule(
  db: Database,
  workspaceId: string,
  before: ProductDocument,
  after: ProductDocument,
): Promise<boolean> {
  const rules = await listRules({ db }, workspaceId);
  return rules.some(({ rule }) => sameJson(withRule(before, rule).price, after.price));
}

/** Writes down what a revision changed about prices, in its transaction. */
export async function recordPriceChanges(
  db: Database,
  by: {
    readonly workspaceId: string;
    readonly productId: string;
    readonly revision: number;
    readonly personId: string;
    readonly cause?: EditCause;
  },
  before: ProductDocument,
  after: ProductDocument,
): Promise<void> {
  const changes = priceChanges(before, after);
  if (changes.length === 0) return;
  const cause = by.cause ?? ((await isByRule(db, by.workspaceId, before, after)) ? 'rule' : 'typed');
  await db.insertMany(
    'price_change',
    ['product_id', 'revision', 'store_id', 'variant_key', 'what', 'was', 'now', 'person_id', 'cause'],
    changes.map((c) => [by.productId, by.revision, c.storeId, c.variantKey, c.what, c.was, c.now, by.personId, cause]),
  );
}

/** Which changes are asked for: those of a store (`base`: for all stores), of a variant or of a person, and those before one. */
export interface HistoryQuery {
  readonly store: string | null;
  readonly variant: string | null;
  readonly person: string | null;
  readonly cause: EditCause | null;
  readonly before: number | null;
  readonly limit: number;
}

/** Changes that are told at once. */
export const MAX_HISTORY = 200;

/** A change of prices as the API tells it; values are JSON as in the document. */
export interface NotedPriceChange extends Omit<PriceChange, 'was' | 'now'> {
  readonly id: number;
  readonly was: unknown;
  readonly now: unknown;
  readonly revision: number;
  readonly by: string;
  readonly cause: EditCause;
  readonly personId: string;
  readonly at: Date;
}

export const NEWEST: HistoryQuery = {
  store: null,
  variant: null,
  person: null,
  cause: null,
  before: null,
  limit: MAX_HISTORY,
};

/** Changes of a product's prices, newest first, a page at a time down to the first one. `*` as variant: what is fixed for all. */
export async function priceHistory(
  ctx: Context,
  productId: string,
  { store, variant, person, cause, before, limit }: HistoryQuery = NEWEST,
): Promise<NotedPriceChange[]> {
  const only: string[] = [];
  const values: (string | number)[] = [];
  const where = (sql: string, value: string | number) => {
    only.push(`AND ${sql}`);
    values.push(value);
  };
  if (before !== null) where('c.id < ?', before);
  if (store === 'base') only.push('AND c.store_id IS NULL');
  else if (store !== null) where('c.store_id = ?', store);
  if (variant !== null) where("c.variant_key IN ('*', ?)", variant);
  if (person !== null) where('c.person_id = ?', person);
  if (cause !== null) where('c.cause = ?', cause);
  const rows = await ctx.db.rows<
    PriceChange & Pick<NotedPriceChange, 'id' | 'revision' | 'by' | 'personId' | 'cause' | 'at'>
  >(
    `SELECT c.id, c.person_id AS personId, c.store_id AS storeId, c.variant_key AS variantKey, c.what, c.was, c.now, c.cause, c.revision, p.name AS \`by\`, c.changed_at AS at
     FROM price_change c JOIN person p ON p.id = c.person_id WHERE c.product_id = ? ${only.join(' ')} ORDER BY c.id DESC LIMIT ?`,
    [productId, ...values, limit],
  );
  const read = (json: string | null): unknown => (json === null ? null : (JSON.parse(json) as unknown));
  return rows.map((row) => ({ ...row, was: read(row.was), now: read(row.now) }));
}
