import { formatAmount, money } from '@/core/pricing/money';
import { rangeParameters, readRangeFilter } from '@/core/range';
import { SYNC_MARKS } from '@/core/sync/state';
import { andMore } from '@/core/words/and-more';
import { count } from '@/core/words/count';
import type { RangeCell, RangeQuery } from './load';

/** Orders in which products can stand, by name. */
export const SORT_NAMES = { changed: 'last changed', made: 'newest', title: 'title' } as const;
type Sort = keyof typeof SORT_NAMES;

/** What is shown of products, by name. */
export const SHELF_NAMES = { range: 'in the range', archived: 'archived', deleted: 'deleted' } as const;
export type Shelf = keyof typeof SHELF_NAMES;

export const isShelf = (text: unknown): text is Shelf => typeof text === 'string' && Object.hasOwn(SHELF_NAMES, text);
const isSort = (text: string | null): text is Sort => text !== null && Object.hasOwn(SORT_NAMES, text);

/** What an address asks of the range; what it says wrongly is passed over. */
export function readRangeQuery(query: URLSearchParams): RangeQuery {
  const sort = query.get('sort');
  return { filter: readRangeFilter(query), sort: isSort(sort) ? sort : 'changed' };
}

/** The parameters of an address for a part of the range: what is as usual is left out. */
export function queryText({ filter, sort }: RangeQuery): string {
  const query = rangeParameters(filter);
  if (sort !== 'changed') query.set('sort', sort);
  return query.toString();
}

export const rangeAddress = (query: RangeQuery): string => {
  const text = queryText(query);
  return text === '' ? '/range' : `/range?${text}`;
};

/** The words of an id that is made of words: `title-ending` is `title ending`. */
export const plainName = (id: string): string => id.replaceAll('-', ' ');

/** `24.25 – 29.20`, or one amount where all cost the same. */
export function priceLine({ lowMinor, highMinor }: RangeCell, currency: string): string | null {
  if (lowMinor === null || highMinor === null) return null;
  const amounts = [...new Set([lowMinor, highMinor])].map((minor) => formatAmount(money(minor, currency)));
  return amounts.join(' – ');
}

/** `3.10 left`, or `1.20 lost` below the floor. */
export function leftLine({ leftMinor }: RangeCell, currency: string): string | null {
  if (leftMinor === null) return null;
  const amount = formatAmount(money(Math.abs(leftMinor), currency));
  return leftMinor < 0 ? `${amount} lost` : `${amount} left`;
}

const MAX_KINDS = 2;

/** What there is to say of a listing beside its state, in a few words. */
export function cellLine({ state, listings, visibility, broken, changed }: RangeCell): string {
  const several = listings > 1 ? `${listings} listings` : '';
  const what =
    state === 'on-its-way'
      ? 'being sent'
      : broken > 0
        ? `${count(broken, 'problem')}`
        : state === 'ahead' && changed.length > 0
          ? `${andMore(changed, MAX_KINDS)} changed`
          : state === 'refused'
            ? 'see why'
            : (visibility ?? (state === 'not-listed' ? 'can be sent' : ''));
  return [several, what].filter(Boolean).join(', ');
}

/** What a cell says to whoever does not see it. */
export const cellLabel = (cell: RangeCell | undefined, storeName: string): string =>
  cell ? `${storeName}: ${SYNC_MARKS[cell.state].word}, ${cellLine(cell)}` : `${storeName}: not looked at yet`;
