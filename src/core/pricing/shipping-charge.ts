import { shippingTo, type Blank, type PriceList } from '../catalog/blank';
import { money } from './money';
import type { Outlet } from './outlet';
import { ownEntry } from '../own-entry';
import type { RateTable } from './rates';
import type { ToldShipping } from './told-shipping';

interface ChargeWorld {
  readonly blank: Pick<Blank, 'parcelClass'>;
  readonly list: Pick<PriceList, 'shipping' | 'currency'>;
  readonly outlet: Pick<Outlet, 'currency' | 'eachItemAlike' | 'shippingByClass'>;
  readonly rates: RateTable;
}

/**
 * Shipping to a country as a shop is told it: what the store asks for goods of that parcel class, else what the partner takes, first and further item,
 * each converted and rounded once. A quote counts a basket from these two, so that it is what the buyer pays to the cent. A shop that takes the same for
 * each item takes the first's. Null where the partner does not send. Throws `rate-missing`.
 */
export function shippingCharge({ blank, list, outlet, rates }: ChargeWorld, country: string): ToldShipping | null {
  const line = shippingTo(list, country);
  if (!line) return null;
  const convert = (minor: number) => rates.convertCost(money(minor, list.currency), outlet.currency).amountMinor;
  const { firstMinor, furtherMinor } = ownEntry(outlet.shippingByClass, blank.parcelClass) ?? {
    firstMinor: convert(line.firstMinor),
    furtherMinor: convert(line.furtherMinor),
  };
  return { firstMinor, furtherMinor: outlet.eachItemAlike ? firstMinor : furtherMinor };
}
