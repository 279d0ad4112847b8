import { feeAmount, takersOf, type Fee, type FeeAmount, type FeeBase, type FeeTaker } from './fees';
import type { LandedCost } from './landed';
import { mulDiv, PPM } from './money';
import { taxOnTop, taxWithin, type Tax } from './tax';

/**
 * Everything but the price that decides what is left of an order of `items` same items. Amounts in minor units of `currency`, the store's.
 * `landed` and `shippingChargedMinor` are for the whole order.
 */
export interface Terms {
  readonly currency: string;
  readonly items: number;
  readonly landed: LandedCost;
  /** What the buyer pays for shipping on top of the price; 0 when it is folded into the price. */
  readonly shippingChargedMinor: number;
  /** From this sum of items on the buyer pays no shipping; null: never. */
  readonly freeFromMinor: number | null;
  /** Taken off each item's price, parts per million. */
  readonly salePpm: number;
  /** Taken off the order's items once; never more than they cost. */
  readonly voucherMinor: number;
  readonly tax: Tax | null;
  readonly fees: readonly Fee[];
  /** Items that a listing fee is spread over. */
  readonly expectedSales: number;
}

/**
 * The sum from price to profit for an order. Always:
 * items × retail − discount + shippingCharged − tax − making − shipping − fees = profit, to the minor unit.
 */
export interface Quote {
  readonly currency: string;
  readonly items: number;
  /** Price of one item before any discount. */
  readonly retailMinor: number;
  /** Sale and voucher, for the whole order. */
  readonly discountMinor: number;
  /** What is paid for the items. */
  readonly itemsMinor: number;
  readonly shippingChargedMinor: number;
  /** Tax that is within the price and handed on. */
  readonly taxMinor: number;
  /** Tax that the buyer pays on top; it passes through. */
  readonly taxOnTopMinor: number;
  readonly makingMinor: number;
  readonly shippingMinor: number;
  readonly fees: readonly FeeAmount[];
  readonly feesMinor: number;
  readonly profitMinor: number;
  /** profit ÷ what is paid for the items, parts per million, rounded half away from zero; null at a price of 0. */
  readonly marginPpm: number | null;
  /** profit ÷ landed cost, parts per million; null at a cost of 0. */
  readonly markupPpm: number | null;
}

/** A price in a sale: price − round½(price × sale). The one rounding of a discount. */
export const salePriceMinor = (retailMinor: number, salePpm: number): number =>
  salePpm === 0 ? retailMinor : retailMinor - mulDiv(retailMinor, salePpm, PPM);

/** What is paid for an order's items at a price, discounts taken off; never below 0. */
export function itemsPaidMinor(terms: Terms, retailMinor: number): number {
  const sum = terms.items * salePriceMinor(retailMinor, terms.salePpm);
  return terms.voucherMinor === 0 ? sum : Math.max(0, sum - terms.voucherMinor);
}

/** What is paid for shipping: nothing from `freeFromMinor` on. */
const shippingPaidMinor = (terms: Terms, itemsMinor: number): number =>
  terms.freeFromMinor !== null && itemsMinor >= terms.freeFromMinor ? 0 : terms.shippingChargedMinor;

function feeBase(terms: Terms, itemsMinor: number, shippingMinor: number): FeeBase {
  const { tax, items, expectedSales } = terms;
  const taxOnTopMinor = tax && !tax.inside ? taxOnTop(itemsMinor + shippingMinor, tax) : 0;
  return { items, itemsMinor, shippingMinor, taxOnTopMinor, expectedSales };
}

export function quote(terms: Terms, retailMinor: number): Quote {
  const itemsMinor = itemsPaidMinor(terms, retailMinor);
  const shippingChargedMinor = shippingPaidMinor(terms, itemsMinor);
  const base = feeBase(terms, itemsMinor, shippingChargedMinor);
  const taxMinor = terms.tax?.inside ? taxWithin(itemsMinor + shippingChargedMinor, terms.tax) : 0;
  const fees = terms.fees.map((fee) => feeAmount(fee, base));
  const feesMinor = fees.reduce((sum, fee) => sum + fee.amountMinor, 0);
  const { makingMinor, shippingMinor, totalMinor } = terms.landed;
  const profitMinor = itemsMinor + shippingChargedMinor - taxMinor - totalMinor - feesMinor;
  return {
    currency: terms.currency,
    items: terms.items,
    retailMinor,
    discountMinor: terms.items * retailMinor - itemsMinor,
    itemsMinor,
    shippingChargedMinor,
    taxMinor,
    taxOnTopMinor: base.taxOnTopMinor,
    makingMinor,
    shippingMinor,
    fees,
    feesMinor,
    profitMinor,
    marginPpm: itemsMinor === 0 ? null : mulDiv(profitMinor, PPM, itemsMinor),
    markupPpm: totalMinor === 0 ? null : mulDiv(profitMinor, PPM, totalMinor),
  };
}

/** Who takes what of an order: what does not depend on the price, settled once. */
export const takersFor = ({ fees, items, expectedSales }: Terms): readonly FeeTaker[] =>
  takersOf(fees, items, expectedSales);

/** Profit by price alone, without making the whole quote: the inner step of solving. `takers` are those of the terms. */
export function profitWith(terms: Terms, takers: readonly FeeTaker[], retailMinor: number): number {
  const { tax } = terms;
  const itemsMinor = itemsPaidMinor(terms, retailMinor);
  const shippingMinor = shippingPaidMinor(terms, itemsMinor);
  const paid = itemsMinor + shippingMinor;
  let left = paid - terms.landed.totalMinor;
  let onTop = 0;
  if (tax) {
    if (tax.inside) left -= taxWithin(paid, tax);
    else onTop = taxOnTop(paid, tax);
  }
  for (let i = 0; i < takers.length; i += 1) left -= takers[i]!.takenMinor(itemsMinor, shippingMinor, onTop);
  return left;
}

export const profitMinor = (terms: Terms, retailMinor: number): number =>
  profitWith(terms, takersFor(terms), retailMinor);
