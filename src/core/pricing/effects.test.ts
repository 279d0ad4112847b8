import { describe, expect, it } from 'vitest';
import { withStock, type PriceList } from '../catalog/blank';
import { demoBlank, demoList, demoRates } from '../catalog/sample';
import { newDocument } from '../document/document';
import { priceEffects } from './effects';
import { baseOutlet } from './outlet';
import { RateTable } from './rates';
import type { Aim } from './solve';

const m = 'color=estuary;size=m';
const xxl = 'color=estuary;size=xxl';
const outlet = baseOutlet('GBP', 'GB');
const world = (list: PriceList, blank = demoBlank) => ({ blank, list, rates: demoRates, outlet });
const dearer = (byMinor: number): PriceList => ({
  ...demoList,
  baseCostMinor: Object.fromEntries(Object.entries(demoList.baseCostMinor).map(([key, cost]) => [key, cost + byMinor])),
});
const product = (aim: Aim) => {
  const doc = newDocument('b1', 'GBP', 'Tee');
  return {
    ...doc,
    variants: { [m]: {}, [xxl]: {} },
    price: { ...doc.price, base: { ...doc.price.base, aim, ending: 'none' as const } },
  };
};

describe('what a new price list does', () => {
  it('is a loss where a typed price no longer covers the cost, at shipping that the buyer pays or not as planned', () => {
    // 7.40 and 8.90 to make, sold at 12.00: after +4.00 the large one costs 12.90
    const doc = product({ kind: 'retail', amountMinor: 1200 });
    const effects = priceEffects(doc, world(demoList), world(dearer(400)), null);
    const left = (retail: number, making: number, shipping: number, charged: number) =>
      retail + charged - making - shipping;
    for (const { key, before, after, verdict } of effects) {
      const making = demoList.baseCostMinor[key]!;
      expect(before.profitMinor).toBe(left(1200, making, before.shippingMinor, before.shippingChargedMinor));
      expect(after.profitMinor).toBe(before.profitMinor - 400);
      expect(verdict).toBe(after.profitMinor < 0 ? 'loss' : 'under');
    }
    expect(effects.map((effect) => [effect.key, effect.verdict])).toContainEqual([xxl, 'loss']);
  });

  it('is nothing where costs fall or stay', () => {
    const doc = product({ kind: 'retail', amountMinor: 1200 });
    expect(priceEffects(doc, world(demoList), world(dearer(-50)), null)).toEqual([]);
    expect(priceEffects(doc, world(demoList), world(demoList), null)).toEqual([]);
  });

  it('is nothing where the price here follows its cost and no shop sells it', () => {
    const doc = product({ kind: 'margin', ppm: 400_000 });
    expect(priceEffects(doc, world(demoList), world(dearer(400)), null)).toEqual([]);
  });

  it('falls under the margin in a shop that still takes the old price', () => {
    const doc = product({ kind: 'margin', ppm: 400_000 });
    // Common practice, no source: 7.40 at 40 % is 12.34 (12.33… rounded up), 8.90 is 14.84
    const shop = { [m]: 1234, [xxl]: 1484 };
    const effects = priceEffects(doc, world(demoList), world(dearer(100)), shop);
    expect(effects.map((effect) => [effect.key, effect.verdict])).toEqual([
      [m, 'under'],
      [xxl, 'under'],
    ]);
    expect(priceEffects(doc, world(demoList), world(dearer(900)), shop).map((effect) => effect.verdict)).toEqual([
      'loss',
      'loss',
    ]);
  });

  it('leaves out what the shop does not sell, and what ends', () => {
    const doc = product({ kind: 'margin', ppm: 400_000 });
    const gone = withStock(demoBlank, { stock: {}, ended: new Set([xxl]) });
    const effects = priceEffects(doc, world(demoList), world(dearer(900), gone), { [m]: 1234, [xxl]: 1484 });
    expect(effects.map((effect) => effect.key)).toEqual([m]);
    expect(priceEffects(doc, world(demoList), world(dearer(900)), {})).toEqual([]);
  });

  it('is said to be unknown where an exchange rate is missing', () => {
    const doc = newDocument('b1', 'USD', 'Tee');
    const abroad = (list: PriceList) => ({
      ...world(list),
      rates: new RateTable([], 0),
      outlet: { ...outlet, currency: 'USD' },
    });
    const unknown: string[] = [];
    const effects = priceEffects(
      { ...doc, variants: { [m]: {} } },
      abroad(demoList),
      abroad(dearer(400)),
      null,
      (key) => unknown.push(key),
    );
    expect([effects, unknown]).toEqual([[], [m]]);
  });
});
