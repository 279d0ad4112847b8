import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoBlank, demoList } from '../catalog/sample';
import { newDocument } from '../document/document';
import { sampleLayer } from '../document/sample';
import { leastPrintMinor, parcelCost } from './landed';
import { baseOutlet } from './outlet';
import { termsFor } from './terms';
import { RateTable } from './rates';
import { PLAIN_SETTINGS } from './settings';

const AREAS = demoBlank.areas.map((area) => area.key);
const [variant] = Object.keys(demoList.baseCostMinor);

describe('the landed cost that Blanks shows', () => {
  it('is the least possible of a real product, with techniques, discount, rate and safety margin', () => {
    const minor = (most: number) => fc.integer({ min: 0, max: most });
    fc.assert(
      fc.property(
        fc.record({
          base: minor(5000),
          charges: fc.array(minor(800), { minLength: AREAS.length, maxLength: AREAS.length }),
          discountPpm: fc.constantFrom(0, 33_300, 100_000, 900_000),
          rate: fc.constantFrom('0.8431', '1.2744', '191.37', '1'),
          currency: fc.constantFrom('GBP', 'USD', 'JPY', 'KWD'),
          marginPpm: fc.constantFrom(0, 20_000, 33_333),
          items: fc.integer({ min: 1, max: 20 }),
          first: minor(3000),
          further: minor(900),
        }),
        ({ base, charges, discountPpm, rate, currency, marginPpm, items, first, further }) => {
          const shipping = { firstMinor: first, furtherMinor: further };
          const list = {
            ...demoList,
            baseCostMinor: { [variant!]: base },
            techniqueMinor: Object.fromEntries(AREAS.map((key, i) => [key, charges[i]!])),
            shipping: [{ ...shipping, region: 'x', countries: ['*'], daysMin: 1, daysMax: 2 }],
          };
          const rates = new RateTable([{ from: 'GBP', to: currency, rate, date: '2026-01-01' }], marginPpm);
          const settings = { ...PLAIN_SETTINGS, discounts: { [demoBlank.partner.id]: discountPpm } };
          const outlet = baseOutlet(currency, 'GB');
          // Every product with one printed area, as it would be priced.
          const products = AREAS.map((areaKey) => {
            const doc = {
              ...newDocument('b1', currency, 'x'),
              variants: { [variant!]: {} },
              areas: { [areaKey]: { layers: { l: sampleLayer() } } },
            };
            return termsFor(doc, variant!, { blank: demoBlank, list, rates, outlet, settings }, 'GB', items).landed;
          });
          const least = {
            currency: list.currency,
            baseMinor: base,
            printMinor: leastPrintMinor(AREAS, list.techniqueMinor),
            discountPpm,
          };
          const shown = parcelCost(least, shipping, items, currency, rates);
          expect(shown.totalMinor).toBe(Math.min(...products.map(({ totalMinor }) => totalMinor)));
          expect(shown.makingMinor + shown.shippingMinor).toBe(shown.totalMinor);
        },
      ),
      { seed: 174, numRuns: 500 },
    );
  });

  it('counts embroidery, which is charged on every area: 8.20 + 1.15 to make and 9.00 to send are 18.35 (by hand)', () => {
    const making = { currency: 'USD', baseMinor: 820, printMinor: 115, discountPpm: 0 };
    expect(parcelCost(making, { firstMinor: 900, furtherMinor: 0 }, 1, 'USD', new RateTable([])).totalMinor).toBe(1835);
    expect(leastPrintMinor(['side', 'front'], { side: 115, front: 225 })).toBe(115);
    expect(leastPrintMinor(['side', 'front'], { front: 225 })).toBe(0);
  });
});
