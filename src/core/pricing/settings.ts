import { unprintable } from '../json/bounds';
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

const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
const hasOnly = (value: Record<string, unknown>, keys: readonly string[]): boolean =>
  Object.keys(value).every((key) => keys.includes(key));
const isCountry = (value: unknown): value is string => typeof value === 'string' && COUNTRY.test(value);
/** What somebody sent, for a sentence: not more of it than a sentence bears. */
const told = (value: unknown): string => (typeof value === 'string' ? value.slice(0, 40).toWellFormed() : 'This');

const MOST_TAXES = 60;
const MOST_PARTNERS = 200;

function taxFaults(taxes: unknown): string[] {
  if (!Array.isArray(taxes) || taxes.length > MOST_TAXES) return [`There can be up to ${MOST_TAXES} taxes.`];
  const faults: string[] = [];
  const seen = new Set<unknown>();
  for (const tax of taxes as unknown[]) {
    if (!isRecord(tax) || !hasOnly(tax, ['country', 'ratePpm', 'label', 'inside'])) {
      faults.push('A tax has a country, a rate, a name, whether it is inside the price, and nothing else.');
      continue;
    }
    const { country, ratePpm, label, inside } = tax;
    if (country !== '*' && !isCountry(country))
      faults.push(`“${told(country)}” is not a country; it has two letters, such as GB, or * for all others.`);
    else if (seen.has(country)) faults.push(`There are two taxes for ${country}; one holds for each destination.`);
    seen.add(country);
    if (!isShare(ratePpm, 1_000_000)) faults.push(`The tax for ${told(country)} must be from 0 % to 100 %.`);
    if (typeof label !== 'string' || label.length > 60 || unprintable(label))
      faults.push('A tax needs a name of up to 60 characters.');
    if (typeof inside !== 'boolean') faults.push('A tax is within the price, or on top of it.');
  }
  return faults;
}

function discountFaults(discounts: unknown): string[] {
  if (!isRecord(discounts) || Object.keys(discounts).length > MOST_PARTNERS)
    return [`Discounts are shares by partner, up to ${MOST_PARTNERS}.`];
  const faults: string[] = [];
  if (!Object.keys(discounts).every((id) => /^[a-z0-9-]{1,40}$/.test(id)))
    faults.push('Discounts are kept by the ids of partners.');
  if (!Object.values(discounts).every((ppm) => isShare(ppm, 900_000)))
    faults.push('A partner’s discount must be from 0 % to 90 %.');
  return faults;
}

function mixFaults(mix: unknown): string[] {
  if (!Array.isArray(mix) || mix.length > MOST_TAXES) return ['There can be up to 60 destinations.'];
  const faults: string[] = [];
  for (const part of mix as unknown[]) {
    if (!isRecord(part) || !hasOnly(part, ['country', 'weight'])) {
      faults.push('A destination has a country, a weight, and nothing else.');
      continue;
    }
    if (!isCountry(part.country)) faults.push(`“${told(part.country)}” is not a country of two letters.`);
    if (!isShare(part.weight, 1000) || part.weight < 1)
      faults.push('How often one sells to a destination is a whole number from 1 to 1000.');
  }
  const countries = (mix as unknown[]).map((part) => (isRecord(part) ? part.country : part));
  if (new Set(countries).size < mix.length) faults.push('A destination is there twice.');
  return faults;
}

/** Faults of such settings, as sentences; none means they can be kept. */
export function checkMoneySettings(value: unknown): string[] {
  if (!isRecord(value)) return ['Settings are an object.'];
  const { rateMarginPpm, taxes, discounts, mix } = value;
  const faults = hasOnly(value, ['rateMarginPpm', 'taxes', 'discounts', 'mix'])
    ? []
    : ['Settings are rateMarginPpm, taxes, discounts and mix, and nothing else.'];
  if (!isShare(rateMarginPpm, 500_000)) faults.push('The safety margin on rates must be from 0 % to 50 %.');
  return [...faults, ...taxFaults(taxes), ...discountFaults(discounts), ...mixFaults(mix)].slice(0, 50);
}
