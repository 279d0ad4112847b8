import { ownEntry } from '@/core/own-entry';
import type { RangeQuery } from './load';

/** Orders in which products can stand, by name. */
export const SORT_NAMES = { changed: 'last changed', made: 'newest', title: 'title' } as const;
type Sort = keyof typeof SORT_NAMES;

const isSort = (text: string | undefined): text is Sort => text !== undefined && Object.hasOwn(SORT_NAMES, text);

/** What the address asks of the range; what it says wrongly is passed over. */
export function readRangeQuery(query: { readonly [key: string]: string | string[] | undefined }): RangeQuery {
  const one = (key: string): string | undefined => {
    const text = ownEntry(query, key);
    return typeof text === 'string' ? text : undefined;
  };
  const sort = one('sort');
  return { words: (one('q') ?? '').slice(0, 200), sort: isSort(sort) ? sort : 'changed', after: one('after') ?? null };
}

/** The address of a part of the range: what is as usual is left out. */
export function rangeAddress({ words, sort, after }: RangeQuery): string {
  const query = new URLSearchParams();
  if (words.trim() !== '') query.set('q', words.trim());
  if (sort !== 'changed') query.set('sort', sort);
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
