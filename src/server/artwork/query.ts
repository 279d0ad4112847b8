import { invalid } from '@/core/errors';
import { ARTWORK_SORTS, type ArtworkQuery, type ArtworkSort } from './library';

const MAX = 200;

function whole(query: URLSearchParams, name: string, otherwise: number, most: number): number {
  const text = query.get(name);
  if (text === null) return otherwise;
  const value = Number(text);
  if (!/^\d+$/.test(text) || value > most)
    throw invalid('query-unreadable', `${name} is a whole number up to ${most}, not “${text}”.`);
  return value;
}

function sortOf(text: string | null): ArtworkSort {
  if (text === null) return 'newest';
  const sort = ARTWORK_SORTS.find((one) => one === text);
  if (!sort)
    throw invalid('query-unreadable', `sort is one of ${ARTWORK_SORTS.join(', ')}, not “${text.slice(0, 40)}”.`);
  return sort;
}

/** What an address asks of the artwork. Throws `query-unreadable`. */
export const readArtworkQuery = (query: URLSearchParams): ArtworkQuery => ({
  words: (query.get('q') ?? '').slice(0, 200),
  tag: query.get('tag') || null,
  offset: whole(query, 'offset', 0, 1_000_000),
  limit: Math.max(1, whole(query, 'limit', MAX, MAX)),
  sort: sortOf(query.get('sort')),
});
