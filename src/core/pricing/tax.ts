import { mulDiv, PPM } from './money';

/**
 * Sales tax or VAT for goods sent to a country (ISO 3166 alpha-2; `*` for all others). `inside`: the price holds it and the seller hands it
 * on; else the buyer pays it on top. It is counted on items and shipping.
 */
export interface Tax {
  readonly country: string;
  readonly label: string;
  readonly ratePpm: number;
  readonly inside: boolean;
}

/** The tax for a destination: one that names it, else one for all, else none. */
export const taxTo = (taxes: readonly Tax[], country: string): Tax | null =>
  taxes.find((tax) => tax.country === country) ?? taxes.find((tax) => tax.country === '*') ?? null;

/** Tax within a sum that holds it: sum × rate ÷ (1 + rate), rounded half away from zero once. */
export const taxWithin = (sumMinor: number, { ratePpm }: Tax): number => mulDiv(sumMinor, ratePpm, PPM + ratePpm);

/** Tax on top of a sum: sum × rate, rounded half away from zero once. */
export const taxOnTop = (sumMinor: number, { ratePpm }: Tax): number => mulDiv(sumMinor, ratePpm, PPM);
