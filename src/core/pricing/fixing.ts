import type { PricePlan, ProductDocument, StorePlan } from '@/core/document/document';
import { MAX_RETAIL_MINOR, mulDiv, PPM } from '@/core/pricing/money';
import type { TermsTo } from '@/core/pricing/floor';
import { priceFor, rounded, type Rounding } from '@/core/pricing/rounding';
import { type Aim } from '@/core/pricing/solve';
import { ownEntry, putEntry } from '../own-entry';

/** Fixes an aim for variants, in the base or for one store; `null` lets them follow what lies under it again. */
export function setAims(
  doc: ProductDocument,
  storeId: string | null,
  keys: readonly string[],
  aim: Aim | null,
): ProductDocument {
  const put = (variants: PricePlan['variants']): PricePlan['variants'] => {
    const next = { ...variants };
    for (const key of keys) {
      if (aim) putEntry(next, key, aim);
      else delete next[key];
    }
    return next;
  };
  if (storeId === null)
    return { ...doc, price: { ...doc.price, base: { ...doc.price.base, variants: put(doc.price.base.variants) } } };
  const own = ownEntry(doc.price.stores, storeId) ?? {};
  return {
    ...doc,
    price: { ...doc.price, stores: { ...doc.price.stores, [storeId]: { ...own, variants: put(own.variants ?? {}) } } },
  };
}

/** Sets one aim for all variants of the base or of a store, over what was fixed for single ones. */
export function setAimForAll(doc: ProductDocument, storeId: string | null, aim: Aim): ProductDocument {
  return setPlan(doc, storeId, { aim, variants: {} });
}

/** Changes parts of the base's or a store's plan. */
export function setPlan(doc: ProductDocument, storeId: string | null, part: StorePlan): ProductDocument {
  if (storeId === null) return { ...doc, price: { ...doc.price, base: { ...doc.price.base, ...part } } };
  return {
    ...doc,
    price: {
      ...doc.price,
      stores: { ...doc.price.stores, [storeId]: { ...ownEntry(doc.price.stores, storeId), ...part } },
    },
  };
}

/** Lets a store follow the base again in everything. */
export function followBase(doc: ProductDocument, storeId: string): ProductDocument {
  const { [storeId]: _gone, ...stores } = doc.price.stores;
  return { ...doc, price: { ...doc.price, stores } };
}

/** A price of a variant as it is. */
interface HasPrice {
  readonly key: string;
  readonly retailMinor: number;
}

/** Fixes prices that are so much higher (below 0: lower) than now, each rounded once and then brought to its ending. */
export function raisePrices(
  doc: ProductDocument,
  storeId: string | null,
  priced: readonly HasPrice[],
  ppm: number,
  rounding: Rounding,
  currency: string,
): ProductDocument {
  return priced.reduce((d, { key, retailMinor }) => {
    const raised = Math.max(1, mulDiv(retailMinor, PPM + ppm, PPM));
    const amountMinor = Math.min(MAX_RETAIL_MINOR, rounded(raised, rounding, currency));
    return setAims(d, storeId, [key], { kind: 'retail', amountMinor });
  }, doc);
}

/** Brings prices that were typed to an ending; those that follow an aim get it from the plan. */
export function roundPrices(
  doc: ProductDocument,
  storeId: string | null,
  priced: readonly (HasPrice & { readonly aim: Aim; readonly follows: boolean })[],
  rounding: Rounding,
  currency: string,
): ProductDocument {
  return priced
    .filter(({ aim, follows }) => aim.kind === 'retail' && !follows)
    .reduce(
      (d, { key, retailMinor }) =>
        setAims(d, storeId, [key], { kind: 'retail', amountMinor: rounded(retailMinor, rounding, currency) }),
      setPlan(doc, storeId, { ending: rounding.ending, way: rounding.way }),
    );
}

/** Lets a store's prices be the base's and so much more; what it had of its own goes. */
export const followWith = (doc: ProductDocument, storeId: string, differencePpm: number): ProductDocument => {
  const { aim: _aim, variants: _variants, ...rest } = ownEntry(doc.price.stores, storeId) ?? {};
  return { ...doc, price: { ...doc.price, stores: { ...doc.price.stores, [storeId]: { ...rest, differencePpm } } } };
};

/** Fixes prices at the lowest with their ending at which nothing is lost to any destination. */
export const raiseToFloors = (
  doc: ProductDocument,
  storeId: string | null,
  priced: readonly (HasPrice & { readonly to: readonly TermsTo[] })[],
  rounding: Rounding,
  currency: string,
): ProductDocument =>
  priced.reduce((d, { key, to }) => {
    const goals = to.map(({ terms }) => [{ terms, weight: 1 }]);
    const { priceMinor } = priceFor(goals, { kind: 'profit', amountMinor: 0 }, { ...rounding, way: 'up' }, currency);
    return setAims(d, storeId, [key], { kind: 'retail', amountMinor: priceMinor });
  }, doc);
