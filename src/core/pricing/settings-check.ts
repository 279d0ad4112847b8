import { unprintable } from '../json/bounds';
import { isDay } from './days';
import { isCurrency, MAX_RETAIL_MINOR } from './money';
import { NO_OWN_COSTS } from './own-costs';
import { PLAIN_SETTINGS } from './settings';
import { TAX_CLASSES, type TaxClass } from './tax';

const COUNTRY = /^[A-Z]{2}$/;
const PLACE = /^[A-Z]{2}(?:-[A-Z0-9]{1,3})?$/;
const isPlace = (value: unknown): value is string => typeof value === 'string' && PLACE.test(value);
const noDay = (value: unknown): string => `“${told(value)}” is not a day; write it as 2026-11-28.`;
const isName = (value: unknown, most: number): boolean =>
  typeof value === 'string' && value.trim() !== '' && value.length <= most && !unprintable(value);
const isShare = (value: unknown, most: number): value is number =>
  Number.isInteger(value) && (value as number) >= 0 && (value as number) <= most;

const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
const hasOnly = (value: Record<string, unknown>, keys: readonly string[]): boolean =>
  Object.keys(value).every((key) => keys.includes(key));
const isCountry = (value: unknown): value is string => typeof value === 'string' && COUNTRY.test(value);
/** What somebody sent, for a sentence: not more of it than a sentence bears. */
const told = (value: unknown): string => (typeof value === 'string' ? value.slice(0, 40).toWellFormed() : 'This');

const MAX_TAXES = 60;
const MAX_PARTNERS = 200;

function taxFaults(taxes: unknown): string[] {
  if (!Array.isArray(taxes) || taxes.length > MAX_TAXES) return [`There can be up to ${MAX_TAXES} taxes.`];
  const faults: string[] = [];
  const seen = new Set<unknown>();
  for (const tax of taxes as unknown[]) {
    if (!isRecord(tax) || !hasOnly(tax, ['country', 'ratePpm', 'label', 'inside', 'taxClass', 'firstDay'])) {
      faults.push(
        'A tax has a country, a rate, a name, whether it is inside the price, a class, a first day, and nothing else.',
      );
      continue;
    }
    const { country, ratePpm, label, inside, taxClass = 'standard', firstDay } = tax;
    if (country !== '*' && !isPlace(country))
      faults.push(
        `“${told(country)}” is not a country; it has two letters, such as GB, a state as in US-CA, or * for all others.`,
      );
    else if (seen.has(`${country} ${told(taxClass)} ${told(firstDay)}`))
      faults.push(`There are two taxes for ${country} of one class and day; one holds for each destination.`);
    seen.add(`${told(country)} ${told(taxClass)} ${told(firstDay)}`);
    if (!TAX_CLASSES.includes(taxClass as TaxClass)) faults.push(`The class of a tax is ${TAX_CLASSES.join(', ')}.`);
    if (firstDay !== undefined && !isDay(firstDay)) faults.push(noDay(firstDay));
    if (!isShare(ratePpm, 1_000_000)) faults.push(`The tax for ${told(country)} must be from 0 % to 100 %.`);
    if (typeof label !== 'string' || label.length > 60 || unprintable(label))
      faults.push('A tax needs a name of up to 60 characters.');
    if (typeof inside !== 'boolean') faults.push('A tax is within the price, or on top of it.');
  }
  return faults;
}

function discountFaults(discounts: unknown): string[] {
  if (!isRecord(discounts) || Object.keys(discounts).length > MAX_PARTNERS)
    return [`Discounts are shares by partner, up to ${MAX_PARTNERS}.`];
  const faults: string[] = [];
  if (!Object.keys(discounts).every((id) => /^[a-z0-9-]{1,40}$/.test(id)))
    faults.push('Discounts are kept by the ids of partners.');
  if (!Object.values(discounts).every((ppm) => isShare(ppm, 900_000)))
    faults.push('A partner’s discount must be from 0 % to 90 %.');
  return faults;
}

