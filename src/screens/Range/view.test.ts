import { describe, expect, it } from 'vitest';
import { countLine, priceLine, rangeAddress, readRangeQuery } from './view';

const plain = { words: '', sort: 'changed', shelf: 'range', after: null } as const;

describe('the range', () => {
  it('has an address for each part of it, which reads back', () => {
    expect(rangeAddress(plain)).toBe('/range');
    for (const asked of [
      plain,
      { words: 'river tee', sort: 'title', shelf: 'range', after: null } as const,
      { words: '', sort: 'made', shelf: 'archived', after: 'WyJ4IiwicDEiXQ' } as const,
    ]) {
      const [, query = ''] = rangeAddress(asked).split('?');
      expect(readRangeQuery(Object.fromEntries(new URLSearchParams(query)))).toEqual(asked);
    }
    expect(readRangeQuery({ sort: '__proto__', q: ['a', 'b'] })).toEqual(plain);
  });

  it('tells lowest and highest price with their currency', () => {
    expect(priceLine({ lowMinor: 2425, highMinor: 2920, currency: 'USD' })).toBe('24.25 – 29.20 USD');
    expect(priceLine({ lowMinor: 1200, highMinor: 1200, currency: 'JPY' })).toBe('1200 JPY');
    expect(priceLine(null)).toBe('–');
  });

  it('says how many there are', () => {
    expect(countLine(1, 1, plain)).toBe('1 product');
    expect(countLine(50, 1301, plain)).toBe('the first 50 of 1,301 products');
    expect(countLine(50, 301, { ...plain, after: 'x' })).toBe('50 of 301 products');
    expect(countLine(2, 2, { ...plain, words: 'oar' })).toBe('2 products found');
  });
});
