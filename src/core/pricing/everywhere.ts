import { mulDiv, PPM } from './money';
import { quote, type Quote } from './quote';
import type { MixPart } from './solve';

/** A mix of orders at one price, on the whole. Sums are weighted means in minor units, rounded half away from zero once. */
export interface MixQuote {
  readonly itemsMinor: number;
  readonly profitMinor: number;
  /** Weighted profit ÷ weighted sum of items, parts per million; null at a price of 0. */
  readonly marginPpm: number | null;
  /** Weighted profit ÷ weighted landed cost, parts per million; null at a cost of 0. */
  readonly markupPpm: number | null;
  readonly quotes: readonly Quote[];
}

/** What a price brings where the seller sells: each order's quote counts as often as it comes. Weights are whole numbers from 1. */
export function quoteMix(mix: readonly MixPart[], retailMinor: number): MixQuote {
  const quotes = mix.map(({ terms }) => quote(terms, retailMinor));
  const sum = (of: (q: Quote) => number) => quotes.reduce((total, q, i) => total + mix[i]!.weight * of(q), 0);
  const weight = mix.reduce((total, part) => total + part.weight, 0);
  const [profit, items] = [sum((q) => q.profitMinor), sum((q) => q.itemsMinor)];
  const cost = sum((q) => q.makingMinor + q.shippingMinor);
  return {
    itemsMinor: mulDiv(items, 1, weight),
    profitMinor: mulDiv(profit, 1, weight),
    marginPpm: items === 0 ? null : mulDiv(profit, PPM, items),
    markupPpm: cost === 0 ? null : mulDiv(profit, PPM, cost),
    quotes,
  };
}
