import type { Tax } from './tax';

/** What holds for all prices of a workspace. */
export interface MoneySettings {
  /** Added to the rate at which costs are converted, parts per million. */
  readonly rateMarginPpm: number;
  readonly taxes: readonly Tax[];
  /** What partners take off all making for this seller, by the partner's id, parts per million. */
  readonly discounts: { readonly [partnerId: string]: number };
  /** Where the seller sells: weights by destination; empty means the workspace's own country alone. */
  readonly mix: readonly { readonly country: string; readonly weight: number }[];
}

export const PLAIN_SETTINGS: MoneySettings = { rateMarginPpm: 0, taxes: [], discounts: {}, mix: [] };

const COUNTRY = /^[A-Z]{2}$/;
const isShare = (value: unknown, most: number): value is number =>
  Number.isInteger(value) && (value as number) >= 0 && (value as number) <= most;

/** Every fault of such settings, as sentences; none means they can be kept. */
export function checkMoneySettings(value: unknown): string[] {
  const { rateMarginPpm, taxes, discounts, mix } = (value ?? {}) as Partial<MoneySettings>;
  const faults: string[] = [];
  if (!isShare(rateMarginPpm, 500_000)) faults.push('The safety margin on rates must be from 0 % to 50 %.');
  if (!Array.isArray(taxes) || taxes.length > 60) faults.push('There can be up to 60 taxes.');
  else {
    const seen = new Set<string>();
    for (const tax of taxes) {
      if (tax?.country !== '*' && !COUNTRY.test(tax?.country ?? ''))
        faults.push(`“${String(tax?.country)}” is not a country; it has two letters, such as GB, or * for all others.`);
      if (seen.has(tax?.country))
        faults.push(`There are two taxes for ${tax.country}; one holds for each destination.`);
      seen.add(tax?.country);
      if (!isShare(tax?.ratePpm, 1_000_000)) faults.push(`The tax for ${tax?.country} must be from 0 % to 100 %.`);
      if (typeof tax?.label !== 'string' || tax.label.length > 60)
        faults.push('A tax needs a name of up to 60 characters.');
      if (typeof tax?.inside !== 'boolean') faults.push('A tax is within the price, or on top of it.');
    }
  }
  if (typeof discounts !== 'object' || discounts === null) faults.push('Discounts are shares by partner.');
  else
    for (const ppm of Object.values(discounts))
      if (!isShare(ppm, 900_000)) faults.push('A partner’s discount must be from 0 % to 90 %.');
  if (!Array.isArray(mix) || mix.length > 60) faults.push('There can be up to 60 destinations.');
  else {
    for (const part of mix) {
      if (!COUNTRY.test(part?.country ?? ''))
        faults.push(`“${String(part?.country)}” is not a country of two letters.`);
      if (!Number.isInteger(part?.weight) || part.weight < 1 || part.weight > 1000)
        faults.push('How often one sells to a destination is a whole number from 1 to 1000.');
    }
    if (new Set(mix.map((part) => part?.country)).size < mix.length) faults.push('A destination is there twice.');
  }
  return faults;
}
