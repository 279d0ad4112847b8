import { parseVariantKey } from '../catalog/blank';
import { ownEntry } from '../own-entry';
import type { ProductDocument, SplitListing, StoreSplit } from './document';
import { leftOutOf } from './offered';

/** The listing that sells whatever no other one of its store does. */
export const FIRST_LISTING = 1;
/** Listings of one product in one store. */
export const MAX_LISTINGS = 20;

/** What becomes one listing. */
export interface ListingGroup {
  readonly values: readonly string[];
  readonly title?: string;
}

const splitOf = (doc: ProductDocument, storeId: string | null): StoreSplit | undefined => ownEntry(doc.split, storeId);

/** The number of the listing of a store that sells a value of the option by which it is split. */
function listingOfValue(split: StoreSplit, valueCode: string | undefined): number {
  if (valueCode === undefined) return FIRST_LISTING;
  const found = Object.entries(split.listings)
    .filter(([, { values }]) => Object.hasOwn(values ?? {}, valueCode))
    .map(([number]) => Number(number));
  return found.length > 0 ? Math.min(...found) : FIRST_LISTING;
}

const listingOfKey = (split: StoreSplit, variantKey: string): number =>
  listingOfValue(split, ownEntry(parseVariantKey(variantKey), split.option));

/** Numbers of the listings in which a store sells the product, in order: those that sell nothing are none. Without a split, and of nothing, it is the first. */
export function soldListings(doc: ProductDocument, storeId: string | null): number[] {
  const split = splitOf(doc, storeId);
  if (!split) return [FIRST_LISTING];
  const without = new Set(leftOutOf(doc, storeId));
  const sold = new Set(
    Object.keys(doc.variants)
      .filter((key) => !without.has(key))
      .map((key) => listingOfKey(split, key)),
  );
  return sold.size > 0 ? [...sold].sort((a, b) => a - b) : [FIRST_LISTING];
}

/** The product as one listing of a store has it: its variants and its title. What the store leaves out is still in it. */
export function asListed(doc: ProductDocument, storeId: string | null, number: number): ProductDocument {
  const split = splitOf(doc, storeId);
  if (!split || storeId === null) return doc;
  const variants = Object.fromEntries(
    Object.entries(doc.variants).filter(([key]) => listingOfKey(split, key) === number),
  );
  const title = ownEntry(split.listings, String(number))?.title;
  if (title === undefined) return { ...doc, variants };
  const own = { ...ownEntry(doc.words.stores, storeId), title };
  return { ...doc, variants, words: { ...doc.words, stores: { ...doc.words.stores, [storeId]: own } } };
}

function withSplit(doc: ProductDocument, storeId: string, own: StoreSplit | null): ProductDocument {
  const { split: before, ...rest } = doc;
  const { [storeId]: _own, ...others } = before ?? {};
  const split = own ? { ...others, [storeId]: own } : others;
  return Object.keys(split).length > 0 ? { ...rest, split } : rest;
}

/** Sells a product in one listing for each group; the first also sells what is in none. */
export function splitInto(
  doc: ProductDocument,
  storeId: string,
  option: string,
  groups: readonly ListingGroup[],
): ProductDocument {
  const listings = groups.slice(0, MAX_LISTINGS).map(({ values, title }, i): [string, SplitListing] => [
    String(i + 1),
    {
      ...(i === 0 ? {} : { values: Object.fromEntries(values.map((code) => [code, true])) }),
      ...(title === undefined ? {} : { title }),
    },
  ]);
  return withSplit(doc, storeId, listings.length > 1 ? { option, listings: Object.fromEntries(listings) } : null);
}

/** Sells all of it in one listing again. */
export const joinListings = (doc: ProductDocument, storeId: string): ProductDocument => withSplit(doc, storeId, null);

/** Moves a value of the option into another listing of the store; a number that is not there yet begins one. */
export function moveToListing(
  doc: ProductDocument,
  storeId: string,
  valueCode: string,
  number: number,
): ProductDocument {
  const split = splitOf(doc, storeId);
  if (!split) return doc;
  const without = Object.entries(split.listings).map(([one, listing]): [string, SplitListing] => {
    const { [valueCode]: _moved, ...values } = listing.values ?? {};
    return [one, listing.values ? { ...listing, values } : listing];
  });
  const listings: { readonly [one: string]: SplitListing } = Object.fromEntries(without);
  if (number === FIRST_LISTING) return withSplit(doc, storeId, { ...split, listings });
  const own = ownEntry(listings, String(number)) ?? {};
  const values = { ...own.values, [valueCode]: true as const };
  return withSplit(doc, storeId, { ...split, listings: { ...listings, [String(number)]: { ...own, values } } });
}

/** Gives a listing a title of its own; an empty one gives back the product's. */
export function titleListing(doc: ProductDocument, storeId: string, number: number, title: string): ProductDocument {
  const split = splitOf(doc, storeId);
  if (!split) return doc;
  const { title: _before, ...rest } = ownEntry(split.listings, String(number)) ?? {};
  const listing = title.trim() === '' ? rest : { ...rest, title: title.trim() };
  return withSplit(doc, storeId, { ...split, listings: { ...split.listings, [String(number)]: listing } });
}

/** Whether a listing has a title of its own. */
export const hasOwnTitle = (doc: ProductDocument, storeId: string, number: number): boolean =>
  ownEntry(splitOf(doc, storeId)?.listings, String(number))?.title !== undefined;
