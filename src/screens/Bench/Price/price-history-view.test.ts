import { describe, expect, it } from 'vitest';
import { changedText, groupedChanges, type PriceChange } from './price-history-view';

const change = (part: Partial<PriceChange>): PriceChange => ({
  storeId: null,
  variantKey: '*',
  what: 'aim',
  was: null,
  now: null,
  revision: 1,
  by: 'Una',
  cause: 'typed',
  at: '2026-11-30T00:00:00.000Z',
  ...part,
});

describe('the history of prices', () => {
  it.each([
    ['aim', null, 'follows'],
    ['ending', null, 'none'],
    ['aim', { kind: 'retail', amountMinor: 2000 }, '20.00'],
    ['differencePpm', -80_000, 'all stores and −8.0 %'],
    ['freeFromMinor', 5000, 'shipping free from 50.00'],
    ['leastMinor', 999, 'at least 9.99'],
    ['notTo', { DE: true, IE: true }, 'not sold to Germany, Ireland'],
    ['notTo', {}, 'sold everywhere'],
    ['items', [{}], '1 product beside it'],
    ['constructor', 'x', 'x'],
  ])('says %s %j in words', (what, value, says) => {
    expect(changedText(what, value, 'GBP')).toContain(says);
  });

  it('puts on one line what one revision did to many variants alike', () => {
    const rows = [
      change({ variantKey: 'a', now: 1 }),
      change({ variantKey: 'b', now: 1 }),
      change({ variantKey: 'c', now: 2 }),
      change({ variantKey: 'a', now: 1, revision: 2 }),
      change({ now: 1 }),
    ];
    expect(groupedChanges(rows).map(({ keys }) => keys)).toEqual([['a', 'b'], ['c'], ['a'], ['*']]);
  });
});
