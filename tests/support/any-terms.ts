import fc from 'fast-check';
import type { Fee } from '@/core/pricing/fees';
import type { Terms } from '@/core/pricing/quote';
import { sampleTerms } from '@/core/pricing/terms-sample';

/** Orders of all kinds for tests of properties: fees with every bound, taxes within and on top, sales, vouchers, free shipping. */
const anyFee: fc.Arbitrary<Fee> = fc.record({
  id: fc.constant('f'),
  label: fc.constant('Fee'),
  of: fc.constantFrom('item' as const, 'item+shipping' as const, 'total' as const),
  ratePpm: fc.integer({ min: 0, max: 160_000 }),
  per: fc.constantFrom('item' as const, 'order' as const, 'listing' as const),
  fixedMinor: fc.integer({ min: 0, max: 60 }),
  minMinor: fc.option(fc.integer({ min: 0, max: 90 }), { nil: undefined }),
  maxMinor: fc.option(fc.integer({ min: 90, max: 900 }), { nil: undefined }),
  taxPpm: fc.option(fc.integer({ min: 0, max: 250_000 }), { nil: undefined }),
});
export const anyTerms = (items: fc.Arbitrary<number> = fc.integer({ min: 1, max: 5 })): fc.Arbitrary<Terms> =>
  fc
    .record({
      cost: fc.integer({ min: 1, max: 3000 }),
      items,
      shippingChargedMinor: fc.integer({ min: 0, max: 900 }),
      freeFromMinor: fc.option(fc.integer({ min: 1, max: 6000 }), { nil: null }),
      salePpm: fc.constantFrom(0, 0, 100_000, 333_333),
      voucherMinor: fc.constantFrom(0, 0, 250),
      tax: fc.option(
        fc.record({
          country: fc.constant('DE'),
          label: fc.constant('VAT'),
          ratePpm: fc.integer({ min: 0, max: 250_000 }),
          inside: fc.boolean(),
        }),
        { nil: null },
      ),
      fees: fc.array(anyFee, { maxLength: 4 }),
      expectedSales: fc.integer({ min: 1, max: 30 }),
    })
    .map(({ cost, ...also }) => sampleTerms(cost, also));
