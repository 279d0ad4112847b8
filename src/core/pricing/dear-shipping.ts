import type { PricedVariant } from './pricer';

/** A destination to which sending one item costs the buyer more than the good itself. */
export interface DearShipping {
  readonly country: string;
  readonly chargedMinor: number;
}

/** Where a buyer of one item pays more for sending it than for the good: few do. The dearest first; minor units of the outlet's currency. */
export const dearShipping = ({ to, retailMinor }: Pick<PricedVariant, 'to' | 'retailMinor'>): DearShipping[] =>
  to
    .flatMap(({ country, terms: { shippingChargedMinor, freeFromMinor } }) =>
      (freeFromMinor === null || retailMinor < freeFromMinor) && shippingChargedMinor > retailMinor
        ? [{ country, chargedMinor: shippingChargedMinor }]
        : [],
    )
    .toSorted((a, b) => b.chargedMinor - a.chargedMinor);
