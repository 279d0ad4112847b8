import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { quoteMix } from './everywhere';
import { PPM } from './money';
import { quote, type Terms } from './quote';
import { deepestSale, largestVoucherMinor } from './sale';
import { PLAIN_ROUNDING, priceFor, type Ending } from './rounding';
import { floorMinor, solveMix, solveRetail, type Aim } from './solve';
import { CARD, sampleFee, sampleTerms } from './terms-sample';
import { anyTerms } from '../../../tests/support/any-terms';

type Solvable = Exclude<Aim, { kind: 'retail' }>;
const anyAim: fc.Arbitrary<Solvable> = fc.oneof(
  fc.record({ kind: fc.constant('profit' as const), amountMinor: fc.integer({ min: 0, max: 2500 }) }),
  fc.record({ kind: fc.constant('margin' as const), ppm: fc.integer({ min: 0, max: 260_000 }) }),
  fc.record({ kind: fc.constant('markup' as const), ppm: fc.integer({ min: 0, max: 1_500_000 }) }),
);

/** Whether a quote meets an aim: by its own words, not by how it is solved. */
function meets(terms: Terms, aim: Solvable, retail: number): boolean {
  const q = quote(terms, retail);
  if (aim.kind === 'profit') return q.profitMinor >= aim.amountMinor * terms.items;
  return q.profitMinor * PPM >= aim.ppm * (aim.kind === 'margin' ? q.itemsMinor : terms.landed.totalMinor);
}

/** The lowest price that meets an aim, by trying one after the other. */
function tried(terms: Terms, aim: Solvable, most: number): number | null {
  for (let price = 0; price <= most; price += 1) if (meets(terms, aim, price)) return price;
  return null;
}

const solved = (terms: Terms, aim: Solvable): number | null => {
  try {
    return solveRetail(terms, aim);
  } catch {
    return null;
  }
};

const ended = (terms: Terms, aim: Solvable, ending: Ending): number =>
  priceFor([[{ terms, weight: 1 }]], aim, { ...PLAIN_ROUNDING, ending }, 'USD').priceMinor;

/** Counts the runs of a property that came as far as what they assert: one that never does proves nothing. */
class Reached {
  private runs = 0;
  private readonly most: number;
  constructor(runs: number) {
    this.most = runs;
  }
  /** Whether this run has something to assert. */
  when(there: boolean): boolean {
    if (there) this.runs += 1;
    return there;
  }
  /** At least so large a share of all runs asserted something. */
  expectShare(share: number): void {
    expect(this.runs).toBeGreaterThan(share * this.most);
  }
}

describe('solving for a price', () => {
  it('finds the very lowest price, with steps, leasts, mosts, taxes, sales and free shipping: as trying all of them does', () => {
    fc.assert(
      fc.property(anyTerms(fc.integer({ min: 1, max: 3 })), anyAim, (terms, aim) => {
        const found = solved(terms, aim);
        const want = tried(terms, aim, Math.min(found ?? 12_000, 12_000));
        if (found === null || found > 12_000) expect(want).toBeNull();
        else expect(want).toBe(found);
      }),
      { seed: 31, numRuns: 500 },
    );
  });

  it('meets the aim with whatever ending, and never ends below it', () => {
    const reached = new Reached(600);
    fc.assert(
      fc.property(
        anyTerms(),
        anyAim,
        fc.constantFrom('.99' as const, '.95' as const, '.00' as const, '.50' as const),
        (terms, aim, ending) => {
          if (!reached.when(solved(terms, aim) !== null)) return;
          const price = ended(terms, aim, ending);
          expect(price % 100).toBe(Number(ending.slice(1)));
          expect(meets(terms, aim, price)).toBe(true);
        },
      ),
      { seed: 32, numRuns: 600 },
    );
    reached.expectShare(0.5);
  });

  it('gives a floor without loss, and one step less is one', () => {
    const reached = new Reached(800);
    fc.assert(
      fc.property(anyTerms(), (terms) => {
        const floor = solved(terms, { kind: 'profit', amountMinor: 0 });
        if (floor === null || !reached.when(true)) return;
        expect(quote(terms, floor).profitMinor).toBeGreaterThanOrEqual(0);
        if (floor > 0) expect(quote(terms, floor - 1).profitMinor).toBeLessThan(0);
        expect(floorMinor(terms)).toBe(floor);
      }),
      { seed: 33, numRuns: 800 },
    );
    reached.expectShare(0.5);
  });

  it('jumps over the sum from which shipping is free where the price would fall behind there', () => {
    // 20.00 to make, 6.00 to send, which the buyer pays below 25.00; aim 5.00: 25.00 would bring −1.00, so 31.00.
    const landed = sampleTerms(2600).landed;
    const terms = sampleTerms(0, { landed, shippingChargedMinor: 600, freeFromMinor: 2500 });
    expect(solveRetail(terms, { kind: 'profit', amountMinor: 499 })).toBe(2499);
    expect(solveRetail(terms, { kind: 'profit', amountMinor: 500 })).toBe(3100);
    // Rounded up to .00 it would cross the sum and lose: the next .00 that keeps the aim is taken.
    expect(ended(terms, { kind: 'profit', amountMinor: 450 }, '.00')).toBe(3100);
  });

  it('goes on past a fee that takes more than all until its most', () => {
    const greedy = sampleFee({ ratePpm: 1_200_000, maxMinor: 2000 });
    const terms = sampleTerms(500, { fees: [greedy] });
    expect(solveRetail(terms, { kind: 'profit', amountMinor: 100 })).toBe(2600);
  });

  it('solves a markup: 28.00 with a markup of 50 % is 42.00 (by hand)', () => {
    expect(solveRetail(sampleTerms(2800), { kind: 'markup', ppm: 500_000 })).toBe(4200);
  });

  it('prices a mix of orders at the very lowest price that brings the aim on the whole: as trying all of them does', () => {
    const most = 12_000;
    const reached = new Reached(250);
    fc.assert(
      fc.property(
        fc.array(fc.record({ terms: anyTerms(), weight: fc.integer({ min: 1, max: 9 }) }), {
          minLength: 1,
          maxLength: 3,
        }),
        fc.integer({ min: 0, max: 1500 }),
        (mix, amountMinor) => {
          const over = (retail: number) =>
            mix.reduce(
              (sum, { terms, weight }) => sum + weight * (quote(terms, retail).profitMinor - amountMinor * terms.items),
              0,
            );
          let found: number | null = null;
          try {
            found = solveMix(mix, { kind: 'profit', amountMinor });
          } catch {
            // There is none: no price below the bound may bring it.
          }
          let lowest: number | null = null;
          for (let price = 0; price <= Math.min(found ?? most, most) && lowest === null; price += 1)
            if (over(price) >= 0) lowest = price;
          if (found === null || found > most) expect(lowest).toBeNull();
          else if (reached.when(true)) expect(lowest).toBe(found);
        },
      ),
      { seed: 34, numRuns: 250 },
    );
    reached.expectShare(0.5);
  });

  it('tells what a mix brings as a weighted mean: 3 × 5.00 and 1 × 1.00 are 4.00 (by hand)', () => {
    const mix = [
      { terms: sampleTerms(1000), weight: 3 },
      { terms: sampleTerms(1400), weight: 1 },
    ];
    expect(quoteMix(mix, 1500)).toMatchObject({ profitMinor: 400, itemsMinor: 1500, marginPpm: 266_667 });
  });

  it('says why there is no price: a margin over all, fees over all', () => {
    expect(() => solveRetail(sampleTerms(100, { fees: [CARD] }), { kind: 'margin', ppm: 980_000 })).toThrow(
      /cannot be reached/,
    );
    expect(() =>
      solveRetail(sampleTerms(100, { fees: [sampleFee({ ratePpm: 1_000_000 })] }), { kind: 'profit', amountMinor: 1 }),
    ).toThrow(/no price brings a profit/);
    expect(() => solveRetail(sampleTerms(100), { kind: 'profit', amountMinor: 200_000_000 })).toThrow(
      /No price below a million/,
    );
  });
});

