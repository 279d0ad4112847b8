import type { Blank } from '@/core/catalog/blank';
import type { ProductDocument } from '@/core/document/document';

/** Chooses or drops variants. Prices fixed for a dropped variant go with it. */
export function setChosen(doc: ProductDocument, keys: readonly string[], chosen: boolean): ProductDocument {
  const variants = { ...doc.variants };
  const prices = { ...doc.price.base.variants };
  for (const key of keys) {
    if (chosen) variants[key] ??= {};
    else {
      delete variants[key];
      delete prices[key];
    }
  }
  return { ...doc, variants, price: { ...doc.price, base: { ...doc.price.base, variants: prices } } };
}

/** Keys of the variants that can be chosen and have these option values; ended ones cannot. */
export function keysWith(blank: Blank, values: { readonly [optionCode: string]: string }): string[] {
  return blank.variants
    .filter((v) => !v.ended && Object.entries(values).every(([code, value]) => v.values[code] === value))
    .map((v) => v.key);
}
