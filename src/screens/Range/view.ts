import { ownEntry } from '@/core/own-entry';
import { formatAmount, money } from '@/core/pricing/money';
import type { RangeQuery, RangeRow } from './load';

/** Orders in which products can stand, by name. */
export const SORT_NAMES = { changed: 'last changed', made: 'newest', title: 'title' } as const;
type Sort = keyof typeof SORT_NAMES;

/** Columns whose heading sorts, with the order that it gives. */
export const SORT_OF_COLUMN: ReadonlyMap<string, Sort> = new Map([
  ['title', 'title'],
  ['changed', 'changed'],
]);

/** What the range can show, by name. */
export const SHELF_NAMES = { range: 'in the range', archived: 'archived', deleted: 'deleted' } as const;
type Shelf = keyof typeof SHELF_NAMES;

const isShelf = (text: string | undefined): text is Shelf => text !== undefined && Object.hasOwn(SHELF_NAMES, text);
const isSort = (text: string | undefined): text is Sort => text !== undefined && Object.hasOwn(SORT_NAMES, text);

/** What the address asks of the range; what it says wrongly is passed over. */
export function readRangeQuery(query: { readonly [key: string]: string | string[] | undefined }): RangeQuery {
  const one = (key: string): string | undefined => {
    const text = ownEntry(query, key);
    return typeof text === 'string' ? text : undefined;
  };
  const sort = one('sort');
  const shelf = one('in');
  return {
    words: (one('q') ?? '').slice(0, 200),
    sort: isSort(sort) ? sort : 'changed',
    shelf: isShelf(shelf) ? shelf : 'range',
    after: one('after') ?? null,
  };
}

/** The address of a part of the range: what is as usual is left out. */
export function rangeAddress({ words, sort, shelf, after }: RangeQuery): string {
  const query = new URLSearchParams();
  if (words.trim() !== '') query.set('q', words.trim());
  if (sort !== 'changed') query.set('sort', sort);
  if (shelf !== 'range') query.set('in', shelf);
  if (after !== null) query.set('after', after);
  const text = query.toString();
  return text === '' ? '/range' : `/range?${text}`;
}

/** How many products there are, and how many of them are shown. */
export function countLine(shown: number, total: number, { words, after }: RangeQuery): string {
  const all = `${total.toLocaleString('en')} ${total === 1 ? 'product' : 'products'}`;
  const found = words.trim() === '' ? all : `${all} found`;
  return shown === total ? found : after === null ? `the first ${shown} of ${found}` : `${shown} of ${found}`;
}

/** `24.25 – 29.20 USD`, or one amount where all cost the same. */
export function priceLine(prices: RangeRow['prices']): string {
  if (!prices) return '–';
  const { lowMinor, highMinor, currency } = prices;
  const amounts = [...new Set([lowMinor, highMinor])].map((minor) => formatAmount(money(minor, currency)));
  return `${amounts.join(' – ')} ${currency}`;
}
