import { describe, expect, it } from 'vitest';
import { keysWith, setChosen } from '../document/choosing';
import { newDocument } from '../document/document';
import { demoBlank, demoList, demoRates } from '../catalog/sample';
import { followWith, setAims, setPlan } from './fixing';
import type { Outlet } from './outlet';
import { planFor } from './plan';
import { pricer } from './pricer';
import { checkStoreRule, planOver, ruleText, type StoreRule } from './store-rule';

const keys = keysWith(demoBlank, {});
const doc = setPlan(setChosen(newDocument('b1', 'GBP', 'A tee'), keys, true), null, {
  aim: { kind: 'retail', amountMinor: 2000 },
});
const shop = (rule?: StoreRule): Outlet => ({
  ...{ id: 's1', name: 'Shop', currency: 'GBP', fees: [], expectedSales: 1, sellsTo: ['GB'], aimsAt: 'first' },
  ...(rule ? { rule } : {}),
});
const priceAt = (rule: StoreRule | undefined, of = doc, key = keys[0]!) =>
  pricer(of, { blank: demoBlank, list: demoList, rates: demoRates, outlet: shop(rule) })(key).retailMinor;

describe('a store’s rule', () => {
  it('prices what has no prices of its own there', () => {
    expect(priceAt(undefined)).toBe(2000);
    // 20.00 × 1.10 = 22.00; × 0.95 = 19.00, up to the next .99.
    expect(priceAt({ differencePpm: 100_000 })).toBe(2200);
    expect(priceAt({ differencePpm: -50_000, ending: '.99' })).toBe(1999);
    // A price that was typed stays as it was typed; one that follows an aim takes the ending.
    expect(priceAt({ ending: '.50', way: 'down' })).toBe(2000);
    expect(priceAt({ aim: { kind: 'markup', ppm: 1_000_000 }, ending: '.95' }) % 100).toBe(95);
    const margin = pricer(doc, {
      ...{ blank: demoBlank, list: demoList, rates: demoRates },
      outlet: shop({ aim: { kind: 'margin', ppm: 400_000 } }),
    })(keys[0]!);
    expect([margin.own, margin.aim]).toEqual([true, { kind: 'margin', ppm: 400_000 }]);
  });

  it('leaves what a product has of its own there, price by price', () => {
    const rule: StoreRule = { differencePpm: 100_000, ending: '.99' };
    expect(priceAt(rule, followWith(doc, 's1', 500_000))).toBe(3099);
    expect(priceAt(rule, setPlan(followWith(doc, 's1', 500_000), 's1', { ending: 'none' }))).toBe(3000);
    const one = setAims(doc, 's1', [keys[0]!], { kind: 'retail', amountMinor: 1234 });
    expect([priceAt(rule, one), priceAt(rule, one, keys[1]!)]).toEqual([1234, 2299]);
    // It is another store’s rule, and none of the prices for all.
    expect(planFor(doc, null)).toEqual(doc.price.base);
  });

  it('is told shortly', () => {
    expect([{ aim: { kind: 'margin', ppm: 355_000 } as const }, { differencePpm: -75_000 }, {}].map(ruleText)).toEqual([
      'a margin of 35.5 %',
      '−7.5 %',
      '+0.0 %',
    ]);
    expect(planOver(undefined, { leastMinor: 1 })).toEqual({ leastMinor: 1 });
  });

  it.each([
    [{}, 0],
    [{ differencePpm: 100_000, ending: 'ladder', way: 'nearest' }, 0],
    [{ aim: { kind: 'markup', ppm: 2_000_000 } }, 0],
    [{ aim: { kind: 'retail', amountMinor: 100 } }, 1],
    [{ aim: null }, 1],
    [{ aim: { kind: 'margin', ppm: 1, more: 'x' } }, 1],
    [{ aim: { kind: 'margin', ppm: 1_000_000 }, differencePpm: 1 }, 2],
    [{ differencePpm: 9_000_001, ending: 'x', way: 'sideways', more: 1 }, 4],
  ])('%o has %i faults', (rule, n) => {
    expect(checkStoreRule(rule)).toHaveLength(n);
  });
});