describe('the largest voucher', () => {
  it('is what the price is above the lowest that keeps the aim: as taking off one unit more shows', () => {
    // Cost 10.00 at 20.00: 10.00 may be taken off; to keep 20 % of what is paid, 7.50 (12.50 leaves 2.50).
    expect(largestVoucherMinor([sampleTerms(1000)], 2000, { kind: 'profit', amountMinor: 0 })).toBe(1000);
    expect(largestVoucherMinor([sampleTerms(1000)], 2000, { kind: 'margin', ppm: 200_000 })).toBe(750);
    expect(largestVoucherMinor([sampleTerms(1000)], 900, { kind: 'profit', amountMinor: 0 })).toBeNull();
    const reached = new Reached(200);
    fc.assert(
      fc.property(
        fc.array(anyTerms(fc.constant(1)), { minLength: 1, maxLength: 3 }),
        fc.integer({ min: 500, max: 9000 }),
        (all, retail) => {
          const orders = all.map((terms) => ({ ...terms, freeFromMinor: null, salePpm: 0, voucherMinor: 0 }));
          const voucher = largestVoucherMinor(orders, retail, { kind: 'profit', amountMinor: 0 });
          const loses = (voucherMinor: number) =>
            orders.some((terms) => quote({ ...terms, voucherMinor }, retail).profitMinor < 0);
          if (voucher === null || !reached.when(true)) return;
          expect(loses(voucher)).toBe(false);
          if (voucher < retail) expect(loses(voucher + 1)).toBe(true);
        },
      ),
      { seed: 36, numRuns: 200 },
    );
    reached.expectShare(0.3);
  });
});

describe('how deep a sale may go', () => {
  it('keeps the floor: cost 10.00 at 20.00 is 50 % and no more (by hand)', () => {
    expect(deepestSale([sampleTerms(1000)], 2000, { kind: 'profit', amountMinor: 0 })).toEqual({
      salePpm: 500_000,
      priceMinor: 1000,
    });
    expect(deepestSale([sampleTerms(1000)], 900, { kind: 'profit', amountMinor: 0 })).toBeNull();
    // A margin of 20 % of 12.50 leaves 2.50.
    expect(deepestSale([sampleTerms(1000)], 2000, { kind: 'margin', ppm: 200_000 })).toEqual({
      salePpm: 375_000,
      priceMinor: 1250,
    });
  });

  it('meets what is kept at that depth, and not a tenth of a percent deeper', () => {
    fc.assert(
      fc.property(anyTerms(), fc.integer({ min: 500, max: 9000 }), (terms, retail) => {
        const plain = { ...terms, freeFromMinor: null };
        const sale = deepestSale([plain], retail, { kind: 'profit', amountMinor: 0 });
        const left = (salePpm: number) => quote({ ...plain, salePpm }, retail).profitMinor;
        if (!sale) {
          expect(left(0)).toBeLessThan(0);
          return;
        }
        expect(left(sale.salePpm)).toBeGreaterThanOrEqual(0);
        if (sale.salePpm < PPM) expect(left(sale.salePpm + 1000)).toBeLessThan(0);
      }),
      { seed: 35, numRuns: 200 },
    );
  });
});
