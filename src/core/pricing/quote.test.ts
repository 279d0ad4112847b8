import { Decimal } from 'decimal.js';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { anyTerms } from '../../../tests/support/any-terms';
import { landedCost, landedLines } from './landed';
import { money } from './money';
import { profitMinor, quote, type Terms } from './quote';
import { RateTable } from './rates';
import { CARD, sampleFee, sampleTerms } from './terms-sample';

Decimal.set({ precision: 40 });
const half = (d: Decimal) => d.toDecimalPlaces(0, Decimal.ROUND_HALF_UP);
const share = (sum: Decimal, ppm: number) => half(sum.mul(ppm).div(1_000_000));

/** The same sums, written once more as a seller would with decimal.js (reference library). */
function reference(t: Terms, retail: number) {
  const each = new Decimal(retail).minus(share(new Decimal(retail), t.salePpm));
  const items = Decimal.max(0, each.mul(t.items).minus(t.voucherMinor));
  const shipping = new Decimal(t.freeFromMinor !== null && items.gte(t.freeFromMinor) ? 0 : t.shippingChargedMinor);
  const paid = items.plus(shipping);
  const onTop = t.tax && !t.tax.inside ? share(paid, t.tax.ratePpm) : new Decimal(0);
  const within = t.tax?.inside ? half(paid.mul(t.tax.ratePpm).div(1_000_000 + t.tax.ratePpm)) : new Decimal(0);
  let fees = new Decimal(0);
  for (const fee of t.fees) {
    const of = fee.of === 'item' ? items : fee.of === 'item+shipping' ? paid : paid.plus(onTop);
    const n = fee.per === 'item' ? t.items : 1;
    const fixed =
      fee.per === 'listing'
        ? new Decimal(fee.fixedMinor)
            .mul(t.items)
            .div(Math.max(1, t.expectedSales))
            .toDecimalPlaces(0, Decimal.ROUND_UP)
        : new Decimal(fee.fixedMinor).mul(n);
    let amount = share(of, fee.ratePpm).plus(fixed);
    if (fee.minMinor !== undefined) amount = Decimal.max(amount, fee.minMinor * n);
    if (fee.maxMinor !== undefined) amount = Decimal.min(amount, fee.maxMinor * n);
    fees = fees.plus(amount).plus(share(amount, fee.taxPpm ?? 0));
  }
  return { profit: paid.minus(within).minus(fees).minus(t.landed.totalMinor), fees, within, onTop };
}

describe('a quote', () => {
  it('agrees with decimal.js to the minor unit on thousands of random orders', () => {
    fc.assert(
      fc.property(anyTerms(), fc.integer({ min: 0, max: 90_000 }), (terms, retail) => {
        const q = quote(terms, retail);
        const want = reference(terms, retail);
        expect([q.profitMinor, q.feesMinor, q.taxMinor, q.taxOnTopMinor]).toEqual(
          [want.profit, want.fees, want.within, want.onTop].map((d) => d.toNumber()),
        );
        expect(profitMinor(terms, retail)).toBe(q.profitMinor);
      }),
      { seed: 11, numRuns: 4000 },
    );
  });

  it('has parts that sum to the total, whatever is in it', () => {
    fc.assert(
      fc.property(anyTerms(), fc.integer({ min: 0, max: 90_000 }), (terms, retail) => {
        const q = quote(terms, retail);
        const parts = q.fees.reduce((sum, fee) => sum + fee.amountMinor, 0);
        expect(parts).toBe(q.feesMinor);
        expect(
          terms.items * retail -
            q.discountMinor +
            q.shippingChargedMinor -
            q.taxMinor -
            q.makingMinor -
            q.shippingMinor -
            q.feesMinor,
        ).toBe(q.profitMinor);
      }),
      { seed: 12, numRuns: 1000 },
    );
  });

  it('takes VAT of 20 % out of 24.00 as 4.00, and puts a sales tax of 8 % on top as 1.92 (by hand)', () => {
    const vat = { country: 'GB', label: 'VAT', ratePpm: 200_000, inside: true };
    expect(quote(sampleTerms(0, { tax: vat }), 2400)).toMatchObject({ taxMinor: 400, profitMinor: 2000 });
    const sales = { country: 'US', label: 'Sales tax', ratePpm: 80_000, inside: false };
    const q = quote(sampleTerms(0, { tax: sales, fees: [sampleFee({ of: 'total', ratePpm: 100_000 })] }), 2400);
    // The tax passes through; only a fee on the total sees it: 10 % of 25.92.
    expect(q).toMatchObject({ taxMinor: 0, taxOnTopMinor: 192, feesMinor: 259, profitMinor: 2400 - 259 });
  });

  it('gives shipping away from a sum on, and takes a voucher once an order', () => {
    const terms = sampleTerms(0, { items: 2, shippingChargedMinor: 500, freeFromMinor: 4000, voucherMinor: 300 });
    expect(quote(terms, 2149)).toMatchObject({ itemsMinor: 3998, shippingChargedMinor: 500 });
    expect(quote(terms, 2150)).toMatchObject({ itemsMinor: 4000, shippingChargedMinor: 0 });
    expect(quote(terms, 100)).toMatchObject({ itemsMinor: 0, discountMinor: 200, marginPpm: null });
  });

  it('knows a fee for each item with its least, for an order, and for a listing with tax on it', () => {
    // 14 % and at least 0.50 an item: two at 3.00 are 1.00, not 0.84.
    const least = sampleFee({ ratePpm: 140_000, per: 'item', minMinor: 50 });
    expect(quote(sampleTerms(0, { items: 2, fees: [least] }), 300).feesMinor).toBe(100);
    expect(quote(sampleTerms(0, { items: 2, fees: [CARD] }), 1000).feesMinor).toBe(88);
    const listing = sampleFee({ per: 'listing', fixedMinor: 20, taxPpm: 250_000 });
    // 2 of 10 sales: 0.04, and 25 % tax on it.
    expect(quote(sampleTerms(0, { items: 2, fees: [listing] }), 1000).feesMinor).toBe(5);
  });

  it('takes the partner’s discount off all making, an insert once, and shipping for the whole parcel', () => {
    const landed = landedCost(
      {
        baseCost: money(769, 'USD'),
        charges: [
          { id: 'back', label: 'Back', cost: money(515, 'USD') },
          { id: 'insert', label: 'Card', cost: money(100, 'USD'), per: 'order' },
        ],
        discountPpm: 100_000,
        items: 2,
        shipping: money(466 + 184, 'USD'),
      },
      'USD',
      new RateTable([]),
    );
    // 2 × 7.69 + 2 × 5.15 + 1.00 = 26.68, less 2.67.
    expect(landedLines(landed).map((line) => line.amountMinor)).toEqual([1538, 1030, 100, -267, 650]);
    expect([landed.makingMinor, landed.totalMinor]).toEqual([2401, 3051]);
  });

  it('converts costs at a rate with a safety margin and prices without it', () => {
    const rates = new RateTable([{ from: 'GBP', to: 'USD', rate: '1.25', date: '2026-11-01' }], 20_000);
    expect(rates.convert(money(1000, 'GBP'), 'USD').amountMinor).toBe(1250);
    expect(rates.convertCost(money(1000, 'GBP'), 'USD').amountMinor).toBe(1275);
    expect(rates.convertCost(money(1000, 'GBP'), 'GBP').amountMinor).toBe(1000);
  });
});
