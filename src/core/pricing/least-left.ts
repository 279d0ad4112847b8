import { mulDiv, PPM } from './money';
import { profitMinor } from './quote';
import type { TermsTo } from './floor';

/** What is left of a sale after everything, where least is left. */
export interface Left {
  /** Minor units of the outlet's currency; below 0: a loss. */
  readonly minor: number;
  /** Of the price, parts per million. */
  readonly ppm: number;
}

/** What least is left of one item, over variants at their prices (above 0) and all destinations of each; null without any. */
export function leastLeft(
  variants: readonly { readonly priceMinor: number; readonly to: readonly TermsTo[] }[],
): Left | null {
  let least: { minor: number; priceMinor: number } | null = null;
  for (const { priceMinor, to } of variants) {
    let before: TermsTo['terms'] | null = null;
    for (const { terms } of to) {
      if (terms === before) continue;
      before = terms;
      const minor = profitMinor(terms, priceMinor);
      if (least === null || minor < least.minor) least = { minor, priceMinor };
    }
  }
  return least && { minor: least.minor, ppm: least.priceMinor > 0 ? mulDiv(least.minor, PPM, least.priceMinor) : 0 };
}
