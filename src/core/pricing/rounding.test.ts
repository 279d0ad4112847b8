import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { anyTerms } from '../../../tests/support/any-terms';
import { quote } from './quote';
import { endingStep, isEnding, PLAIN_ROUNDING, priceFor, rounded, WAYS, type Rounding } from './rounding';
import { solveGoals, type Goal } from './solve';
import { sampleTerms } from './terms-sample';

const way = (also: Partial<Rounding>): Rounding => ({ ...PLAIN_ROUNDING, ...also });
const alone = (costMinor: number): Goal[] => [[{ terms: sampleTerms(costMinor), weight: 1 }]];

describe('how prices end', () => {
  it.each([
    // Common practice, no source; sums in minor units, worked by hand.
    [1282, '.99', 'up', 1299],
    [1282, '.99', 'down', 1199],
    [1282, '.99', 'nearest', 1299],
    [1240, '.99', 'nearest', 1199],
    [1299, '.99', 'down', 1299],
    [1282, '4.99', 'up', 1499],
    [1282, '4.99', 'down', 499],
    [1282, '.95', 'nearest', 1295],
    [50, '.99', 'down', 99],
    [1282, 'none', 'down', 1282],
  ] as const)('%i with %s going %s is %i in USD', (amount, ending, direction, want) => {
    expect(rounded(amount, way({ ending, way: direction }), 'USD')).toBe(want);
  });

  it('mean whole units and decimals of each currency', () => {
    expect(endingStep('80', 'JPY')).toEqual({ step: 100, rest: 80 });
    expect(rounded(1412, way({ ending: '80' }), 'JPY')).toBe(1480);
    expect(rounded(1412, way({ ending: '980' }), 'JPY')).toBe(1980);
    expect(endingStep('.99', 'KWD')).toEqual({ step: 1000, rest: 990 });
    expect(rounded(4212, way({ ending: '.950' }), 'KWD')).toBe(4950);
    // A yen has no decimals: the price stays as it comes.
    expect(endingStep('.99', 'JPY')).toBeNull();
    expect(rounded(1412, way({ ending: '.99' }), 'JPY')).toBe(1412);
    expect(endingStep('9', 'USD')).toEqual({ step: 1000, rest: 900 });
  });

  it('are none, a ladder, or up to four digits', () => {
    expect(['none', 'ladder', '.99', '4.99', '80', '.5', '.990', '9'].every(isEnding)).toBe(true);
    expect(['', '.', '99.', '-.99', '12345', '.9999', 'x', '1e2', 99, null].some(isEnding)).toBe(false);
  });

  it('go to the rungs of a ladder', () => {
    const ladder = [999, 1299, 1499, 1999];
    const at = (amount: number, direction: 'up' | 'down' | 'nearest') =>
      rounded(amount, way({ ending: 'ladder', ladder, way: direction }), 'USD');
    expect([at(1300, 'up'), at(1300, 'down'), at(1300, 'nearest'), at(1450, 'nearest')]).toEqual([
      1499, 1299, 1299, 1499,
    ]);
    expect([at(100, 'down'), at(5000, 'up')]).toEqual([999, 1999]);
    expect(
      priceFor(alone(1200), { kind: 'profit', amountMinor: 200 }, way({ ending: 'ladder', ladder }), 'USD'),
    ).toEqual({ priceMinor: 1499, held: null });
    expect(() =>
      priceFor(alone(2200), { kind: 'profit', amountMinor: 0 }, way({ ending: 'ladder', ladder }), 'USD'),
    ).toThrow(/highest price of your ladder/);
  });
});

describe('a price for an aim', () => {
  it('is held between the seller’s least and most, and says so', () => {
    const price = (costMinor: number) =>
      priceFor(
        alone(costMinor),
        { kind: 'profit', amountMinor: 500 },
        way({ ending: '.99', leastMinor: 1500, mostMinor: 2500 }),
        'USD',
      );
    expect([price(600), price(1200), price(2400)]).toEqual([
      { priceMinor: 1500, held: 'least' },
      { priceMinor: 1799, held: null },
      { priceMinor: 2500, held: 'most' },
    ]);
  });

  it('never goes down where that would be a loss, however near the lower ending is', () => {
    // Cost 20.05: the nearest .99 is 19.99, which loses 0.06.
    const floor = { kind: 'profit', amountMinor: 0 } as const;
    for (const direction of ['down', 'nearest'] as const)
      expect(priceFor(alone(2005), floor, way({ ending: '.99', way: direction }), 'USD').priceMinor).toBe(2099);
    // With 1.00 of profit 21.05 may become 20.99.
    const aim = { kind: 'profit', amountMinor: 100 } as const;
    expect(priceFor(alone(2005), aim, way({ ending: '.99', way: 'nearest' }), 'USD').priceMinor).toBe(2099);
    expect(priceFor(alone(2005), aim, way({ ending: '.99', way: 'down' }), 'USD').priceMinor).toBe(2099);
  });

  it('loses nothing that the aim would not, and meets it to every destination going up', () => {
    fc.assert(
      fc.property(
        fc.array(anyTerms(), { minLength: 1, maxLength: 4 }),
        fc.integer({ min: 0, max: 900 }),
        fc.constantFrom(...WAYS),
        fc.constantFrom('.99', '.00', '4.95', 'none'),
        (orders, amountMinor, direction, ending) => {
          const goals = orders.map((terms): Goal => [{ terms, weight: 1 }]);
          const aim = { kind: 'profit', amountMinor } as const;
          let least: number;
          try {
            least = solveGoals(goals, aim);
          } catch {
            return;
          }
          const { priceMinor } = priceFor(goals, aim, way({ ending, way: direction }), 'USD');
          for (const terms of orders) {
            const { profitMinor } = quote(terms, priceMinor);
            expect(profitMinor).toBeGreaterThanOrEqual(direction === 'up' ? amountMinor * terms.items : 0);
          }
          const step = endingStep(ending, 'USD');
          if (step) expect(priceMinor % step.step).toBe(step.rest);
          if (direction === 'down' && priceMinor > least) {
            // Nothing lower ends so without a loss to somebody, or there is nothing lower.
            const lower = priceMinor - (step?.step ?? 1);
            expect(lower <= 0 || orders.some((terms) => quote(terms, lower).profitMinor < 0) || lower > least).toBe(
              true,
            );
          }
        },
      ),
      { seed: 173, numRuns: 500 },
    );
  });
});
