import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { inOrder, orderAtEnd, orderBetween, type Ordered } from './order-key';

/** An insert: where, as a share of the places that there are. */
const inserts = fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { minLength: 1, maxLength: 120 });

describe('order keys', () => {
  it('keep entries where an array would have them, wherever they are put in', () => {
    fc.assert(
      fc.property(inserts, (shares) => {
        const entries: Record<string, Ordered> = {};
        const array: string[] = [];
        shares.forEach((share, n) => {
          const at = Math.round(share * array.length);
          const key = (i: number) => entries[array[i] ?? '']?.order ?? null;
          entries[`id${n}`] = { order: orderBetween(at > 0 ? key(at - 1) : null, key(at)) };
          array.splice(at, 0, `id${n}`);
        });
        expect(inOrder(entries).map(([id]) => id)).toEqual(array);
      }),
      { seed: 19, numRuns: 300 },
    );
  });

  it('at the end are behind all that is there', () => {
    const entries: Record<string, Ordered> = {};
    for (let n = 0; n < 200; n += 1) entries[`id${n}`] = { order: orderAtEnd(entries) };
    expect(inOrder(entries).map(([id]) => id)).toEqual(Array.from({ length: 200 }, (_, n) => `id${n}`));
  });

  it('compare by code unit, and two people’s equal keys by their ids, the same for both', () => {
    const entries = { b: { order: 'a0' }, a: { order: 'a0' }, upper: { order: 'Zz' }, next: { order: 'a1' } };
    expect(inOrder(entries).map(([id]) => id)).toEqual(['upper', 'a', 'b', 'next']);
  });

  it('can be put between two that are equal', () => {
    expect(orderBetween('a0', 'a0') > 'a0').toBe(true);
  });
});
