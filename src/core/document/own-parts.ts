import { ownEntry } from '../own-entry';
import { count } from '../words/count';
import type { ProductDocument } from './document';
import { leftOutOf, offerAll } from './offered';
import { followShades } from './own-shades';
import { joinListings, soldListings } from './split';

/** Parts of a product that a store can have of its own. */
export type OwnPart = 'variants' | 'listings' | 'price' | 'words' | 'pictures' | 'shades';

/** What a store has of its own, as it is told. */
export interface OwnHere {
  readonly part: OwnPart;
  readonly says: string;
}

const WORDS: { readonly [field: string]: string } = {
  title: 'title',
  description: 'description',
  tags: 'tags',
  highlights: 'highlights',
  pageAddress: 'page address',
  seoTitle: 'search title',
  seoDescription: 'search description',
};

const listed = (names: readonly string[]): string =>
  names.length < 2 ? names.join('') : `${names.slice(0, -1).join(', ')} and ${names.at(-1)!}`;

/** What differs in a store from the product, in the order of the docket. */
export function ownParts(doc: ProductDocument, storeId: string): OwnHere[] {
  const without = leftOutOf(doc, storeId).length;
  const split = ownEntry(doc.split, storeId);
  const plan = ownEntry(doc.price.stores, storeId) ?? {};
  const hasPlan = Object.entries(plan).some(
    ([name, own]) => name !== 'variants' || Object.keys(own as object).length > 0,
  );
  const words = Object.keys(ownEntry(doc.words.stores, storeId) ?? {}).map((field) => ownEntry(WORDS, field) ?? field);
  const pictures = Object.keys(ownEntry(doc.pictures.stores, storeId) ?? {}).length;
  const shades = Object.keys(ownEntry(doc.shades, storeId) ?? {}).length;
  return [
    ...(without > 0 ? [{ part: 'variants' as const, says: `${count(without, 'variant')} left out` }] : []),
    ...(split ? [{ part: 'listings' as const, says: count(soldListings(doc, storeId).length, 'listing') }] : []),
    ...(hasPlan ? [{ part: 'price' as const, says: 'own prices' }] : []),
    ...(words.length > 0 ? [{ part: 'words' as const, says: `own ${listed(words)}` }] : []),
    ...(pictures > 0 ? [{ part: 'pictures' as const, says: count(pictures, 'own picture') }] : []),
    ...(shades > 0 ? [{ part: 'shades' as const, says: `own names for ${count(shades, 'color')}` }] : []),
  ];
}

function withoutStore<T>(
  stores: { readonly [storeId: string]: T },
  storeId: string,
): { readonly [storeId: string]: T } {
  const { [storeId]: _own, ...others } = stores;
  return others;
}

/** Gives a part back: the store follows the product in it again. */
export function followProduct(doc: ProductDocument, storeId: string, part: OwnPart): ProductDocument {
  if (part === 'variants') return offerAll(doc, storeId);
  if (part === 'listings') return joinListings(doc, storeId);
  if (part === 'shades') return followShades(doc, storeId);
  const own = doc[part];
  return { ...doc, [part]: { ...own, stores: withoutStore<unknown>(own.stores, storeId) } };
}
