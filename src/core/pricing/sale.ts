import { PPM } from './money';
import { salePriceMinor, type Terms } from './quote';
import { surplusOver, type Aim } from './solve';

/** How deep a sale may go. */
export interface DeepestSale {
  /** Taken off the price, parts per million, in whole tenths of a percent. */
  readonly salePpm: number;
  readonly priceMinor: number;
}

/** A tenth of a percent: finer discounts are not announced. */
const STEP_PPM = 1_000;

/**
 * The deepest discount on a price, in tenths of a percent, at which every order still meets the aim (`profit` 0: nothing is lost; a margin, a markup);
 * null when it is not met even without a discount. A deeper one that meets it again only because shipping is paid again is found too.
 */
export function deepestSale(
  orders: readonly Terms[],
  retailMinor: number,
  keep: Exclude<Aim, { kind: 'retail' }>,
): DeepestSale | null {
  const met = (salePpm: number) => orders.every((terms) => surplusOver({ ...terms, salePpm }, keep, retailMinor) >= 0);
  for (let salePpm = PPM; salePpm >= 0; salePpm -= STEP_PPM)
    if (met(salePpm)) return { salePpm, priceMinor: salePriceMinor(retailMinor, salePpm) };
  return null;
}
