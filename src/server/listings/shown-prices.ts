import type { ListingForm } from '@/core/listing/form';
import {
  EDIT_CAUSES,
  newlyShown,
  NO_SALE,
  noLonger,
  priceTerms,
  type PriceCause,
  type PriceEdit,
  type PriceTerms,
  type ShownPrice,
} from '@/core/listing/shown-prices';
import type { Context } from '../context';
import type { Database, Value } from '../db/pool';
import type { ProductBundle } from '../products/bundle';
import { outletOf, type Store } from '../stores/stores';
import type { ListingRow } from './listings';
import { salesAt } from './prepare';

/** What a listing is sent from: its product at a revision, and what its prices are made of. `terms` null: a sale was taken back, all else stays. */
export interface SentFrom {
  readonly document: ProductBundle['product']['document'];
  readonly terms: PriceTerms | null;
}

/** What the prices of a product in a store are made from now. */
export function sentFrom(ctx: Context, bundle: ProductBundle, store: Store): SentFrom {
  const outlet = outletOf(ctx, store);
  const { product } = bundle;
  return {
    document: product.document,
    terms: priceTerms(product, { ...bundle, outlet, sales: salesAt(bundle, outlet) }),
  };
}

/** Edits beyond this number name their causes no more exactly than those before them. */
const MAX_EDITS = 5000;

interface Edit extends PriceEdit {
  readonly personId: string;
}

const editsBetween = (db: Database, productId: string, from: number, to: number): Promise<Edit[]> =>
  db.rows<Edit>(
    `SELECT store_id AS storeId, variant_key AS variantKey, cause, person_id AS personId FROM price_change
     WHERE product_id = ? AND revision > ? AND revision <= ? ORDER BY id DESC LIMIT ?`,
    [productId, from, to, MAX_EDITS],
  );

const EDITS: ReadonlySet<PriceCause> = new Set(EDIT_CAUSES);

/** Writes down which prices a shop shows from now on, in the transaction in which both sides agree on them. `row` is as it was before that. */
export async function recordShownPrices(
  db: Database,
  row: ListingRow,
  form: ListingForm,
  from: SentFrom,
): Promise<void> {
  const kept = await db.row<{ terms: PriceTerms | null }>('SELECT shown_terms AS terms FROM listing WHERE id = ?', [
    row.id,
  ]);
  const before =
    kept?.terms && row.agreedForm ? { terms: kept.terms, form: JSON.parse(row.agreedForm) as ListingForm } : null;
  const terms = from.terms ?? (before && { ...before.terms, sale: NO_SALE });
  if (!terms) return;
  const edits = before ? await editsBetween(db, row.productId, before.terms.revision, terms.revision) : [];
  const { document } = from;
  const shown = newlyShown(before, { form, terms }, { document, storeId: row.storeId, edits });
  await saveShown(db, row, form.currency, shown, edits[0]?.personId ?? null);
  await db.run('UPDATE listing SET shown_terms = ? WHERE id = ?', [JSON.stringify(terms), row.id]);
}

/** Writes down that a shop shows nothing of a listing any longer: it was deleted there. */
export async function recordShownNoLonger(db: Database, row: ListingRow): Promise<void> {
  if (!row.agreedForm) return;
  const form = JSON.parse(row.agreedForm) as ListingForm;
  await saveShown(db, row, form.currency, noLonger(form, null), null);
  await db.run('UPDATE listing SET shown_terms = NULL WHERE id = ?', [row.id]);
}

/** Without what this listing shows no longer and another one of the product there does. */
async function notElsewhere(
  db: Database,
  { id, productId, storeId }: ListingRow,
  shown: readonly ShownPrice[],
): Promise<readonly ShownPrice[]> {
  const isGone = ({ causes }: ShownPrice) => causes.includes('gone');
  if (!shown.some(isGone)) return shown;
  const others = await db.rows<{ form: string }>(
    'SELECT agreed_form AS form FROM listing WHERE product_id = ? AND store_id = ? AND id <> ? AND agreed_form IS NOT NULL',
    [productId, storeId, id],
  );
  const there = new Set(others.flatMap(({ form }) => Object.keys((JSON.parse(form) as ListingForm).variants)));
  return shown.filter((one) => !isGone(one) || !there.has(one.variantKey));
}

async function saveShown(
  db: Database,
  row: ListingRow,
  currency: string,
  changed: readonly ShownPrice[],
  editor: string | null,
): Promise<void> {
  const { productId, storeId } = row;
  const shown = await notElsewhere(db, row, changed);
  if (shown.length === 0) return;
  const [{ now } = { now: new Date() }] = await db.rows<{ now: Date }>('SELECT UTC_TIMESTAMP(3) AS now');
  await db.insertMany(
    'shown_price',
    [
      'product_id',
      'store_id',
      'variant_key',
      'price_minor',
      'compare_at_minor',
      'currency',
      'causes',
      'person_id',
      'shown_at',
    ],
    shown.map(({ variantKey, priceMinor, compareAtMinor, causes }): Value[] => [
      productId,
      storeId,
      variantKey,
      priceMinor,
      compareAtMinor,
      currency,
      causes.join(','),
      causes.some((cause) => EDITS.has(cause)) ? editor : null,
      now,
    ]),
  );
}

export interface ShownQuery {
  readonly store: string | null;
  readonly variant: string | null;
  readonly person: string | null;
  readonly cause: PriceCause | null;
  readonly before: number | null;
  readonly limit: number;
}

/** Changes that are told at once. */
export const MAX_SHOWN = 500;

/** A price that a shop showed from `at` on, until the next one of its variant there. */
export interface NotedShownPrice extends ShownPrice {
  readonly id: number;
  readonly storeId: string;
  readonly currency: string;
  readonly personId: string | null;
  /** Whose edit it was; null where nobody edited. */
  readonly by: string | null;
  readonly at: Date;
}

/** What shops showed of a product, newest first, a page at a time down to the first. */
export async function shownPrices(ctx: Context, productId: string, query: ShownQuery): Promise<NotedShownPrice[]> {
  const { store, variant, person, cause, before, limit } = query;
  const only: string[] = [];
  const values: Value[] = [];
  const where = (sql: string, value: Value) => {
    if (value === null) return;
    only.push(`AND ${sql}`);
    values.push(value);
  };
  where('s.store_id = ?', store);
  where('s.variant_key = ?', variant);
  where('s.person_id = ?', person);
  where('FIND_IN_SET(?, s.causes)', cause);
  where('s.id < ?', before);
  const rows = await ctx.db.rows<Omit<NotedShownPrice, 'causes'> & { causes: string }>(
    `SELECT s.id, s.store_id AS storeId, s.variant_key AS variantKey, s.price_minor AS priceMinor, s.compare_at_minor AS compareAtMinor, s.currency,
       s.causes, s.person_id AS personId, p.name AS \`by\`, s.shown_at AS at
     FROM shown_price s LEFT JOIN person p ON p.id = s.person_id WHERE s.product_id = ? ${only.join(' ')} ORDER BY s.id DESC LIMIT ?`,
    [productId, ...values, limit],
  );
  return rows.map((row) => ({ ...row, causes: row.causes.split(',') as PriceCause[] }));
}
