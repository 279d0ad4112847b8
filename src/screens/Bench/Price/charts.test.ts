import { describe, expect, it } from 'vitest';
import { demoBlank, demoList, demoRates } from '@/core/catalog/sample';
import { keysWith, setChosen } from '@/core/document/choosing';
import { newDocument } from '@/core/document/document';
import { setAimForAll, setPlan } from '@/core/pricing/fixing';
import { sampleFee } from '@/core/pricing/terms-sample';
import { costBars, marksApart, niceTicks, profitCurve } from './charts';
import type { Outlet } from '@/core/pricing/outlet';
import { priceBook, tierRows } from './prices';

const store: Outlet = {
  id: 's1',
  name: 'Pennyquay',
  currency: 'USD',
  fees: [sampleFee({ ratePpm: 100_000 })],
  expectedSales: 10,
  sellsTo: ['US'],
  aimsAt: 'first',
};
const plain = setChosen(newDocument('b1', 'GBP', 'Tee'), keysWith(demoBlank, {}), true);
const book = (doc = plain) =>
  priceBook(doc, {
    blank: demoBlank,
    list: demoList,
    rates: demoRates,
    home: { currency: 'GBP', country: 'GB' },
  });

describe('what is drawn of prices', () => {
  it('bars of a tier sum to what the buyer pays', () => {
    const { priced } = book()(store);
    const bars = costBars(tierRows(plain, demoBlank, demoList, priced), priced);
    expect(bars.map(({ name }) => name)).toEqual(['S – M', 'XXL']);
    for (const [i, bar] of bars.entries()) {
      const { quote } = priced.find(({ key }) => key.endsWith(i === 0 ? 'size=s' : 'size=xxl'))!;
      const sum = bar.making + bar.shipping + bar.tax + bar.fees + bar.left;
      expect(sum).toBeCloseTo((quote.retailMinor + quote.shippingChargedMinor) / 100, 9);
    }
  });

  it('the curve crosses zero at the floor, and meets the aim where it is marked', () => {
    const [one] = book(setAimForAll(plain, null, { kind: 'profit', amountMinor: 500 }))(store).priced;
    const curve = profitCurve(one!, 'first');
    const at = (price: number) =>
      curve.points.reduce((a, b) => (Math.abs(b.price - price) < Math.abs(a.price - price) ? b : a));
    expect(Math.abs(at(curve.floor!).profit)).toBeLessThan(0.4);
    // 5.00 GBP are 6.25 USD.
    expect(Math.abs(at(curve.aim!).profit - 6.25)).toBeLessThan(0.4);
    expect(curve.price).toBe(curve.aim);
  });

  it('falls where shipping becomes free, and has no aim for a price that was typed', () => {
    const typed = setPlan(setAimForAll(plain, null, { kind: 'retail', amountMinor: 2000 }), null, {
      freeFromMinor: 2200,
    });
    const [one] = book(typed)(null).priced;
    const { points, aim } = profitCurve(one!, 'first');
    expect(aim).toBeNull();
    expect(points.some((point, i) => i > 0 && point.profit < points[i - 1]!.profit)).toBe(true);
  });

  it('prices of a store are worked out once for each state of the product', () => {
    const pricesAt = book();
    expect(pricesAt(store)).toBe(pricesAt({ ...store }));
    expect(pricesAt(null).world).toMatchObject({ home: 'GB', outlet: { id: null, currency: 'GBP', sellsTo: ['GB'] } });
  });

  it('axes are marked in round steps that hold all there is', () => {
    expect(niceTicks(9.18, 40.2)).toEqual([0, 10, 20, 30, 40, 50]);
    expect(niceTicks(-1.3, 5.2)).toEqual([-2, 0, 2, 4, 6]);
    expect(niceTicks(0, 0.12)).toEqual([0, 0.025, 0.05, 0.075, 0.1, 0.125]);
    expect(niceTicks(100, 100).length).toBeGreaterThan(0);
  });

  it('marks that would lie on one another share a line', () => {
    const marks = [
      { name: 'price', at: 20 },
      { name: 'floor', at: 11 },
      { name: 'aim', at: 19.6 },
    ];
    expect(marksApart(marks, 1).map(({ at, names }) => [at, names])).toEqual([
      [11, 'floor'],
      [20, 'aim, price'],
    ]);
    expect(marksApart(marks, 0.1)).toHaveLength(3);
  });
});
