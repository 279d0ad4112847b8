import type { PricePlan, ProductDocument } from '@/core/document/document';
import type { Aim } from '@/core/pricing/solve';

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
      if (aim) next[key] = aim;
      else delete next[key];
    }
    return next;
  };
  if (storeId === null)
    return { ...doc, price: { ...doc.price, base: { ...doc.price.base, variants: put(doc.price.base.variants) } } };
  const own = doc.price.stores[storeId] ?? {};
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
export function setPlan(doc: ProductDocument, storeId: string | null, part: Partial<PricePlan>): ProductDocument {
  if (storeId === null) return { ...doc, price: { ...doc.price, base: { ...doc.price.base, ...part } } };
  return {
    ...doc,
    price: { ...doc.price, stores: { ...doc.price.stores, [storeId]: { ...doc.price.stores[storeId], ...part } } },
  };
}

/** Lets a store follow the base again in everything. */
export function followBase(doc: ProductDocument, storeId: string): ProductDocument {
  const { [storeId]: _gone, ...stores } = doc.price.stores;
  return { ...doc, price: { ...doc.price, stores } };
}
