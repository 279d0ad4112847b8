import { parcelCost, type LeastMaking, type ParcelCost } from '../pricing/landed';
import type { RateTable } from '../pricing/rates';
import { shippingTo, type ShippingLine } from '../catalog/blank';
import type { ShelfPrices } from './shelf';

/** Landed cost by partner's cost, kept for the length of one query: many blanks share few costs. */
export function memoRates(currency: string, rates: RateTable) {
  const kept = new Map<string, ParcelCost>();
  return (making: LeastMaking, line: ShippingLine, items: number): ParcelCost => {
    const { currency: from, baseMinor, printMinor, discountPpm } = making;
    const key = `${from}/${baseMinor}/${printMinor}/${line.firstMinor}/${line.furtherMinor}/${discountPpm}`;
    let cost = kept.get(key);
    if (!cost) kept.set(key, (cost = parcelCost(making, line, items, currency, rates)));
    return cost;
  };
}

/** The shipping line of a parcel class to a country, found once for each list. */
export function memoShipping(country: string) {
  const kept = new Map<ShelfPrices, Map<string, ShippingLine | null>>();
  return (prices: ShelfPrices, parcelClass: string): ShippingLine | null => {
    let lines = kept.get(prices);
    if (!lines) kept.set(prices, (lines = new Map()));
    let line = lines.get(parcelClass);
    if (line === undefined) {
      line = shippingTo({ shipping: prices.shipping.get(parcelClass) ?? [] }, country);
      lines.set(parcelClass, line);
    }
    return line;
  };
}
