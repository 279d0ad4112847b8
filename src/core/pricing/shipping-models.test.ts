import { describe, expect, it } from 'vitest';
import { BASKETS, chargedBy, matchShipping, type ShippingModel } from './shipping-models';

const partner = { firstMinor: 466, furtherMinor: 184, itemWeightG: 180 };

describe('shipping as a store can say it', () => {
  it('first 4.66, each further 1.84 is 2.82 per order and 1.84 per item (common practice, no source)', () => {
    const { model, overMinor, underMinor } = matchShipping(partner, 'order+item');
    expect(model).toEqual({ kind: 'order+item', orderMinor: 282, itemMinor: 184 });
    expect([overMinor, underMinor]).toEqual([0, 0]);
  });

  it('is exact as first and further, and as a table by weight', () => {
    for (const kind of ['first+further', 'weight'] as const) {
      const matched = matchShipping(partner, kind);
      expect(matched.baskets.map((basket) => basket.chargedMinor)).toEqual([466, 650, 834, 1018, 1202]);
      expect(matched.overMinor + matched.underMinor).toBe(0);
    }
  });

  it('takes the middle basket as one sum per order, and says what is over and under', () => {
    expect(matchShipping(partner, 'flat')).toMatchObject({
      model: { orderMinor: 834 },
      overMinor: 368 + 184,
      underMinor: 184 + 368,
    });
    expect(matchShipping(partner, 'free')).toMatchObject({ overMinor: 0, underMinor: 466 + 650 + 834 + 1018 + 1202 });
  });

  it('finds the best sum per item, and per order and item where further ones are dearer: as trying all of them does', () => {
    const distance = (model: ShippingModel, of: typeof partner) =>
      BASKETS.reduce(
        (sum, n) => sum + Math.abs(chargedBy(model, n, of.itemWeightG) - of.firstMinor - (n - 1) * of.furtherMinor),
        0,
      );
    for (const of of [partner, { ...partner, firstMinor: 300, furtherMinor: 420 }, { ...partner, furtherMinor: 0 }]) {
      const item = matchShipping(of, 'item');
      let least = Infinity;
      for (let itemMinor = 0; itemMinor <= 600; itemMinor += 1)
        least = Math.min(least, distance({ kind: 'item', itemMinor }, of));
      expect(item.overMinor + item.underMinor).toBe(least);
      const both = matchShipping(of, 'order+item');
      let leastBoth = Infinity;
      for (let orderMinor = 0; orderMinor <= 500; orderMinor += 2)
        for (let itemMinor = 0; itemMinor <= 500; itemMinor += 1)
          leastBoth = Math.min(leastBoth, distance({ kind: 'order+item', orderMinor, itemMinor }, of));
      expect(both.overMinor + both.underMinor).toBeLessThanOrEqual(leastBoth);
    }
  });
});
