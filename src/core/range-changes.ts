import type { ProductDocument } from './document/document';
import { ownEntry, putEntry } from './own-entry';
import { setAims } from './pricing/fixing';
import { MAX_RETAIL_MINOR, mulDiv, PPM } from './pricing/money';
import { rounded, type Ending, type Rounding, type Way } from './pricing/rounding';

/** What can be done with many products of the range at once. */
export const MANY_KINDS = [
  'check',
  'tag-add',
  'tag-remove',
  'price-rule',
  'raise',
  'ending',
  'archive',
  'delete',
  'duplicate',
] as const;
export type ManyKind = (typeof MANY_KINDS)[number];

/** Those that change prices, and are told price by price. */
export const PRICE_KINDS: ReadonlySet<ManyKind> = new Set(['price-rule', 'raise', 'ending']);

/** What a raise may be, parts per million of the price: to a tenth of it, or ten times as much. */
export const [RAISE_LEAST_PPM, RAISE_MOST_PPM] = [-900_000, 9_000_000];

/** Prices of a product as they are at the base (null) or in a store, with how they end there. */
export interface PricedAt {
  readonly storeId: string | null;
  readonly currency: string;
  readonly rounding: Rounding;
  /** Minor units by variant. */
  readonly prices: ReadonlyMap<string, number>;
}

const same = (a: string, b: string) => a.trim().toLocaleLowerCase('en') === b.trim().toLocaleLowerCase('en');

/** The document without a tag of its words, whatever its letters' case; stores with tags of their own keep them. */
export function withoutTag(doc: ProductDocument, text: string): ProductDocument {
  const { tags } = doc.words.base;
  const left = Object.fromEntries(Object.entries(tags).filter(([, tag]) => !same(tag.text, text)));
  return { ...doc, words: { ...doc.words, base: { ...doc.words.base, tags: left } } };
}

/** The document with another ending of its prices, at the base and in stores that have their own. */
export function withEnding(doc: ProductDocument, ending: Ending, way: Way): ProductDocument {
  // Up is said by saying nothing, so that a product that ends so already is not changed.
  const ends = <P extends Partial<ProductDocument['price']['base']>>({ way: _before, ...plan }: P) => ({
    ...plan,
    ending,
    ...(way === 'up' ? {} : { way }),
  });
  const stores = { ...doc.price.stores };
  for (const [storeId, plan] of Object.entries(stores))
    if (plan.ending !== undefined || plan.way !== undefined) putEntry(stores, storeId, ends(plan));
  return { ...doc, price: { ...doc.price, base: ends(doc.price.base), stores } };
}

/** Whether a store's price of a variant follows the base's price, and rises with it: by a difference, or because the base names a price. */
function follows(doc: ProductDocument, storeId: string, key: string): boolean {
  const plan = ownEntry(doc.price.stores, storeId);
  if (plan?.aim || ownEntry(plan?.variants, key)) return false;
  const { base } = doc.price;
  return plan?.differencePpm !== undefined || (ownEntry(base.variants, key) ?? base.aim).kind === 'retail';
}

/**
 * The document with its prices raised (or lowered, below 0) by a share, each from what it is now and to its ending: at the base, and in each store whose
 * price is not the base's own, which it would no longer reach with its own fees once the base names prices. They are fixed prices from then on,
 * between 1 and the most there can be.
 */
export function raised(doc: ProductDocument, ppm: number, priced: readonly PricedAt[]): ProductDocument {
  let next = doc;
  for (const { storeId, prices, rounding, currency } of priced)
    for (const [key, minor] of prices) {
      if (storeId !== null && follows(doc, storeId, key)) continue;
      const wanted = rounded(mulDiv(minor, PPM + ppm, PPM), rounding, currency);
      const amountMinor = Math.max(1, Math.min(MAX_RETAIL_MINOR, wanted));
      next = setAims(next, storeId, [key], { kind: 'retail', amountMinor });
    }
  return next;
}
