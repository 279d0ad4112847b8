import { compareThreeWays } from './compare';

/** Kinds of fields of a listing, as a person counts what changed. */
export const CHANGED_KINDS = ['words', 'price', 'variants', 'pictures', 'shipping', 'category', 'other'] as const;
export type ChangedKind = (typeof CHANGED_KINDS)[number];

const KIND_OF_FIELD: ReadonlyMap<string, ChangedKind> = new Map([
  ['title', 'words'],
  ['description', 'words'],
  ['tags', 'words'],
  ['highlights', 'words'],
  ['seo', 'words'],
  ['pageAddress', 'words'],
  ['collections', 'words'],
  ['options', 'variants'],
  ['pictures', 'pictures'],
  ['shipping', 'shipping'],
  ['category', 'category'],
  ['attributes', 'category'],
]);

const PRICES = new Set(['priceMinor', 'compareAtMinor']);

function kindOf(field: string): ChangedKind {
  const [first] = field.split('.', 1);
  if (first !== 'variants') return KIND_OF_FIELD.get(first!) ?? 'other';
  const last = field.slice(field.lastIndexOf('.') + 1);
  return PRICES.has(last) ? 'price' : last === 'pictureKey' ? 'pictures' : 'variants';
}

/**
 * Kinds of fields in which a form differs from the one that both sides agreed on, in the order of `CHANGED_KINDS`. A variant that was added
 * or taken away is a change of variants, not of its price.
 */
export function changedKinds(
  agreed: { readonly variants: object },
  here: { readonly variants: object },
): readonly ChangedKind[] {
  const both = new Set(Object.keys(agreed.variants).filter((key) => Object.hasOwn(here.variants, key)));
  const common = <F extends { readonly variants: object }>(form: F) => ({
    ...form,
    variants: Object.fromEntries(Object.entries(form.variants).filter(([key]) => both.has(key))),
  });
  const found = new Set(
    compareThreeWays(common(agreed), common(here), common(agreed)).map(({ field }) => kindOf(field)),
  );
  const sizes = [agreed, here].map(({ variants }) => Object.keys(variants).length);
  if (sizes.some((size) => size !== both.size)) found.add('variants');
  return CHANGED_KINDS.filter((kind) => found.has(kind));
}
