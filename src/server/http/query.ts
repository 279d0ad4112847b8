import { invalid } from '@/core/errors';

/** A whole number from 1 to `most` in an address; null where it is absent or empty. Throws `query-unreadable`. */
export function wholeOf(query: URLSearchParams, name: string, most: number): number | null {
  const text = query.get(name);
  if (!text) return null;
  const value = /^\d{1,15}$/.test(text) ? Number(text) : 0;
  if (value < 1 || value > most) throw invalid('query-unreadable', `${name} is a whole number from 1 to ${most}.`);
  return value;
}

/** One of some words in an address; null where it is absent or empty. Throws `query-unreadable`. */
export function oneOf<W extends string>(query: URLSearchParams, name: string, words: readonly W[]): W | null {
  const text = query.get(name);
  if (!text) return null;
  const word = words.find((one) => one === text);
  if (!word) throw invalid('query-unreadable', `${name} is one of ${words.join(', ')}.`);
  return word;
}
