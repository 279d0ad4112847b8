import { FIRST_LISTING, MAX_LISTINGS } from '@/core/document/split';
import { wholeOf } from './query';

/** Which of a product's listings in a store an address names (`?number=2`); the first where it names none. Throws `query-unreadable`. */
export const listingNumber = (query: URLSearchParams): number =>
  wholeOf(query, 'number', MAX_LISTINGS) ?? FIRST_LISTING;
