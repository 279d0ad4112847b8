import { landedOf, type CostLine } from './landed';
import { money, mulDiv, PPM } from './money';
import type { TermsTo } from './floor';
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
  const changed = (line: CostLine): CostLine => {
    const original = money(mulDiv(line.original.amountMinor, PPM + costPpm, PPM), line.original.currency);
    const dearer = mulDiv(line.amountMinor, PPM + costPpm, PPM);
    const foreign = line.original.currency !== landed.currency;
    return { ...line, original, amountMinor: foreign ? mulDiv(dearer, PPM, PPM + ratePpm) : original.amountMinor };
  };
  const lines = landed.making.map(changed);
  const makingMinor = lines.reduce((sum, line) => sum + line.amountMinor, 0);
  return {
    ...terms,
    landed: landedOf({ currency: landed.currency, lines, makingMinor }, landed.shipping && changed(landed.shipping)),
    // What the buyer pays stays as it was published.
    salePpm,
  };
}

/** What is left at today's price, today and if, to the destination that would leave least. */
export function whatIf(
  to: readonly TermsTo[],
  retailMinor: number,
  change: WhatIf,
): { country: string; today: Quote; then: Quote } {
  const [worst] = to
    .map(({ country, terms }) => ({ country, terms, then: quote(changedTerms(terms, change), retailMinor) }))
    .sort((a, b) => a.then.profitMinor - b.then.profitMinor);
  const { country, terms, then } = worst!;
  return { country, today: quote(terms, retailMinor), then };
}
