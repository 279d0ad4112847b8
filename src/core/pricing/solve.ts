import { TypicaError } from '../errors';
import { totalRatePpm } from './fees';
import { minorDigits, PPM } from './money';
import { profitMinor, type Terms } from './quote';

/** What the seller fixes: a price, a profit per item, or a margin (share of retail, parts per million). */
export type Aim =
  | { readonly kind: 'retail'; readonly amountMinor: number }
  | { readonly kind: 'profit'; readonly amountMinor: number }
  | { readonly kind: 'margin'; readonly ppm: number };

/** How a price is rounded up. */
export const ENDINGS = ['none', '.99', '.95', '.50', '.00'] as const;
export type Ending = (typeof ENDINGS)[number];

/** No price above this: a hundred million minor units. */
export const MAX_RETAIL_MINOR = 100_000_000;

/** The next price at or above `amountMinor` with this ending; currencies without two decimals keep the price as it is. */
export function withEnding(amountMinor: number, ending: Ending, currency: string): number {
  if (ending === 'none' || minorDigits(currency) !== 2) return amountMinor;
  const cents = Number(ending.slice(1));
  const candidate = Math.floor(amountMinor / 100) * 100 + cents;
  return candidate >= amountMinor ? candidate : candidate + 100;
}

const unsolvable = (message: string, fields: Record<string, unknown>) =>
  new TypicaError('invalid', 'price-unsolvable', message, fields);

/**
 * The lowest retail price whose profit meets the aim, in minor units.
 *
 * Profit is increasing in the price but for roundings: each fee is rounded by itself, so the true curve lies within half a unit per
 * fee of the computed one. Bisection on the curve raised by that slack finds a price below which no price can meet the aim; from
 * there the first that does is the answer. So: the answer meets the aim and one unit less does not.
 *
 * Throws `price-unsolvable` when the fees (and the margin) take everything that a higher price would bring.
 */
export function solveRetail(terms: Terms, aim: Aim): number {
  if (aim.kind === 'retail') return aim.amountMinor;
  const takenPpm = totalRatePpm(terms.fees) + (aim.kind === 'margin' ? aim.ppm : 0);
  if (takenPpm >= PPM) {
    throw unsolvable(
      aim.kind === 'margin'
        ? `A margin of ${aim.ppm / 10_000} % cannot be reached: with the store’s fees it would take ${takenPpm / 10_000} % of the price.`
        : `The store’s fees take ${takenPpm / 10_000} % of the price; no price brings a profit.`,
      { aim, takenPpm },
    );
  }
  // In units of a millionth of a minor unit for a margin, so that both aims compare whole numbers.
  const surplus =
    aim.kind === 'profit'
      ? (retail: number) => profitMinor(terms, retail) - aim.amountMinor
      : (retail: number) => profitMinor(terms, retail) * PPM - aim.ppm * retail;
  const slack = (terms.fees.length + 1) * (aim.kind === 'profit' ? 1 : PPM);
  let low = -1;
  let high = MAX_RETAIL_MINOR;
  if (surplus(high) < 0) throw unsolvable('No price below a million meets this aim.', { aim });
  while (high - low > 1) {
    const middle = Math.floor((low + high) / 2);
    if (surplus(middle) >= -slack) high = middle;
    else low = middle;
  }
  let retail = high;
  while (surplus(retail) < 0) retail += 1;
  return retail;
}

/** The floor: the lowest price at which nothing is lost, after everything. */
export const floorMinor = (terms: Terms): number => solveRetail(terms, { kind: 'profit', amountMinor: 0 });

/** The price for an aim, rounded up to an ending; a price that the seller typed stays as typed. */
export function priceFor(terms: Terms, aim: Aim, ending: Ending): number {
  const retail = solveRetail(terms, aim);
  return aim.kind === 'retail' ? retail : withEnding(retail, ending, terms.currency);
}
