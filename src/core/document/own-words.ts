import { ownEntry } from '../own-entry';
import type { ProductDocument, Words } from './document';
import { hasOwnTitle, titleListing } from './split';

/** Whether a change is for one store alone, or for all that follows the product. */
export type HoldsWhere = 'store' | 'everywhere';

/** Which listing is meant. */
interface Listed {
  readonly storeId: string;
  readonly number: number;
}

/**
 * The product with other words: a listing that has a title of its own gets a new one of its own. What is for all stores is no longer the store's own,
 * so that it holds there too.
 */
export function setWords(
  doc: ProductDocument,
  { storeId, number }: Listed,
  where: HoldsWhere,
  words: Partial<Words>,
): ProductDocument {
  const { title, ...rest } = words;
  if (title !== undefined && hasOwnTitle(doc, storeId, number)) {
    const titled = titleListing(doc, storeId, number, title);
    return Object.keys(rest).length > 0 ? setWords(titled, { storeId, number }, where, rest) : titled;
  }
  const own = ownEntry(doc.words.stores, storeId) ?? {};
  if (where === 'store') {
    const stores = { ...doc.words.stores, [storeId]: { ...own, ...words } };
    return { ...doc, words: { ...doc.words, stores } };
  }
  const { [storeId]: _own, ...others } = doc.words.stores;
  const left = Object.fromEntries(Object.entries(own).filter(([field]) => !Object.hasOwn(words, field)));
  const stores = Object.keys(left).length > 0 ? { ...others, [storeId]: left } : others;
  return { ...doc, words: { base: { ...doc.words.base, ...words }, stores } };
}
