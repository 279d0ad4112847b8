import type { Fee } from './fees';
import { money, mulDiv, PPM } from './money';
import type { RateTable } from './rates';
import { countryOf } from './tax';

/** What a seller pays beside partners and stores. Sums in minor units of `currency`. All zeros: nothing is counted. */
export interface OwnCosts {
  readonly currency: string;
  /** Items that the seller expects to sell in a month, in all stores together: what sums by the day and the month are spread over. */
  readonly itemsPerMonth: number;
  /** Ads: a share of what is paid for items, and a sum by the day. */
  readonly adsPpm: number;
  readonly adsPerDayMinor: number;
  /** The share of items that comes back, and what is lost each time; null: making and shipping of the item. */
  readonly returnsPpm: number;
  readonly returnLossMinor: number | null;
  readonly monthly: readonly { readonly label: string; readonly amountMinor: number }[];
  /** Tax on what partners take that the seller cannot get back. */
  readonly inputTaxPpm: number;
}

export const NO_OWN_COSTS: OwnCosts = {
  currency: 'GBP',
  itemsPerMonth: 100,
  adsPpm: 0,
  adsPerDayMinor: 0,
  returnsPpm: 0,
  returnLossMinor: null,
  monthly: [],
  inputTaxPpm: 0,
};

/** Whether any of them is counted. */
export const hasOwnCosts = (own: OwnCosts): boolean =>
  own.adsPpm > 0 || own.adsPerDayMinor > 0 || own.returnsPpm > 0 || own.inputTaxPpm > 0 || own.monthly.length > 0;

/** Duty on goods that come from elsewhere, from a value on. Sums in minor units of `currency`. */
export interface Duty {
  /** ISO 3166 alpha-2, or `EU`. */
  readonly country: string;
  readonly label: string;
  readonly ratePpm: number;
  /** Goods of one order that cost no more than this are free. */
  readonly overMinor: number;
  readonly currency: string;
  /** First day on which it holds, YYYY-MM-DD; absent: always. */
  readonly firstDay?: string;
}

/** Members of the customs union of the EU among countries (ISO 3166; common knowledge of 2026, from memory). */
const EU = new Set('AT BE BG CY CZ DE DK EE ES FI FR GR HR HU IE IT LT LU LV MT NL PL PT RO SE SI SK'.split(' '));
const customsArea = (country: string): string => (EU.has(country) ? 'EU' : country);

/**
 * Goods of up to 150 EUR come into the EU free of duty (Council Regulation (EC) No 1186/2009, article 23; from memory, and it is being changed:
 * a seller looks whether it still holds). The rate is that of most garments, 12 % (Common Customs Tariff, chapters 61 and 62; from memory).
 */
export const EU_DUTY: Duty = {
  country: 'EU',
  label: 'Duty into the EU',
  ratePpm: 120_000,
  overMinor: 15_000,
  currency: 'EUR',
};

/** The duty on goods that a partner sends from one country to another on a day; null within one customs area, and where there is none. */
export function dutyTo(duties: readonly Duty[], from: string, to: string, day?: string): Duty | null {
  const [there, area] = [countryOf(to), customsArea(countryOf(to))];
  if (customsArea(from) === area) return null;
  const holding = duties.filter(
    (duty) => (duty.country === there || duty.country === area) && (day === undefined || (duty.firstDay ?? day) <= day),
  );
  return holding.reduce<Duty | null>(
    (last, duty) => (last && (last.firstDay ?? '') > (duty.firstDay ?? '') ? last : duty),
    null,
  );
}

/** A share as a person reads it. */
const percent = (ppm: number): string => `${ppm / 10_000} %`;

/**
 * Own costs of an order of `items` as fees, in an outlet's currency: sums by the month and day are spread over the items of a month and rounded up, so
 * that they are never short. `landedMinor` is for the order.
 */
export function ownFees(
  costs: OwnCosts,
  order: { readonly landedMinor: number; readonly items: number },
  currency: string,
  rates: RateTable,
): Fee[] {
  const fees: Fee[] = [];
  const add = (id: string, label: string, also: Partial<Fee>) =>
    fees.push({ id: `own-${id}`, label, of: 'item', ratePpm: 0, per: 'order', fixedMinor: 0, own: true, ...also });
  const here = (amountMinor: number) => rates.convertCost(money(amountMinor, costs.currency), currency).amountMinor;
  const spread = (monthlyMinor: number) =>
    mulDiv(here(monthlyMinor) * order.items, 1, Math.max(1, costs.itemsPerMonth), 'up');
  if (costs.adsPpm > 0) add('ads', `Ads, ${percent(costs.adsPpm)} of the items`, { ratePpm: costs.adsPpm });
  if (costs.adsPerDayMinor > 0) {
    const monthly = mulDiv(costs.adsPerDayMinor, 365, 12, 'up');
    add('ads-day', `Ads by the day, spread over ${costs.itemsPerMonth} items a month`, { fixedMinor: spread(monthly) });
  }
  if (costs.returnsPpm > 0) {
    const lost = costs.returnLossMinor === null ? order.landedMinor : here(costs.returnLossMinor) * order.items;
    const what = costs.returnLossMinor === null ? 'making and shipping' : 'what is lost each time';
    add('returns', `Returns, ${percent(costs.returnsPpm)} of ${what}`, {
      fixedMinor: mulDiv(lost, costs.returnsPpm, PPM, 'up'),
    });
  }
  for (const [i, { label, amountMinor }] of costs.monthly.entries())
    add(`month-${i}`, `${label}, spread over ${costs.itemsPerMonth} items a month`, {
      fixedMinor: spread(amountMinor),
    });
  if (costs.inputTaxPpm > 0)
    add('input-tax', `Input tax, ${percent(costs.inputTaxPpm)} of making and shipping`, {
      fixedMinor: mulDiv(order.landedMinor, costs.inputTaxPpm, PPM),
    });
  return fees;
}

/** A duty as a fee, in an outlet's currency. */
export const dutyFee = (
  { label, ratePpm, overMinor, currency: of }: Duty,
  currency: string,
  rates: RateTable,
): Fee => ({
  id: 'own-duty',
  label: `${label}, ${percent(ratePpm)}`,
  of: 'item',
  ratePpm,
  per: 'order',
  fixedMinor: 0,
  overMinor: rates.convert(money(overMinor, of), currency).amountMinor,
  own: true,
});
