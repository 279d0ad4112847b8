import { mulDiv, PPM } from './money';

/** Classes of goods that countries tax differently. */
export const TAX_CLASSES = ['standard', 'reduced', 'zero'] as const;
export type TaxClass = (typeof TAX_CLASSES)[number];

/**
 * Sales tax or VAT for goods sent to a country (ISO 3166 alpha-2), one of its states (ISO 3166-2, `US-CA`), or all others (`*`). `inside`: the price
 * holds it and the seller hands it on; else the buyer pays it on top. It is counted on items and shipping.
 */
export interface Tax {
  readonly country: string;
  readonly label: string;
  readonly ratePpm: number;
  readonly inside: boolean;
  /** The class of goods that it is for; absent: standard. */
  readonly taxClass?: TaxClass;
  /** First day on which it holds, YYYY-MM-DD; absent: always. */
  readonly firstDay?: string;
}

/** Goods of a kind that a country (`*`: every one) taxes at another class than standard. */
export interface GoodClass {
  readonly kind: string;
  readonly country: string;
  readonly taxClass: TaxClass;
}

/** The country of a destination: `US` of `US-CA`. */
export const countryOf = (destination: string): string => destination.slice(0, 2);

/** States of a country that have a tax of their own. */
export const taxedStates = (taxes: readonly Tax[], country: string): string[] => [
  ...new Set(taxes.flatMap((tax) => (tax.country.startsWith(`${country}-`) ? [tax.country] : []))),
];

/** The class of a kind of good in a country: what names the country goes before what names all. */
export const classOf = (goods: readonly GoodClass[], kind: string, country: string): TaxClass =>
  (
    goods.find((one) => one.kind === kind && one.country === country) ??
    goods.find((one) => one.kind === kind && one.country === '*')
  )?.taxClass ?? 'standard';

/** What is asked of a tax beside the destination; absent: standard goods, on any day. */
export interface TaxAsk {
  readonly taxClass?: TaxClass;
  /** YYYY-MM-DD: of several that hold the one that began last. */
  readonly day?: string;
}

/**
 * The tax for a destination: one that names its state, else its country, else one for all, else none. A class that is not named there is taxed as
 * standard, and goods of class zero are not taxed.
 */
export function taxTo(
  taxes: readonly Tax[],
  destination: string,
  { taxClass = 'standard', day }: TaxAsk = {},
): Tax | null {
  for (const place of [destination, countryOf(destination), '*']) {
    const there = taxes.filter((tax) => tax.country === place && (day === undefined || (tax.firstDay ?? day) <= day));
    if (there.length === 0) continue;
    const newest = (wanted: TaxClass): Tax | undefined =>
      there
        .filter((tax) => (tax.taxClass ?? 'standard') === wanted)
        .reduce<Tax | undefined>(
          (last, tax) => (last && (last.firstDay ?? '') > (tax.firstDay ?? '') ? last : tax),
          undefined,
        );
    const own = newest(taxClass);
    if (own) return own;
    if (taxClass === 'zero') return null;
    return newest('standard') ?? null;
  }
  return null;
}

/** Tax within a sum that holds it: sum × rate ÷ (1 + rate), rounded half away from zero once. */
export const taxWithin = (sumMinor: number, { ratePpm }: Tax): number => mulDiv(sumMinor, ratePpm, PPM + ratePpm);

/** Tax on top of a sum: sum × rate, rounded half away from zero once. */
export const taxOnTop = (sumMinor: number, { ratePpm }: Tax): number => mulDiv(sumMinor, ratePpm, PPM);
