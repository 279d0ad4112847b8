import fc from 'fast-check';
import { floorOver, type TermsTo } from '../../src/core/pricing/floor';
import { quote, type Terms } from '../../src/core/pricing/quote';
import { sampleFee, sampleTerms } from '../../src/core/pricing/terms-sample';

const CASES = Number(process.env.SOAK_ROUNDS ?? 10_000);
/** Prices that are tried, one after the other, from nothing up. */
const MAX = 9_000;
const COUNTRIES = ['US', 'CA', 'GB', 'DE', 'FR'];

const fee = fc
  .record({
    of: fc.constantFrom('item' as const, 'item+shipping' as const, 'total' as const),
    ratePpm: fc.integer({ min: 0, max: 200_000 }),
    per: fc.constantFrom('item' as const, 'order' as const, 'listing' as const),
    fixedMinor: fc.integer({ min: 0, max: 300 }),
    least: fc.option(fc.integer({ min: 0, max: 400 })),
    most: fc.option(fc.integer({ min: 400, max: 3000 })),
    over: fc.option(fc.integer({ min: 0, max: 5000 }), { freq: 6 }),
    taxPpm: fc.constantFrom(0, 200_000),
  })
  .map(({ least, most, over, ...rest }) =>
    sampleFee({
      ...rest,
      ...(least === null ? {} : { minMinor: least }),
      ...(most === null ? {} : { maxMinor: most }),
      ...(over === null ? {} : { overMinor: over }),
    }),
  );
const terms: fc.Arbitrary<Terms> = fc
  .record({
    cost: fc.integer({ min: 1, max: 4000 }),
    fees: fc.array(fee, { maxLength: 3 }),
    shippingChargedMinor: fc.integer({ min: 0, max: 1500 }),
    freeFromMinor: fc.option(fc.integer({ min: 500, max: 6000 })),
    tax: fc.option(fc.record({ ratePpm: fc.integer({ min: 0, max: 270_000 }), inside: fc.boolean() })),
  })
  .map(({ cost, tax, ...rest }) => sampleTerms(cost, { ...rest, tax: tax && { country: '*', label: 'Tax', ...tax } }));

/** The floor over several destinations against trying every price: the lowest at which nothing is lost to any, and on the mix. */
export default async function floors(): Promise<boolean> {
  const drawn = fc.sample(
    fc.array(fc.record({ terms, weight: fc.integer({ min: 0, max: 5 }) }), { minLength: 1, maxLength: 5 }),
    { numRuns: CASES, seed: 17 },
  );
  let [wrong, beyond] = [0, 0];
  for (const [i, orders] of drawn.entries()) {
    const all: TermsTo[] = orders.map((order, n) => ({ ...order, country: COUNTRIES[n]! }));
    const mix = all.filter(({ weight }) => weight > 0);
    let [lowest, onMix]: (number | null)[] = [null, null];
    for (let price = 0; price <= MAX && (lowest === null || (onMix === null && mix.length > 0)); price += 1) {
      const left = all.map((one) => quote(one.terms, price).profitMinor);
      if (lowest === null && left.every((profit) => profit >= 0)) lowest = price;
      const whole = all.reduce((sum, { weight }, n) => sum + weight * left[n]!, 0);
      if (onMix === null && mix.length > 0 && whole >= 0) onMix = price;
    }
    const found = floorOver(all);
    const within = (price: number | null) => (price !== null && price <= MAX ? price : null);
    if (within(found.minor) !== lowest || within(found.mixMinor) !== onMix) {
      wrong += 1;
      process.stdout.write(`case ${i}: found ${found.minor} and ${found.mixMinor}, tried ${lowest} and ${onMix}\n`);
    }
    if (lowest === null) beyond += 1;
    if ((i + 1) % 1000 === 0) process.stdout.write(`${i + 1} cases\n`);
  }
  process.stdout.write(`soak floors cases ${CASES}, wrong ${wrong}, without a floor up to ${MAX}: ${beyond}\n`);
  return wrong === 0;
}
