import { feeAmount, type Fee, type FeeAmount } from './fees';
import type { LandedCost } from './landed';
import { mulDiv, PPM } from './money';

/** Everything but the price that decides what is left of a sale. Amounts in minor units of `currency`, the store's. */
export interface Terms {
  readonly currency: string;
  readonly landed: LandedCost;
  /** What the buyer pays for shipping on top of the price; 0 when it is folded into the price. */
  readonly shippingChargedMinor: number;
  readonly fees: readonly Fee[];
  /** Items that a listing fee is spread over. */
  readonly expectedSales: number;
}

/** The sum from price to profit for one item. Always: retail + shippingCharged − making − shipping − fees = profit. */
export interface Quote {
  readonly currency: string;
  readonly retailMinor: number;
  readonly shippingChargedMinor: number;
  readonly makingMinor: number;
  readonly shippingMinor: number;
  readonly fees: readonly FeeAmount[];
  readonly feesMinor: number;
  readonly profitMinor: number;
  /** profit ÷ retail, parts per million, rounded half away from zero; null at a price of 0. */
  readonly marginPpm: number | null;
  /** profit ÷ landed cost, parts per million; null at a cost of 0. */
  readonly markupPpm: number | null;
}

export function quote(terms: Terms, retailMinor: number): Quote {
  const fees = terms.fees.map((fee) => feeAmount(fee, retailMinor, terms.shippingChargedMinor, terms.expectedSales));
  const feesMinor = fees.reduce((sum, fee) => sum + fee.amountMinor, 0);
  const { makingMinor, shippingMinor, totalMinor } = terms.landed;
  const profitMinor = retailMinor + terms.shippingChargedMinor - totalMinor - feesMinor;
  return {
    currency: terms.currency,
    retailMinor,
    shippingChargedMinor: terms.shippingChargedMinor,
    makingMinor,
    shippingMinor,
    fees,
    feesMinor,
    profitMinor,
    marginPpm: retailMinor === 0 ? null : mulDiv(profitMinor, PPM, retailMinor),
    markupPpm: totalMinor === 0 ? null : mulDiv(profitMinor, PPM, totalMinor),
  };
}

/** Profit alone, without making the whole quote: the inner step of solving. */
export function profitMinor(terms: Terms, retailMinor: number): number {
  let fees = 0;
  for (const fee of terms.fees)
    fees += feeAmount(fee, retailMinor, terms.shippingChargedMinor, terms.expectedSales).amountMinor;
  return retailMinor + terms.shippingChargedMinor - terms.landed.totalMinor - fees;
}
