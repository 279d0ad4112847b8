import type { PricePlan, ProductDocument, StorePlan } from '@/core/document/document';
import { mulDiv, PPM } from '@/core/pricing/money';
import { MAX_RETAIL_MINOR, withEnding, type Aim, type Ending } from '@/core/pricing/solve';
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
  readonly quote: { readonly retailMinor: number };
}

/** Fixes prices that are so much higher (below 0: lower) than now, each rounded once and then up to the ending. */
export function raisePrices(
  doc: ProductDocument,
  storeId: string | null,
  priced: readonly HasPrice[],
  ppm: number,
  ending: Ending,
  currency: string,
): ProductDocument {
  return priced.reduce((d, { key, quote }) => {
    const raised = Math.max(1, mulDiv(quote.retailMinor, PPM + ppm, PPM));
    const amountMinor = Math.min(MAX_RETAIL_MINOR, withEnding(raised, ending, currency));
    return setAims(d, storeId, [key], { kind: 'retail', amountMinor });
  }, doc);
}

/** Rounds prices that were typed up to an ending; those that follow an aim get it from the plan. */
export function roundPrices(
  doc: ProductDocument,
  storeId: string | null,
  priced: readonly (HasPrice & { readonly aim: Aim; readonly follows: boolean })[],
  ending: Ending,
  currency: string,
): ProductDocument {
  return priced
    .filter(({ aim, follows }) => aim.kind === 'retail' && !follows)
    .reduce(
      (d, { key, quote }) =>
        setAims(d, storeId, [key], { kind: 'retail', amountMinor: withEnding(quote.retailMinor, ending, currency) }),
      setPlan(doc, storeId, { ending }),
    );
}

/** Lets a store's prices be the base's and so much more; what it had of its own goes. */
export const followWith = (doc: ProductDocument, storeId: string, differencePpm: number): ProductDocument => {
  const { aim: _aim, variants: _variants, ...rest } = ownEntry(doc.price.stores, storeId) ?? {};
  return { ...doc, price: { ...doc.price, stores: { ...doc.price.stores, [storeId]: { ...rest, differencePpm } } } };
};
