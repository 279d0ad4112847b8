import { demoBlank } from '../../src/core/catalog/sample';
import type { Blank, PriceList } from '../../src/core/catalog/blank';
import { newDocument, type ProductDocument } from '../../src/core/document/document';
import { pricer, type Outlet } from '../../src/core/pricing/plan';
import { RateTable } from '../../src/core/pricing/rates';
import { sampleFee as fee } from '../../src/core/pricing/terms-sample';
import type { Bench } from './run';

const VARIANTS = 10_000;
const MARGIN_PPM = 350_000;
const COUNTRIES = ['GB', 'US', 'DE'] as const;

/** A blank whose variants all cost something else. */
function catalog(count: number): { blank: Blank; list: PriceList } {
  const like = demoBlank.variants[0]!;
  const variants = Array.from({ length: count }, (_, i) => {
    const values = { color: `c${i % 100}`, size: `s${Math.floor(i / 100)}` };
    return { ...like, key: `color=${values.color};size=${values.size}`, values };
  });
  return {
    blank: { ...demoBlank, variants },
    list: {
      id: 'l',
      currency: 'GBP',
      validFrom: '2026-01-01',
      baseCostMinor: Object.fromEntries(variants.map(({ key }, i) => [key, 600 + (i % 7919)])),
      extraAreaMinor: { 'main.front': 515, 'main.back': 515 },
      techniqueMinor: {},
      inserts: [],
      shipping: [
        { region: 'gb', countries: ['GB'], firstMinor: 400, furtherMinor: 100, daysMin: 2, daysMax: 4 },
        { region: 'us', countries: ['US'], firstMinor: 620, furtherMinor: 240, daysMin: 5, daysMax: 9 },
        { region: 'world', countries: ['*'], firstMinor: 540, furtherMinor: 200, daysMin: 6, daysMax: 14 },
      ],
    },
  };
}

const OUTLETS: readonly Outlet[] = [
  {
    id: 'a',
    name: 'A',
    currency: 'USD',
    expectedSales: 10,
    fees: [
      fee({ of: 'item+shipping', ratePpm: 50_000 }),
      fee({ of: 'item+shipping', ratePpm: 25_000, fixedMinor: 20 }),
      fee({ per: 'listing', fixedMinor: 15 }),
    ],
  },
  {
    id: 'b',
    name: 'B',
    currency: 'USD',
    expectedSales: 1,
    fees: [fee({ ratePpm: 140_000, per: 'item', minMinor: 50 })],
  },
  {
    id: 'c',
    name: 'C',
    currency: 'GBP',
    expectedSales: 1,
    fees: [fee({ of: 'item+shipping', ratePpm: 29_000, fixedMinor: 30 })],
  },
  {
    id: 'd',
    name: 'D',
    currency: 'EUR',
    expectedSales: 1,
    fees: [fee({ ratePpm: 80_000 }), fee({ fixedMinor: 20 })],
  },
];
const RATES = { USD: 1.2744, EUR: 1.1893, GBP: 1 } as const;
const rates = new RateTable([
  { from: 'GBP', to: 'USD', rate: '1.2744', date: '2026-11-01' },
  { from: 'GBP', to: 'EUR', rate: '1.1893', date: '2026-11-01' },
]);

const product = (blank: Blank): ProductDocument => {
  const doc = newDocument('b1', 'GBP', 'Tee');
  return {
    ...doc,
    variants: Object.fromEntries(blank.variants.map(({ key }) => [key, {}])),
    price: { ...doc.price, base: { ...doc.price.base, aim: { kind: 'margin', ppm: MARGIN_PPM }, ending: '.99' } },
  };
};

/** Sum of all prices, floors and profits, so that nothing can be left out and both can be held against each other. */
function ours(doc: ProductDocument, blank: Blank, list: PriceList): number {
  let sum = 0;
  for (const outlet of OUTLETS)
    for (const country of COUNTRIES) {
      const price = pricer(doc, { blank, list, rates, outlet, country });
      for (const { key } of blank.variants) {
        const { quote, floorMinor } = price(key);
        sum += quote.retailMinor + quote.profitMinor + floorMinor!;
      }
    }
  return sum;
}

