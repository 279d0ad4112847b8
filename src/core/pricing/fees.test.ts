import { describe, expect, it } from 'vitest';
import { checkFees, feesIn, type Fee } from './fees';
import { RateTable } from './rates';

describe('fees in another currency', () => {
  const rates = new RateTable([{ from: 'GBP', to: 'USD', rate: '1.25', date: '2026-11-01' }]);
  const fee: Fee = { id: 'a', label: 'A', of: 'item', ratePpm: 50_000, per: 'order', fixedMinor: 20 };

  it('have their sums converted once, where they enter pricing', () => {
    // 0.25 USD ÷ 1.25 = 0.20 GBP; 1.00 = 0.80; shares stay.
    const dollars = { ...fee, currency: 'USD', fixedMinor: 25, minMinor: 100, overMinor: 1000 };
    expect(feesIn([fee, dollars], 'GBP', rates)).toEqual([
      { ...fee, currency: 'GBP' },
      { ...fee, currency: 'GBP', fixedMinor: 20, minMinor: 80, overMinor: 800 },
    ]);
    const own = [fee, { ...fee, currency: 'GBP' }];
    expect(feesIn(own, 'GBP', rates)).toBe(own);
    expect(() => feesIn([{ ...fee, currency: 'JPY' }], 'GBP', rates)).toThrow(/no exchange rate from JPY to GBP/);
  });

  it('name a currency that there is', () => {
    expect(checkFees([{ ...fee, currency: 'USD' }])).toEqual([]);
    expect(checkFees([{ ...fee, currency: 'US$' }])).toHaveLength(1);
    expect(checkFees([{ ...fee, currency: 7 }])).toHaveLength(1);
  });
});
