import { demoBlank } from '../../src/core/catalog/sample';
import type { Blank, PriceList } from '../../src/core/catalog/blank';
import { newDocument, type ProductDocument } from '../../src/core/document/document';
import type { Outlet } from '../../src/core/pricing/outlet';
import { pricer } from '../../src/core/pricing/pricer';
import { RateTable } from '../../src/core/pricing/rates';
import { sampleFee as fee } from '../../src/core/pricing/terms-sample';
import type { Bench } from './bench';

const VARIANTS = 10_000;
const MARGIN_PPM = 350_000;
const COUNTRIES = ['GB', 'US', 'DE', 'CA', 'FR'] as const;

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
        { region: 'ca', countries: ['CA'], firstMinor: 780, furtherMinor: 310, daysMin: 6, daysMax: 12 },
        { region: 'world', countries: ['*'], firstMinor: 540, furtherMinor: 200, daysMin: 6, daysMax: 14 },
      ],
    },
  };
}

const WHERE = { sellsTo: COUNTRIES, aimsAt: 'first' } as const;
const OUTLETS: readonly Outlet[] = [
  {
    ...WHERE,
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
    ...WHERE,
    id: 'b',
    name: 'B',
    currency: 'USD',
    expectedSales: 1,
    fees: [fee({ ratePpm: 140_000, per: 'item', minMinor: 50 })],
  },
  {
    ...WHERE,
    id: 'c',
    name: 'C',
    currency: 'GBP',
    expectedSales: 1,
    fees: [fee({ of: 'item+shipping', ratePpm: 29_000, fixedMinor: 30 })],
  },
  {
    ...WHERE,
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
    // Shipping is in the price: each destination has its own floor.
    price: {
      ...doc.price,
      base: { ...doc.price.base, aim: { kind: 'margin', ppm: MARGIN_PPM }, ending: '.99', shipping: 'folded' },
    },
  };
};

/** Sum of all prices, floors, losses and what is left, so that nothing can be left out and both can be held against each other. */
function ours(doc: ProductDocument, blank: Blank, list: PriceList): number {
  let sum = 0;
  for (const outlet of OUTLETS) {
    const price = pricer(doc, { blank, list, rates, outlet });
    for (const { key } of blank.variants) {
      const { retailMinor, quote, floor, losses } = price(key);
      sum += retailMinor + quote.profitMinor + floor.minor! + floor.withoutMinor!;
      for (const { profitMinor } of losses) sum += profitMinor;
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
    const shippings = COUNTRIES.map((country) =>
      r((list.shipping.find((one) => one.countries.includes(country)) ?? list.shipping.at(-1)!).firstMinor * rate),
    );
    for (const { key } of blank.variants) {
      const making = r(list.baseCostMinor[key]! * rate);
      const left = (p: number, shipping: number) => p - making - shipping - takes(p, 0);
      const first = shippings[0]!;
      // From a price that is surely too low upward.
      let price = Math.max(0, Math.floor((making + first) / (1 - share - MARGIN_PPM / 1e6)) - 4);
      while (left(price, first) * 1_000_000 < MARGIN_PPM * price) price += 1;
      let ended = Math.floor(price / 100) * 100 + 99;
      if (ended < price) ended += 100;
      sum += ended + left(ended, first);
      const floors = shippings.map((shipping) => {
        let floor = Math.max(0, Math.floor((making + shipping) / (1 - share)) - 4);
        while (left(floor, shipping) < 0) floor += 1;
        return floor;
      });
      for (const shipping of shippings) sum += Math.min(0, left(ended, shipping));
      floors.sort((a, b) => b - a);
      sum += floors[0]! + floors[1]!;
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
          const price = pricer(big, { ...one, rates, outlet: OUTLETS[0]! });
          const kept = one.blank.variants.map(({ key }) => price(key));
          const ms = performance.now() - began;
          const mb = (process.memoryUsage().heapUsed - before) / 1e6;
          told.push(`${kept.length / 1000}k: ${ms.toFixed(0)} ms, ${mb.toFixed(0)} MB`);
        }
        const some = catalog(500);
        const doc500 = product(some.blank);
        const times = Array.from({ length: 21 }, () => {
          const began = performance.now();
          const price = pricer(doc500, { ...some, rates, outlet: OUTLETS[0]! });
          for (const { key } of some.blank.variants) price(key);
          return performance.now() - began;
        }).sort((a, b) => a - b);
        return `${VARIANTS} variants × ${OUTLETS.length} stores × ${COUNTRIES.length} destinations each; one store kept, ${told.join(', ')}; 500 variants priced again after a keystroke: median ${times[10]!.toFixed(1)} ms (a frame has 16.7)`;
      },
    };
  },
};

export default bench;
