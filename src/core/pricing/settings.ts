import { unprintable } from '../json/bounds';
import { MAX_RETAIL_MINOR } from './money';
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
  /** By currency: the prices that may be asked for, rising, in its minor units. */
  readonly ladders: { readonly [currency: string]: readonly number[] };
}

export const PLAIN_SETTINGS: MoneySettings = { rateMarginPpm: 0, taxes: [], discounts: {}, mix: [], ladders: {} };

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

const MOST_RUNGS = 200;

function ladderFaults(ladders: unknown): string[] {
  if (!isRecord(ladders) || Object.keys(ladders).length > 30)
    return ['Ladders are lists of prices by currency, up to 30.'];
  return Object.entries(ladders).flatMap(([currency, rungs]) => {
    if (!/^[A-Z]{3}$/.test(currency)) return [`“${told(currency)}” is not a currency of three letters.`];
    if (!Array.isArray(rungs) || rungs.length === 0 || rungs.length > MOST_RUNGS)
      return [`A ladder has from 1 to ${MOST_RUNGS} prices.`];
    const whole = rungs.every((rung) => isShare(rung, MAX_RETAIL_MINOR) && rung > 0);
    return whole && rungs.every((rung, i) => i === 0 || (rung as number) > (rungs[i - 1] as number))
      ? []
      : [`The ladder in ${currency} must be whole minor units above zero, each more than the one before.`];
  });
}

/** Faults of such settings, as sentences; none means they can be kept. */
export function checkMoneySettings(value: unknown): string[] {
  if (!isRecord(value)) return ['Settings are an object.'];
  const { rateMarginPpm, taxes, discounts, mix, ladders } = value;
  const faults = hasOnly(value, Object.keys(PLAIN_SETTINGS))
    ? []
    : [`Settings are ${Object.keys(PLAIN_SETTINGS).join(', ')}, and nothing else.`];
  if (!isShare(rateMarginPpm, 500_000)) faults.push('The safety margin on rates must be from 0 % to 50 %.');
  return [
    ...faults,
    ...taxFaults(taxes),
    ...discountFaults(discounts),
    ...mixFaults(mix),
    ...ladderFaults(ladders),
  ].slice(0, 50);
}
