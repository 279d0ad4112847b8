import type { Blank } from '@/core/catalog/blank';
import type { ProductDocument } from '@/core/document/document';
import { ownEntry, putEntry } from '../own-entry';

/** Chooses or drops variants. Prices fixed for a dropped variant go with it. */
export function setChosen(doc: ProductDocument, keys: readonly string[], chosen: boolean): ProductDocument {
  const variants = { ...doc.variants };
  for (const key of keys) {
    if (chosen) putEntry(variants, key, ownEntry(variants, key) ?? {});
    else delete variants[key];
  }
  if (chosen) return { ...doc, variants };
  const gone = new Set(keys);
  const kept = <T>(prices: { readonly [key: string]: T }) =>
    Object.fromEntries(Object.entries(prices).filter(([key]) => !gone.has(key)));
  const { base, stores } = doc.price;
  // Chosen again later they are sold everywhere.
  const { leftOut, ...rest } = doc;
  const stillLeftOut = Object.entries(leftOut ?? {}).flatMap(([id, own]) => {
    const left = kept(own);
    return Object.keys(left).length > 0 ? [[id, left] as const] : [];
  });
  return {
    ...rest,
    ...(stillLeftOut.length > 0 ? { leftOut: Object.fromEntries(stillLeftOut) } : {}),
    variants,
    price: {
      ...doc.price,
      base: { ...base, variants: kept(base.variants) },
      stores: Object.fromEntries(
        Object.entries(stores).map(([id, plan]) => [
          id,
          plan.variants ? { ...plan, variants: kept(plan.variants) } : plan,
        ]),
      ),
    },
  };
}

/** Keys of the variants that can be chosen and have these option values; ended ones cannot. */
export function keysWith(blank: Blank, values: { readonly [optionCode: string]: string }): string[] {
  return blank.variants
    .filter((v) => !v.ended && Object.entries(values).every(([code, value]) => ownEntry(v.values, code) === value))
    .map((v) => v.key);
}

/** Puts SKUs and GTINs onto variants; an empty one takes it away, so that the pattern holds again. */
export function setCodes(
  doc: ProductDocument,
  changes: readonly { readonly variantKey: string; readonly sku?: string; readonly gtin?: string }[],
): ProductDocument {
  const variants = { ...doc.variants };
  for (const { variantKey, sku, gtin } of changes) {
    const { sku: _sku, gtin: _gtin, ...rest } = ownEntry(variants, variantKey) ?? {};
    const [nextSku, nextGtin] = [sku ?? _sku, gtin ?? _gtin];
    putEntry(variants, variantKey, {
      ...rest,
      ...(nextSku ? { sku: nextSku } : {}),
      ...(nextGtin ? { gtin: nextGtin } : {}),
    });
  }
  return { ...doc, variants };
}
