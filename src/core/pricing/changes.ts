import type { Bundle, PricePlan, ProductDocument, StorePlan } from '../document/document';
import { inOrder } from '../order-key';
import { ownEntry } from '../own-entry';
import { bundledKey } from './bundle';

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
  readonly what: (typeof PARTS)[number] | 'items';
  /** As JSON; null for none. */
  readonly was: string | null;
  readonly now: string | null;
}

const text = (value: unknown): string | null => (value === undefined || value === null ? null : JSON.stringify(value));
/** JSON with its members in order, so that the same aim reads the same. */
const told = (value: unknown): string | null =>
  typeof value === 'object' && value !== null && !Array.isArray(value)
    ? JSON.stringify(value, Object.keys(value).sort())
    : text(value);

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

/** A bundle in a change: it is of all variants of the product. */
export const bundleWildcard = (bundleId: string): string => bundledKey('*', bundleId);

/** What of bundles differs: what they are to reach, in the base and in each store, and what is in them. */
function ofBundles(before: ProductDocument['bundles'], after: ProductDocument['bundles']): PriceChange[] {
  const changes: PriceChange[] = [];
  const ids = new Set([before, after].flatMap((bundles) => Object.keys(bundles?.entries ?? {})));
  for (const id of [...ids].sort()) {
    const [was, is] = [ownEntry(before?.entries, id), ownEntry(after?.entries, id)];
    const add = (storeId: string | null, what: PriceChange['what'], a: unknown, b: unknown) => {
      const [from, to] = [told(a), told(b)];
      if (from !== to) changes.push({ storeId, variantKey: bundleWildcard(id), what, was: from, now: to });
    };
    const inside = (bundle: Bundle | undefined) =>
      bundle &&
      inOrder(bundle.items).map(([, { productId, variantKey, quantity }]) => [productId, variantKey, quantity]);
    add(null, 'aim', was?.aim, is?.aim);
    add(null, 'items', inside(was), inside(is));
    for (const storeId of new Set([was, is].flatMap((bundle) => Object.keys(bundle?.stores ?? {}))))
      add(storeId, 'aim', ownEntry(was?.stores, storeId), ownEntry(is?.stores, storeId));
  }
  return changes;
}

type Priced = Pick<ProductDocument, 'price' | 'bundles'>;

/** What of prices differs between two documents: in the base, in each store, and of bundles. */
export function priceChanges({ price: before, ...was }: Priced, { price: after, ...is }: Priced): PriceChange[] {
  const stores = new Set([...Object.keys(before.stores), ...Object.keys(after.stores)]);
  return [
    ...between(null, before.base, after.base),
    ...[...stores].sort().flatMap((id) => between(id, ownEntry(before.stores, id), ownEntry(after.stores, id))),
    ...ofBundles(was.bundles, is.bundles),
  ];
}
