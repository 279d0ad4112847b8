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

/** A day as YYYY-MM-DD in an address; null where it is absent or empty. Throws `query-unreadable`. */
export function dayOf(query: URLSearchParams, name: string): string | null {
  const text = query.get(name);
  if (!text) return null;
  const day = /^\d{4}-\d{2}-\d{2}$/.test(text) ? new Date(`${text}T00:00:00Z`) : new Date(Number.NaN);
  if (Number.isNaN(day.getTime()) || day.toISOString().slice(0, 10) !== text)
    throw invalid('query-unreadable', `${name} is a day, written as 2026-11-29.`);
  return text;
}
