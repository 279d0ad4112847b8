import { isTypicaError } from '../errors';
import { formatMoney, formatPercent, isCurrency, MAX_RETAIL_MINOR, money, PPM } from './money';
import type { PricedVariant } from './pricer';
import type { RateTable } from './rates';
import { salePriceMinor, type Terms } from './quote';
import { solveGoals, surplusOver, type Aim } from './solve';

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
 * null when it is not met even without a discount. A deeper one that meets it again only because shipping is paid again is found too. Looked for from
 * `fromPpm` down.
 */
export function deepestSale(
  orders: readonly Terms[],
  retailMinor: number,
  keep: Exclude<Aim, { kind: 'retail' }>,
  fromPpm = PPM,
): DeepestSale | null {
  const met = (salePpm: number) => orders.every((terms) => surplusOver({ ...terms, salePpm }, keep, retailMinor) >= 0);
  for (let salePpm = fromPpm; salePpm >= 0; salePpm -= STEP_PPM)
    if (met(salePpm)) return { salePpm, priceMinor: salePriceMinor(retailMinor, salePpm) };
  return null;
}

/**
 * The largest voucher on an order of one item at which every order still meets the aim: what the price is above the lowest that does. Null where the
 * price itself does not, or none does.
 */
export function largestVoucherMinor(
  orders: readonly Terms[],
  retailMinor: number,
  keep: Exclude<Aim, { kind: 'retail' }>,
): number | null {
  try {
    const least = solveGoals(
      orders.map((terms) => [{ terms, weight: 1 }]),
      keep,
    );
    return least <= retailMinor ? retailMinor - least : null;
  } catch (error) {
    if (isTypicaError(error, 'price-unsolvable')) return null;
    throw error;
  }
}

/** What a sale takes off: a share, or a sum in a currency; or the price that everything costs in it. */
export type SaleTerms =
  | { readonly kind: 'share'; readonly ppm: number }
  | { readonly kind: 'sum' | 'price'; readonly amountMinor: number; readonly currency: string };

/** The same at one outlet, sums in its currency. */
export type SaleOff =
  { readonly kind: 'share'; readonly ppm: number } | { readonly kind: 'sum' | 'price'; readonly amountMinor: number };

/** A sale's terms at an outlet. Throws `rate-missing`. */
export const saleAt = (terms: SaleTerms, currency: string, rates: RateTable): SaleOff =>
  terms.kind === 'share'
    ? terms
    : { kind: terms.kind, amountMinor: rates.convert(money(terms.amountMinor, terms.currency), currency).amountMinor };

export interface SalePrice {
  readonly priceMinor: number;
  /** Whether the floor holds it above what the sale would make of it. */
  readonly held: boolean;
}

/**
 * A variant's price in a sale: what is taken off is rounded once, it is never dearer than without a sale, and never below the floor over all
 * destinations; where the price loses money without a sale already, it stays.
 */
export function salePrice(
  { retailMinor, floor }: Pick<PricedVariant, 'retailMinor' | 'floor'>,
  off: SaleOff,
): SalePrice {
  const wanted =
    off.kind === 'share'
      ? salePriceMinor(retailMinor, off.ppm)
      : off.kind === 'sum'
        ? retailMinor - off.amountMinor
        : off.amountMinor;
  const least = Math.min(retailMinor, floor.minor ?? retailMinor);
  const priceMinor = Math.max(1, least, Math.min(retailMinor, wanted));
  return { priceMinor, held: wanted < least };
}

/** Terms in words: `20 % off`, `3.00 GBP off`, `all at 9.99 GBP`. */
export const saleWords = (terms: SaleTerms): string =>
  terms.kind === 'share'
    ? `${formatPercent(terms.ppm, terms.ppm % 10_000 === 0 ? 0 : 1)} off`
    : terms.kind === 'sum'
      ? `${formatMoney(money(terms.amountMinor, terms.currency))} off`
      : `all at ${formatMoney(money(terms.amountMinor, terms.currency))}`;

/** Faults of what a sale takes off, as sentences. */
export function checkSaleTerms(value: unknown): string[] {
  if (typeof value !== 'object' || value === null) return ['A sale takes off a share or a sum, or has a price.'];
  const { kind, ppm, amountMinor, currency, ...rest } = value as Record<string, unknown>;
  if (Object.keys(rest).length > 0) return ['A sale has a kind and its share or sum, and nothing else.'];
  if (kind === 'share')
    return Number.isInteger(ppm) && (ppm as number) > 0 && (ppm as number) < PPM
      ? []
      : ['A sale takes off more than 0 % and less than 100 %.'];
  if (kind !== 'sum' && kind !== 'price') return ['A sale is a share, a sum or a price.'];
  const faults: string[] = [];
  if (!Number.isInteger(amountMinor) || (amountMinor as number) <= 0 || (amountMinor as number) > MAX_RETAIL_MINOR)
    faults.push('The sum of a sale is above zero.');
  if (typeof currency !== 'string' || !isCurrency(currency))
    faults.push('The sum of a sale needs a currency, such as GBP.');
  return faults;
}
