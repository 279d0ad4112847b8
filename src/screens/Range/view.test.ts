import { describe, expect, it } from 'vitest';
import { WHOLE_RANGE } from '@/core/range';
import type { RangeCell } from './load';
import { cellLine, leftLine, priceLine, rangeAddress, readRangeQuery } from './view';

const cell: RangeCell = {
  state: 'in-step',
  listings: 1,
  visibility: 'live',
  broken: 0,
  says: null,
  changed: [],
  lowMinor: 2425,
  highMinor: 2920,
  leftMinor: 310,
  leftPpm: 120_000,
  underFloor: false,
};

describe('the range', () => {
  it('has an address for each part of it, which reads back', () => {
    const plain = { filter: WHOLE_RANGE, sort: 'changed' } as const;
    expect(rangeAddress(plain)).toBe('/range');
    for (const asked of [
      plain,
      { filter: { ...WHOLE_RANGE, words: 'river tee', states: ['ahead', 'split'] }, sort: 'title' } as const,
      {
        filter: { ...WHOLE_RANGE, marginBelowPpm: 125_000, underFloor: true, tags: ['a&b', 'ü'] },
        sort: 'made',
      } as const,
    ]) {
      const [, query = ''] = rangeAddress(asked).split('?');
      expect(readRangeQuery(new URLSearchParams(query))).toEqual(asked);
    }
    expect(readRangeQuery(new URLSearchParams('sort=__proto__&state=nowhere&margin=x&since=2026-13-01'))).toEqual(
      plain,
    );
  });

  it('tells prices, and what the worst of them leaves or loses', () => {
    expect(priceLine(cell, 'USD')).toBe('24.25 – 29.20');
    expect(priceLine({ ...cell, lowMinor: 1200, highMinor: 1200 }, 'JPY')).toBe('1200');
    expect(priceLine({ ...cell, lowMinor: null }, 'USD')).toBeNull();
    expect(leftLine(cell, 'USD')).toBe('3.10 left');
    expect(leftLine({ ...cell, leftMinor: -120 }, 'EUR')).toBe('1.20 lost');
  });

  it('says in a few words what is to be done or differs', () => {
    expect(cellLine(cell)).toBe('live');
    expect(cellLine({ ...cell, listings: 3, broken: 2, visibility: null })).toBe('3 listings, 2 problems');
    expect(cellLine({ ...cell, state: 'ahead', changed: ['price', 'words', 'pictures'] })).toBe(
      'price, words and 1 more changed',
    );
    expect(cellLine({ ...cell, state: 'not-listed', visibility: null })).toBe('can be sent');
  });
});
