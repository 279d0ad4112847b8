import { mulDiv, PPM } from './money';

/** What a fee's share is taken of: the items, items and shipping, or all that the buyer pays, tax included. */
export const FEE_OF = ['item', 'item+shipping', 'total'] as const;
export type FeeOf = (typeof FEE_OF)[number];
/** What a fee's fixed sum is taken for: each item, each order, or each live listing (spread over expected sales). */
export const FEE_PER = ['item', 'order', 'listing'] as const;
export type FeePer = (typeof FEE_PER)[number];

/**
 * One thing that a store takes: a share (parts per million) and a fixed sum, held between a least and a most, and where asked the tax on
 * the fee itself. Least and most hold for each item where the sum is per item, else for the order.
 */
export interface Fee {
  readonly id: string;
  readonly label: string;
  readonly of: FeeOf;
  readonly ratePpm: number;
  readonly per: FeePer;
  readonly fixedMinor: number;
  readonly minMinor?: number;
  readonly maxMinor?: number;
  /** Tax that the store adds to the fee, parts per million. */
  readonly taxPpm?: number;
}

/** What an order of same items brings, as far as fees look at it. Minor units of the store's currency. */
export interface FeeBase {
  readonly items: number;
  /** What is paid for all items, discounts taken off. */
  readonly itemsMinor: number;
  readonly shippingMinor: number;
  /** Tax that the buyer pays on top. */
  readonly taxOnTopMinor: number;
  /** Items that a listing's fee is spread over. */
  readonly expectedSales: number;
}

export interface FeeAmount {
  readonly fee: Fee;
  /** What the share was taken of, minor units. */
  readonly ofMinor: number;
  /** Tax on the fee; within `amountMinor`. */
  readonly taxMinor: number;
  readonly amountMinor: number;
}

const baseOf = (of: FeeOf, base: FeeBase): number =>
  of === 'item'
    ? base.itemsMinor
    : of === 'item+shipping'
      ? base.itemsMinor + base.shippingMinor
      : base.itemsMinor + base.shippingMinor + base.taxOnTopMinor;

/** The fixed part for an order: a listing's sum is spread over the expected sales and rounded up, so that it is never short. */
export const fixedPart = (fee: Fee, items: number, expectedSales: number): number =>
  fee.per === 'item'
    ? fee.fixedMinor * items
    : fee.per === 'order'
      ? fee.fixedMinor
      : mulDiv(fee.fixedMinor, items, Math.max(1, expectedSales), 'up');

function untaxed(fee: Fee, ofMinor: number, base: FeeBase): number {
  let amount = mulDiv(ofMinor, fee.ratePpm, PPM) + fixedPart(fee, base.items, base.expectedSales);
  const times = fee.per === 'item' ? base.items : 1;
  if (fee.minMinor !== undefined && amount < fee.minMinor * times) amount = fee.minMinor * times;
  if (fee.maxMinor !== undefined && amount > fee.maxMinor * times) amount = fee.maxMinor * times;
  return amount;
}

/** One fee on one order, in minor units: clamp(round½(base × rate) + fixed) + round½(that × tax). */
export function feeMinor(fee: Fee, base: FeeBase): number {
  const amount = untaxed(fee, baseOf(fee.of, base), base);
  return fee.taxPpm ? amount + mulDiv(amount, fee.taxPpm, PPM) : amount;
}

/** The same with what it is made of. */
export function feeAmount(fee: Fee, base: FeeBase): FeeAmount {
  const ofMinor = baseOf(fee.of, base);
  const amount = untaxed(fee, ofMinor, base);
  const taxMinor = fee.taxPpm ? mulDiv(amount, fee.taxPpm, PPM) : 0;
  return { fee, ofMinor, taxMinor, amountMinor: amount + taxMinor };
}

/** What of each further minor unit of price the fees take where none is at its least or most, parts per million. */
export const totalRatePpm = (fees: readonly Fee[]): number =>
  fees.reduce((sum, fee) => sum + fee.ratePpm + mulDiv(fee.ratePpm, fee.taxPpm ?? 0, PPM), 0);
