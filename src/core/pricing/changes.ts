import type { PricePlan, ProductDocument, StorePlan } from '../document/document';
import { ownEntry } from '../own-entry';

const PARTS = [
  'aim',
  'ending',
  'way',
  'leastMinor',
  'mostMinor',
  'shipping',
  'freeFromMinor',
  'insert',
  'differencePpm',
  'notTo',
] as const;

/** One thing that a person fixed about prices: where, for which variant (`*`: all), what, and what it was before. */
export interface PriceChange {
  readonly storeId: string | null;
  readonly variantKey: string;
  readonly what: (typeof PARTS)[number];
  /** As JSON; null for none. */
  readonly was: string | null;
  readonly now: string | null;
}

const text = (value: unknown): string | null => (value === undefined || value === null ? null : JSON.stringify(value));
/** JSON with its members in order, so that the same aim reads the same. */
const told = (value: unknown): string | null =>
  typeof value === 'object' && value !== null ? JSON.stringify(value, Object.keys(value).sort()) : text(value);

function between(storeId: string | null, before: StorePlan | undefined, after: StorePlan | undefined): PriceChange[] {
  const changes: PriceChange[] = [];
  const add = (variantKey: string, what: PriceChange['what'], a: unknown, b: unknown) => {
    const [was, now] = [told(a), told(b)];
    if (was !== now) changes.push({ storeId, variantKey, what, was, now });
  };
  for (const what of PARTS) add('*', what, before?.[what], after?.[what]);
  const single = (plan: StorePlan | undefined): PricePlan['variants'] => plan?.variants ?? {};
  for (const key of new Set([...Object.keys(single(before)), ...Object.keys(single(after))]))
    add(key, 'aim', ownEntry(single(before), key), ownEntry(single(after), key));
  return changes;
}

/** What of prices differs between two documents, in the base and in each store. */
export function priceChanges(before: ProductDocument['price'], after: ProductDocument['price']): PriceChange[] {
  const stores = new Set([...Object.keys(before.stores), ...Object.keys(after.stores)]);
  return [
    ...between(null, before.base, after.base),
    ...[...stores].sort().flatMap((id) => between(id, ownEntry(before.stores, id), ownEntry(after.stores, id))),
  ];
}