const r = Math.round;
/** What each store takes at a price and its shipping, written out. */
const TAKES: Record<string, (p: number, s: number) => number> = {
  a: (p, s) => r((p + s) * 0.05) + r((p + s) * 0.025) + 20 + 2,
  b: (p) => Math.max(50, r(p * 0.14)),
  c: (p, s) => r((p + s) * 0.029) + 30,
  d: (p) => r(p * 0.08) + 20,
};
const RATE_OF: Record<string, number> = { a: 0.075, b: 0.14, c: 0.029, d: 0.08 };

/** The same formulas in straight-line number code: no lines of cost, no fees as data, no breaks, no sum to open. */
function reference(blank: Blank, list: PriceList): number {
  let sum = 0;
  for (const { id, currency } of OUTLETS) {
    const rate = RATES[currency as keyof typeof RATES];
    const takes = TAKES[id!]!;
    const share = RATE_OF[id!]!;
    for (const country of COUNTRIES) {
      const first = (list.shipping.find((one) => one.countries.includes(country)) ?? list.shipping[2]!).firstMinor;
      const shipping = r(first * rate);
      for (const { key } of blank.variants) {
        const making = r(list.baseCostMinor[key]! * rate);
        const left = (p: number) => p + shipping - making - shipping - takes(p, shipping);
        // From a price that is surely too low upward.
        let price = Math.max(0, Math.floor(making / (1 - share - MARGIN_PPM / 1e6)) - 4);
        while (left(price) * 1_000_000 < MARGIN_PPM * price) price += 1;
        let ended = Math.floor(price / 100) * 100 + 99;
        if (ended < price) ended += 100;
        let floor = Math.max(0, Math.floor(making / (1 - share)) - 4);
        while (left(floor) < 0) floor += 1;
        sum += ended + left(ended) + floor;
      }
    }
  }
  return sum;
}

const bench: Bench = {
  name: 'price-table',
  reference: 'the same formulas in straight-line number code, each store’s fees written out',
  rounds: 9,
  async setup() {
    const { blank, list } = catalog(VARIANTS);
    const doc = product(blank);
    const [mine, theirs] = [ours(doc, blank, list), reference(blank, list)];
    if (mine !== theirs) throw new Error(`the two do not agree: ${mine} and ${theirs}`);
    return {
      ours: async () => void ours(doc, blank, list),
      theirs: async () => void reference(blank, list),
      async after() {
        const told: string[] = [];
        for (const count of [1_000, 10_000, 100_000]) {
          const one = catalog(count);
          const big = product(one.blank);
          globalThis.gc?.();
          const before = process.memoryUsage().heapUsed;
          const began = performance.now();
          // All of one outlet at once, kept: what a table would hold.
          const price = pricer(big, { ...one, rates, outlet: OUTLETS[0]!, country: 'US' });
          const kept = one.blank.variants.map(({ key }) => price(key));
          const ms = performance.now() - began;
          const mb = (process.memoryUsage().heapUsed - before) / 1e6;
          told.push(`${kept.length / 1000}k: ${ms.toFixed(0)} ms, ${mb.toFixed(0)} MB`);
        }
        const some = catalog(500);
        const doc500 = product(some.blank);
        const times = Array.from({ length: 21 }, () => {
          const began = performance.now();
          const price = pricer(doc500, { ...some, rates, outlet: OUTLETS[0]!, country: 'US' });
          for (const { key } of some.blank.variants) price(key);
          return performance.now() - began;
        }).sort((a, b) => a - b);
        return `${VARIANTS} variants × ${OUTLETS.length} stores × ${COUNTRIES.length} destinations; one store kept, ${told.join(', ')}; 500 variants priced again after a keystroke: median ${times[10]!.toFixed(1)} ms (a frame has 16.7)`;
      },
    };
  },
};

export default bench;
