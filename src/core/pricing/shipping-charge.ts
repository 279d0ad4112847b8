import { shippingTo, type PriceList } from '../catalog/blank';
import { money } from './money';
import type { Outlet } from './outlet';
import type { RateTable } from './rates';

/** What a buyer pays for sending: for the first item of a parcel, and for each further one. Minor units. */
export interface ToldShipping {
  readonly firstMinor: number;
  readonly furtherMinor: number;
}

/**
 * The partner's shipping to a country as a shop is told it: first and further item, each converted and rounded once. A quote counts a basket from
 * these two, so that it is what the buyer pays to the cent. A shop that takes the same for each item takes the first's. Null where the partner does not send. Throws `rate-missing`.
 */
export function shippingCharge(
  list: Pick<PriceList, 'shipping' | 'currency'>,
  country: string,
  { currency, eachItemAlike }: Pick<Outlet, 'currency' | 'eachItemAlike'>,
  rates: RateTable,
): ToldShipping | null {
  const line = shippingTo(list, country);
  if (!line) return null;
  const convert = (minor: number) => rates.convertCost(money(minor, list.currency), currency).amountMinor;
  const firstMinor = convert(line.firstMinor);
  return { firstMinor, furtherMinor: eachItemAlike ? firstMinor : convert(line.furtherMinor) };
}
