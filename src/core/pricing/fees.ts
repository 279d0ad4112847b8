import { mulDiv, PPM } from './money';

/** What a fee is a share of, or is charged once for. */
export type FeeBasis = 'item' | 'item+shipping' | 'order' | 'listing';

/**
 * One thing that a store takes: a share (parts per million of item or of item + shipping) and a fixed sum, held between a least
 * and a most. A fee per listing is spread over `expectedSales` items.
 */
export interface Fee {
  readonly id: string;
  readonly label: string;
  readonly basis: FeeBasis;
  readonly ratePpm: number;
  readonly fixedMinor: number;
  readonly minMinor?: number;
  readonly maxMinor?: number;
}

export interface FeeAmount {
  readonly fee: Fee;
  /** What the share was taken of, minor units. */
  readonly ofMinor: number;
  readonly amountMinor: number;
}

/**
 * The amount of one fee on one item, minor units of the store's currency.
 * amount = clamp(round½(base × rate) + fixed, min, max); a listing's fixed sum is divided by expected sales and rounded up, so that
 * it is never short.
 */
export function feeAmount(fee: Fee, itemMinor: number, shippingMinor: number, expectedSales: number): FeeAmount {
  const ofMinor = fee.basis === 'item+shipping' ? itemMinor + shippingMinor : fee.basis === 'item' ? itemMinor : 0;
  const fixed = fee.basis === 'listing' ? mulDiv(fee.fixedMinor, 1, Math.max(1, expectedSales), 'up') : fee.fixedMinor;
  let amountMinor = mulDiv(ofMinor, fee.ratePpm, PPM) + fixed;
  if (fee.minMinor !== undefined) amountMinor = Math.max(amountMinor, fee.minMinor);
  if (fee.maxMinor !== undefined) amountMinor = Math.min(amountMinor, fee.maxMinor);
  return { fee, ofMinor, amountMinor };
}

/** What of each further minor unit of price the fees take, parts per million. */
export const totalRatePpm = (fees: readonly Fee[]): number =>
  fees.reduce((sum, fee) => sum + (fee.basis === 'item' || fee.basis === 'item+shipping' ? fee.ratePpm : 0), 0);
