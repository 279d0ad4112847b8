import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { checkCode, codeEffect, DeepestCodeFinder, withCode } from './code';
import type { TermsTo } from './floor';
import { profitMinor } from './quote';
import { sampleFee, sampleTerms } from './terms-sample';

const to = (country: string, landedMinor: number): TermsTo => ({
  country,
  weight: 1,
  terms: sampleTerms(landedMinor, { fees: [sampleFee({ ratePpm: 100_000 })] }),
});

describe('a discount code', () => {
  it('takes a share off each item, or a sum once off the order', () => {
    // By hand: 20.00 − 15 % = 17.00; fee 1.70; 17.00 − 1.70 − 12.00 = 3.30 left at home, 17.00 − 1.70 − 16.00 = −0.70 lost abroad.
    const orders = [to('GB', 1200), to('US', 1600)];
    expect(codeEffect(orders, 2000, { kind: 'share', ppm: 150_000 })).toEqual({
      paidMinor: 1700,
      losses: [{ country: 'US', profitMinor: -70 }],
    });
    expect(codeEffect(orders, 2000, { kind: 'sum', amountMinor: 200 })).toEqual({ paidMinor: 1800, losses: [] });
    expect(codeEffect(orders, 2000, { kind: 'sum', amountMinor: 5000 }).paidMinor).toBe(0);
  });

  it('is as deep as still pays on every price and to every destination: one step more loses', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.record({ price: fc.integer({ min: 500, max: 9000 }), landed: fc.integer({ min: 100, max: 6000 }) }),
          {
            minLength: 1,
            maxLength: 5,
          },
        ),
        (prices) => {
          const finder = new DeepestCodeFinder();
          for (const { price, landed } of prices) finder.look([to('GB', landed), to('US', landed + 150)], price);
          const { sharePpm, sumMinor } = finder.found()!;
          const loses = (off: Parameters<typeof withCode>[1]) =>
            prices.some(({ price, landed }) =>
              [landed, landed + 150].some((cost) => profitMinor(withCode(to('GB', cost).terms, off), price) < 0),
            );
          if (sharePpm === null) expect(loses({ kind: 'share', ppm: 0 })).toBe(true);
          else {
            expect(loses({ kind: 'share', ppm: sharePpm })).toBe(false);
            if (sharePpm < 1_000_000) expect(loses({ kind: 'share', ppm: sharePpm + 1000 })).toBe(true);
          }
          if (sumMinor === null) expect(loses({ kind: 'sum', amountMinor: 0 })).toBe(true);
          else {
            expect(loses({ kind: 'sum', amountMinor: sumMinor })).toBe(false);
            expect(loses({ kind: 'sum', amountMinor: sumMinor + 1 })).toBe(true);
          }
        },
      ),
      { numRuns: 150 },
    );
    expect(new DeepestCodeFinder().found()).toBeNull();
  });

  it('is what buyers can type', () => {
    const share = { kind: 'share', ppm: 100_000 } as const;
    for (const right of ['EBB10', 'A-1', 'X'.repeat(24)]) expect(checkCode(right, share)).toEqual([]);
    for (const wrong of ['', 'AB', 'ebb10', 'EBB 10', '-EBB', 'ÉBB', 'X'.repeat(25), 'EBB10\n', '__proto__'])
      expect(checkCode(wrong, share)).toHaveLength(1);
    expect(checkCode('EBB10', { kind: 'price', amountMinor: 900, currency: 'GBP' })).toHaveLength(1);
  });
});
