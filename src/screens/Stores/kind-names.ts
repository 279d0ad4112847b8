import type { ChangedKind } from '@/core/sync/changed';

/** Kinds of fields, as a person reads them. */
export const KIND_NAMES: { readonly [kind in ChangedKind]: string } = {
  words: 'Words',
  price: 'Prices',
  variants: 'Variants, options, SKUs',
  pictures: 'Pictures',
  shipping: 'Shipping',
  category: 'Category and what it asks',
  other: 'All else',
};
