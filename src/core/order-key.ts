import { generateKeyBetween } from 'fractional-indexing';

/** An entry with a place among others; two people's inserts never meet, since each has its own id. */
export interface Ordered {
  readonly order: string;
}

/** Entries of a keyed object in their order; equal order keys (two people at once) fall back to the id. */
export function inOrder<T extends Ordered>(entries: { readonly [id: string]: T }): [string, T][] {
  return Object.entries(entries).sort(([idA, a], [idB, b]) => compare(a.order, b.order) || compare(idA, idB));
}

// Order keys compare by code unit, not by locale: that is what they are made for.
const compare = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0);

/** An order key after the last entry. */
export function orderAtEnd(entries: { readonly [id: string]: Ordered }): string {
  const last = inOrder(entries).at(-1)?.[1].order ?? null;
  return generateKeyBetween(last, null);
}

/** An order key between two others; null stands for the start or the end. */
export const orderBetween = (before: string | null, after: string | null): string =>
  before !== null && before === after ? generateKeyBetween(before, null) : generateKeyBetween(before, after);
