import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { floorOver, lossesAt, type TermsTo } from './floor';
import { anyTerms } from '../../../tests/support/any-terms';
import { quote } from './quote';
import { sampleFee, sampleTerms } from './terms-sample';

const COUNTRIES = ['US', 'CA', 'GB', 'DE', 'FR', 'AU'];
const to = (orders: readonly Omit<TermsTo, 'country'>[]): TermsTo[] =>
  orders.map((order, i) => ({ ...order, country: COUNTRIES[i]! }));
const anywhere = fc
  .array(fc.record({ terms: anyTerms(), weight: fc.integer({ min: 0, max: 5 }) }), { minLength: 1, maxLength: 5 })
  .map(to);

const MAX = 9_000;
/** The lowest price at which `loses` is false, by trying one after the other; null where there is none up to a bound. */
function tried(loses: (price: number) => boolean): number | null {
  for (let price = 0; price <= MAX; price += 1) if (!loses(price)) return price;
  return null;
}
const losesTo = (all: readonly TermsTo[], price: number): boolean =>
  all.some(({ terms }) => quote(terms, price).profitMinor < 0);
const within = (price: number | null): number | null => (price !== null && price <= MAX ? price : null);

describe('the floor over all destinations', () => {
  it('is the lowest price at which nothing is lost to any of them, and on the mix: as trying all prices says', () => {
    fc.assert(
      fc.property(anywhere, (all) => {
        const floor = floorOver(all);
        expect(within(floor.minor)).toBe(tried((price) => losesTo(all, price)));
        const mix = all.filter(({ weight }) => weight > 0);
        const onWhole = (price: number) =>
          mix.reduce((sum, { terms, weight }) => sum + weight * quote(terms, price).profitMinor, 0);
        expect(within(floor.mixMinor)).toBe(mix.length === 0 ? null : tried((price) => onWhole(price) < 0));
      }),
      { seed: 171, numRuns: 400 },
    );
  });

  it('names the destinations whose own floor is highest, and what it would be without them', () => {
    fc.assert(
      fc.property(anywhere, (all) => {
        const { countries, withoutMinor } = floorOver(all);
        const own = all.map((one) => tried((price) => losesTo([one], price)));
        // What lies beyond what is tried here cannot be told apart here.
        fc.pre(own.every((price) => price !== null));
        const highest = Math.max(...own.map((price) => price!));
        const decide = all.filter((_, i) => own[i] === highest);
        const others = all.filter((_, i) => own[i] !== highest);
        expect(countries).toEqual(others.length === 0 ? [] : decide.map(({ country }) => country));
        expect(within(withoutMinor)).toBe(others.length === 0 ? null : tried((price) => losesTo(others, price)));
      }),
      { seed: 172, numRuns: 300 },
    );
  });

  it('is 21.00 where one destination costs 21.00 and the other 11.00; 11.00 without it; 13.50 at 1 : 3 (by hand)', () => {
    const all = to([
      { terms: sampleTerms(1100), weight: 3 },
      { terms: sampleTerms(2100), weight: 1 },
    ]);
    expect(floorOver(all)).toEqual({ minor: 2100, countries: ['CA'], withoutMinor: 1100, mixMinor: 1350 });
    // Two that need the same decide together.
    const two = floorOver([...all, { country: 'AU', weight: 0, terms: sampleTerms(2100) }]);
    expect(two).toMatchObject({ minor: 2100, countries: ['CA', 'AU'], withoutMinor: 1100 });
    expect(floorOver(all.slice(1))).toMatchObject({ minor: 2100, countries: [], withoutMinor: null });
    expect(lossesAt(all, 2099)).toEqual([{ country: 'CA', profitMinor: -1 }]);
    expect(lossesAt(all, 2100)).toEqual([]);
    expect(lossesAt(all, 1000)).toEqual([
      { country: 'US', profitMinor: -100 },
      { country: 'CA', profitMinor: -1100 },
    ]);
  });

  it('is none where fees leave none to one of them, and is what the others need without it', () => {
    const greedy = sampleFee({ ratePpm: 1_000_000 });
    const all = to([
      { terms: sampleTerms(900), weight: 1 },
      { terms: sampleTerms(900, { fees: [greedy] }), weight: 0 },
    ]);
    expect(floorOver(all)).toEqual({ minor: null, countries: ['CA'], withoutMinor: 900, mixMinor: 900 });
  });

  it('is looked for past a sum from which one of them is sent free', () => {
    // To CA shipping of 6.00 is paid by the buyer below 25.00: from 20.00 to 24.99 nothing is lost there, and again from 26.00 on.
    const free = sampleTerms(2600, { shippingChargedMinor: 600, freeFromMinor: 2500 });
    const all = to([
      { terms: sampleTerms(2500), weight: 0 },
      { terms: free, weight: 0 },
    ]);
    expect(floorOver(all).minor).toBe(2600);
    expect(floorOver(all.slice(1)).minor).toBe(2000);
  });
});
