import countryToCurrency from 'country-to-currency';
import { ownEntry } from '@/core/own-entry';
import { isCurrency } from '@/core/pricing/money';

/** The currency in which a country counts; the pound where that is not known. */
export function currencyOf(country: string): string {
  const code = ownEntry(countryToCurrency as Record<string, string>, country);
  return code !== undefined && isCurrency(code) ? code : 'GBP';
}
