import { money, mulDiv, PPM } from './money';
import { quote, type Quote, type Terms } from './quote';

/** What might become different, parts per million; 0 for as it is. */
export interface WhatIf {
  /** All of the partner's sums: +80 000 is 8 % dearer. */
  readonly costPpm: number;
  /** What the store's money buys of the partner's: −50 000 is 5 % less. */
  readonly ratePpm: number;
  /** Off all prices. */
  readonly salePpm: number;
}

/** Terms as they would be. Costs are changed and rounded in the partner's currency, line by line; the rate moves only what is converted. */
export function changedTerms(terms: Terms, { costPpm, ratePpm, salePpm }: WhatIf): Terms {
  const { landed } = terms;
  const lines = landed.lines.map((line) => {
    const original = money(mulDiv(line.original.amountMinor, PPM + costPpm, PPM), line.original.currency);
    const dearer = mulDiv(line.amountMinor, PPM + costPpm, PPM);
    const foreign = line.original.currency !== landed.currency;
    return { ...line, original, amountMinor: foreign ? mulDiv(dearer, PPM, PPM + ratePpm) : original.amountMinor };
  });
  const sum = (kind: 'making' | 'shipping') =>
    lines.filter((line) => line.kind === kind).reduce((total, line) => total + line.amountMinor, 0);
  const [makingMinor, shippingMinor] = [sum('making'), sum('shipping')];
  return {
    ...terms,
    landed: { ...landed, lines, makingMinor, shippingMinor, totalMinor: makingMinor + shippingMinor },
    // What the buyer pays stays as it was published.
    salePpm,
  };
}

/** What is left at today's price, today and if. */
export const whatIf = (terms: Terms, retailMinor: number, change: WhatIf): { today: Quote; then: Quote } => ({
  today: quote(terms, retailMinor),
  then: quote(changedTerms(terms, change), retailMinor),
});
