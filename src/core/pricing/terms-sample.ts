import type { Fee } from './fees';
import { landedCost } from './landed';
import { money } from './money';
import type { Terms } from './quote';
import { RateTable } from './rates';

const noRates = new RateTable([]);

/** Terms in USD for tests: a cost, and whatever else is said. */
export const sampleTerms = (costMinor: number, also: Partial<Terms> = {}): Terms => ({
  currency: 'USD',
  items: 1,
  landed: landedCost(
    { baseCost: money(costMinor, 'USD'), charges: [], items: also.items ?? 1, shipping: null },
    'USD',
    noRates,
  ),
  shippingChargedMinor: 0,
  freeFromMinor: null,
  salePpm: 0,
  voucherMinor: 0,
  tax: null,
  fees: [],
  expectedSales: 10,
  ...also,
});

/** A fee with nothing in it but what is said. */
export const sampleFee = (also: Partial<Fee> = {}): Fee => ({
  id: 'f',
  label: 'Fee',
  of: 'item',
  ratePpm: 0,
  per: 'order',
  fixedMinor: 0,
  ...also,
});

/** Card processing: 2.9 % + 0.30 of item and shipping (common practice, no source). */
export const CARD: Fee = sampleFee({ id: 'card', label: 'Card', of: 'item+shipping', ratePpm: 29_000, fixedMinor: 30 });