function mixFaults(mix: unknown): string[] {
  if (!Array.isArray(mix) || mix.length > MAX_TAXES) return ['There can be up to 60 destinations.'];
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

const MAX_RUNGS = 200;

function ladderFaults(ladders: unknown): string[] {
  if (!isRecord(ladders) || Object.keys(ladders).length > 30)
    return ['Ladders are lists of prices by currency, up to 30.'];
  return Object.entries(ladders).flatMap(([currency, rungs]) => {
    if (!/^[A-Z]{3}$/.test(currency)) return [`“${told(currency)}” is not a currency of three letters.`];
    if (!Array.isArray(rungs) || rungs.length === 0 || rungs.length > MAX_RUNGS)
      return [`A ladder has from 1 to ${MAX_RUNGS} prices.`];
    const whole = rungs.every((rung) => isShare(rung, MAX_RETAIL_MINOR) && rung > 0);
    return whole && rungs.every((rung, i) => i === 0 || (rung as number) > (rungs[i - 1] as number))
      ? []
      : [`The ladder in ${currency} must be whole minor units above zero, each more than the one before.`];
  });
}

const MAX_GOODS = 200;

function goodFaults(goods: unknown): string[] {
  if (!Array.isArray(goods) || goods.length > MAX_GOODS) return [`There can be up to ${MAX_GOODS} kinds of goods.`];
  return (goods as unknown[]).flatMap((good) => {
    if (!isRecord(good) || !hasOnly(good, ['kind', 'country', 'taxClass']))
      return ['A kind of good has its name, a country, a class, and nothing else.'];
    const faults: string[] = [];
    if (!isName(good.kind, 60)) faults.push('A kind of good has a name of up to 60 characters.');
    if (good.country !== '*' && !isCountry(good.country))
      faults.push(`“${told(good.country)}” is not a country of two letters, or * for all.`);
    if (!TAX_CLASSES.includes(good.taxClass as TaxClass))
      faults.push(`The class of a good is ${TAX_CLASSES.join(', ')}.`);
    return faults;
  });
}

function dutyFaults(duties: unknown): string[] {
  if (!Array.isArray(duties) || duties.length > MAX_TAXES) return [`There can be up to ${MAX_TAXES} duties.`];
  return (duties as unknown[]).flatMap((duty) => {
    if (!isRecord(duty) || !hasOnly(duty, ['country', 'label', 'ratePpm', 'overMinor', 'currency', 'firstDay']))
      return ['A duty has a country, a name, a rate, a sum with its currency, a first day, and nothing else.'];
    const faults: string[] = [];
    const { country, label, ratePpm, overMinor, currency, firstDay } = duty;
    if (!isCountry(country)) faults.push(`“${told(country)}” is not a country of two letters, or EU.`);
    if (!isName(label, 60)) faults.push('A duty needs a name of up to 60 characters.');
    if (!isShare(ratePpm, 990_000)) faults.push(`The duty of ${told(country)} must be from 0 % to 99 %.`);
    if (!isShare(overMinor, MAX_RETAIL_MINOR)) faults.push('The sum up to which goods are free is 0 or more.');
    if (typeof currency !== 'string' || !isCurrency(currency)) faults.push(`“${told(currency)}” is not a currency.`);
    if (firstDay !== undefined && !isDay(firstDay)) faults.push(noDay(firstDay));
    return faults;
  });
}

function ownFaults(own: unknown): string[] {
  if (!isRecord(own) || !hasOnly(own, Object.keys(NO_OWN_COSTS)))
    return [`Own costs are ${Object.keys(NO_OWN_COSTS).join(', ')}, and nothing else.`];
  const faults: string[] = [];
  const { currency, itemsPerMonth, adsPpm, adsPerDayMinor, returnsPpm, returnLossMinor, monthly, inputTaxPpm } = own;
  const sum = (value: unknown) => isShare(value, MAX_RETAIL_MINOR);
  if (typeof currency !== 'string' || !isCurrency(currency)) faults.push(`“${told(currency)}” is not a currency.`);
  if (!isShare(itemsPerMonth, 1_000_000) || itemsPerMonth < 1)
    faults.push('Items sold in a month are a whole number of 1 or more.');
  if (!isShare(adsPpm, 900_000)) faults.push('Ads take from 0 % to 90 % of what is paid for items.');
  if (!isShare(returnsPpm, 1_000_000)) faults.push('The share of items that comes back is from 0 % to 100 %.');
  if (!isShare(inputTaxPpm, 1_000_000)) faults.push('Input tax is from 0 % to 100 %.');
  if (!sum(adsPerDayMinor) || (returnLossMinor !== null && !sum(returnLossMinor)))
    faults.push('A sum of own costs is 0 or more.');
  if (!Array.isArray(monthly) || monthly.length > 20) faults.push('There can be up to 20 costs by the month.');
  else
    for (const one of monthly as unknown[])
      if (!isRecord(one) || !hasOnly(one, ['label', 'amountMinor']) || !isName(one.label, 60) || !sum(one.amountMinor))
        faults.push('A cost by the month has a name of up to 60 characters and a sum of 0 or more.');
  return faults;
}

/** Faults of such settings, as sentences; none means they can be kept. */
export function checkMoneySettings(value: unknown): string[] {
  if (!isRecord(value)) return ['Settings are an object.'];
  const { rateMarginPpm, taxes, discounts, mix, ladders, goods, duties, own } = value;
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
    ...goodFaults(goods),
    ...dutyFaults(duties),
    ...ownFaults(own),
  ].slice(0, 50);
}
