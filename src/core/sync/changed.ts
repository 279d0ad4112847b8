import type { ListingForm } from '../listing/form';
import { compare } from './merge';
import { treeOf } from './tree';

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

const FIELD_OF_VARIANT: ReadonlyMap<string, ChangedKind> = new Map([
  ['priceMinor', 'price'],
  ['compareAtMinor', 'price'],
  ['pictureKey', 'pictures'],
]);

/** What kind of field it is, by its JSON pointer. A variant that was added or taken away is a change of variants, not of its price. */
export function kindOfField(field: string): ChangedKind {
  const [, first, , own] = field.split('/');
  return (
    KIND_OF_FIELD.get(first!) ?? (first === 'variants' ? (FIELD_OF_VARIANT.get(own ?? '') ?? 'variants') : 'other')
  );
}

/** Kinds of fields in which a form differs from the one that both sides agreed on, in the order of `CHANGED_KINDS`. */
export function changedKinds(agreed: ListingForm, here: ListingForm): readonly ChangedKind[] {
  const [before, now] = [treeOf(agreed), treeOf(here)];
  const found = new Set(compare({ agreed: before, here: now, there: before }).map(({ field }) => kindOfField(field)));
  return CHANGED_KINDS.filter((kind) => found.has(kind));
}
