import { describe, expect, it } from 'vitest';
import { RateTable } from './rates';
import { checkSaleTerms, saleAt, salePrice, saleWords } from './sale';
import { checkScope, inScope } from './sale-scope';

const floor = (minor: number | null) => ({ minor, countries: [], withoutMinor: null, mixMinor: null });

describe('a price in a sale', () => {
  it.each([
    // Worked by hand: 20 % of 19.99 is 3.998, taken off as 4.00.
    [1999, 800, { kind: 'share', ppm: 200_000 }, 1599, false],
    [1999, 800, { kind: 'sum', amountMinor: 300 }, 1699, false],
    [1999, 800, { kind: 'price', amountMinor: 999 }, 999, false],
    [1999, 1750, { kind: 'share', ppm: 200_000 }, 1750, true],
    [1999, 1750, { kind: 'sum', amountMinor: 5000 }, 1750, true],
    // Never dearer than without, and a price that loses already stays.
    [1999, 800, { kind: 'price', amountMinor: 9900 }, 1999, false],
    [500, 800, { kind: 'share', ppm: 200_000 }, 500, true],
    [500, null, { kind: 'share', ppm: 200_000 }, 500, true],
  ] as const)('%i with a floor of %s and %j is %i', (retailMinor, least, off, priceMinor, held) => {
    expect(salePrice({ retailMinor, floor: floor(least) }, off)).toEqual({ priceMinor, held });
  });

  it('has its sums in the currency of each store', () => {
    const rates = new RateTable([{ from: 'GBP', to: 'USD', rate: '1.25', date: '2026-01-01' }]);
    expect(saleAt({ kind: 'sum', amountMinor: 300, currency: 'GBP' }, 'USD', rates)).toEqual({
      kind: 'sum',
      amountMinor: 375,
    });
    expect(saleAt({ kind: 'share', ppm: 1 }, 'USD', rates)).toEqual({ kind: 'share', ppm: 1 });
  });

  it('is said in words, and what it cannot be in sentences', () => {
    expect([
      saleWords({ kind: 'share', ppm: 200_000 }),
      saleWords({ kind: 'share', ppm: 125_000 }),
      saleWords({ kind: 'sum', amountMinor: 300, currency: 'GBP' }),
      saleWords({ kind: 'price', amountMinor: 999, currency: 'GBP' }),
    ]).toEqual(['20 % off', '12.5 % off', '3.00 GBP off', 'all at 9.99 GBP']);
    expect(checkSaleTerms({ kind: 'share', ppm: 200_000 })).toEqual([]);
    for (const wrong of [
      null,
      'share',
      { kind: 'share', ppm: 0 },
      { kind: 'share', ppm: 1_000_000 },
      { kind: 'share', ppm: 0.5 },
      { kind: 'sum', amountMinor: 0, currency: 'GBP' },
      { kind: 'sum', amountMinor: 100, currency: 'gbp' },
      { kind: 'price', amountMinor: 2 ** 53, currency: 'GBP' },
      { kind: 'gift' },
      { kind: 'share', ppm: 1, constructor: 1 },
    ])
      expect(checkSaleTerms(wrong).length).toBeGreaterThan(0);
  });
});

describe('the scope of a sale', () => {
  const none = { storeIds: [], productIds: [], kinds: [], tags: [] };
  const tee = { id: 'p1', kind: 'T-shirt', tags: ['rowing', 'constructor'] };

  it('is everything, or what is named by id, kind or tag', () => {
    expect(inScope(none, tee)).toBe(true);
    expect(inScope({ ...none, storeIds: ['s1'] }, tee)).toBe(true);
    expect(inScope({ ...none, kinds: ['Mug'] }, tee)).toBe(false);
    expect(inScope({ ...none, kinds: ['Mug'], tags: ['rowing'] }, tee)).toBe(true);
    expect(inScope({ ...none, productIds: ['p1'], kinds: ['Mug'] }, tee)).toBe(true);
    expect(inScope({ ...none, tags: ['constructor'] }, tee)).toBe(true);
  });

  it('is refused where it is none', () => {
    expect(checkScope(none)).toEqual([]);
    for (const wrong of [
      null,
      'all',
      { ...none, kinds: 'Mug' },
      { ...none, tags: [''] },
      { ...none, more: [] },
      { ...none, productIds: Array(501).fill('p') },
    ])
      expect(checkScope(wrong).length).toBeGreaterThan(0);
  });
});
