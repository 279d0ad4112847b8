import { TypicaError } from '../errors';
import { fixedPart, totalRatePpm } from './fees';
import { minorDigits, PPM } from './money';
import { itemsPaidMinor, profitMinor, type Terms } from './quote';

/** What the seller fixes: a price, a profit per item, a margin (share of what is paid for items) or a markup (share of landed cost), parts per million. */
export type Aim =
  | { readonly kind: 'retail'; readonly amountMinor: number }
  | { readonly kind: 'profit'; readonly amountMinor: number }
  | { readonly kind: 'margin'; readonly ppm: number }
  | { readonly kind: 'markup'; readonly ppm: number };

/** How a price is rounded up. */
export const ENDINGS = ['none', '.99', '.95', '.50', '.00'] as const;
export type Ending = (typeof ENDINGS)[number];

/** No price above this: a hundred million minor units. */
export const MAX_RETAIL_MINOR = 100_000_000;

/** One kind of order and how often it comes, as a whole number of any unit. */
export interface MixPart {
  readonly terms: Terms;
  readonly weight: number;
}

/** The next price at or above `amountMinor` with this ending; currencies without two decimals keep the price as it is. */
export function withEnding(amountMinor: number, ending: Ending, currency: string): number {
  if (ending === 'none' || minorDigits(currency) !== 2) return amountMinor;
  const cents = Number(ending.slice(1));
  const candidate = Math.floor(amountMinor / 100) * 100 + cents;
  return candidate >= amountMinor ? candidate : candidate + 100;
}

const unsolvable = (message: string, fields: Record<string, unknown>) =>
  new TypicaError('invalid', 'price-unsolvable', message, fields);

/**
 * By how much an order's profit at a price exceeds an aim: 0 or more where it is met. Whole numbers: minor units for a profit, millionths of
 * them for shares.
 */
export function surplusOver(terms: Terms, aim: Exclude<Aim, { kind: 'retail' }>, retailMinor: number): number {
  const left = profitMinor(terms, retailMinor);
  if (aim.kind === 'profit') return left - aim.amountMinor * terms.items;
  const of = aim.kind === 'margin' ? itemsPaidMinor(terms, retailMinor) : terms.landed.totalMinor;
  return left * PPM - aim.ppm * of;
}

/** The lowest price from which on the items' sum reaches `sumMinor`. */
function priceReaching(terms: Terms, sumMinor: number): number {
  const share = Math.max(1, PPM - terms.salePpm);
  let price = Math.max(0, Math.floor((((sumMinor + terms.voucherMinor) / terms.items) * PPM) / share) - 2);
  while (price > 0 && itemsPaidMinor(terms, price - 1) >= sumMinor) price -= 1;
  while (price < MAX_RETAIL_MINOR && itemsPaidMinor(terms, price) < sumMinor) price += 1;
  return price;
}

/** Prices at which the line from price to profit bends or falls: where shipping becomes free, a voucher is used up, a fee leaves its least or reaches its most. */
function breaksOf(terms: Terms): number[] {
  const breaks: number[] = [];
  const { freeFromMinor, fees, items, expectedSales, shippingChargedMinor, tax } = terms;
  if (terms.voucherMinor > 0) breaks.push(priceReaching(terms, 1));
  if (freeFromMinor !== null) breaks.push(priceReaching(terms, freeFromMinor));
  for (const fee of fees) {
    if (fee.ratePpm === 0) continue;
    const times = fee.per === 'item' ? items : 1;
    for (const bound of [fee.minMinor, fee.maxMinor]) {
      if (bound === undefined) continue;
      const base = ((bound * times - fixedPart(fee, items, expectedSales)) * PPM) / fee.ratePpm;
      // With shipping and without it; rounding moves the place by a few units at the most, which the slack covers.
      for (const shipping of fee.of === 'item'
        ? [0]
        : freeFromMinor === null
          ? [shippingChargedMinor]
          : [shippingChargedMinor, 0]) {
        const before = fee.of === 'total' && tax && !tax.inside ? (base * PPM) / (PPM + tax.ratePpm) : base;
        const sum = before - shipping;
        if (sum > 0 && sum / items < MAX_RETAIL_MINOR) breaks.push(priceReaching(terms, Math.ceil(sum)));
      }
    }
  }
  return breaks;
}

/** How far what is computed may lie from the straight line, in minor units: each rounding by half a unit, each bend by a few. */
const roundingsOf = ({ salePpm, items, tax, fees }: Terms, bends: boolean): number => {
  let most = (bends ? 2 : 0) + (salePpm > 0 ? items : 0) + (tax ? 1 : 0);
  for (const fee of fees) {
    const bounded = fee.minMinor !== undefined || fee.maxMinor !== undefined;
    // What is not a share of the price is the same at every price.
    most += (fee.ratePpm > 0 ? 1 : 0) + (fee.taxPpm ? 1 : 0) + (bounded ? 2 : 0);
  }
  return most;
};

/**
 * The lowest price at which `surplus` is 0 or more, or null. `surplus` runs along straight lines between `breaks`, but for
 * roundings of up to `slack` in all. On each rising line the place is found by interpolation and bisection on the line raised by the slack:
 * below it no price meets the aim, and from it the first that does is the answer. A falling line is best where it begins.
 */
function lowestMeeting(surplus: (price: number) => number, breaks: readonly number[], slack: number): number | null {
  const ends =
    breaks.length === 0 ? [0, MAX_RETAIL_MINOR] : [...new Set([0, ...breaks, MAX_RETAIL_MINOR])].sort((a, b) => a - b);
  for (let i = 0; i + 1 < ends.length; i += 1) {
    const [from, to] = [ends[i]!, i + 2 < ends.length ? ends[i + 1]! - 1 : ends[i + 1]!];
    const first = surplus(from);
    if (first >= 0) return from;
    if (to <= from) continue;
    const last = surplus(to);
    if (last < first) {
      // Falling: only roundings near its beginning can still meet the aim.
      for (let price = from + 1; price <= to && price < from + 10_000; price += 1) {
        const value = surplus(price);
        if (value >= 0) return price;
        if (value < -slack) break;
      }
      continue;
    }
    if (last < -slack) continue;
    let [low, high] = [from, to];
    if (first < -slack) {
      // The line says where; a few prices to either side it is certain.
      const guess = from + Math.floor(((-slack - first) / (last - first)) * (to - from));
      for (let reach = 4; ; reach *= 8) {
        const [a, b] = [Math.max(from, guess - reach), Math.min(to, guess + reach)];
        const left = a === from || surplus(a) < -slack;
        const right = b === to || surplus(b) >= -slack;
        if (left) low = a;
        if (right) high = b;
        if ((left && right) || (a === from && b === to)) break;
      }
      while (high - low > 1) {
        const middle = Math.floor((low + high) / 2);
        if (surplus(middle) >= -slack) high = middle;
        else low = middle;
      }
    } else high = from;
    for (let price = high; price <= to; price += 1) if (surplus(price) >= 0) return price;
  }
  return null;
}

/** Why no price meets an aim, in a sentence. */
function refuse(terms: Terms, aim: Aim): TypicaError {
  const taken = totalRatePpm(terms.fees);
  const percent = (ppm: number) => `${ppm / 10_000} %`;
  if (aim.kind === 'margin' && taken < PPM)
    return unsolvable(
      `A margin of ${percent(aim.ppm)} cannot be reached: with the store’s fees${terms.tax?.inside ? ' and the tax' : ''} it would take ${percent(taken + aim.ppm)} of the price${terms.tax?.inside ? ' and more' : ''}.`,
      { aim, takenPpm: taken + aim.ppm },
    );
  if (taken >= PPM)
    return unsolvable(`The store’s fees take ${percent(taken)} of the price; no price brings a profit.`, {
      aim,
      takenPpm: taken,
    });
  return unsolvable('No price below a million meets this aim.', { aim });
}

/** The lowest retail price at which the mix of orders meets the aim on the whole. Throws `price-unsolvable`. */
export function solveMix(mix: readonly MixPart[], aim: Aim): number {
  if (aim.kind === 'retail') return aim.amountMinor;
  const unit = aim.kind === 'profit' ? 1 : PPM;
  let slack = 0;
  const breaks: number[] = [];
  for (const { terms, weight } of mix) {
    const own = breaksOf(terms);
    slack +=
      (roundingsOf(terms, own.length > 0) + (aim.kind === 'margin' && terms.salePpm > 0 ? terms.items : 0)) *
      unit *
      weight;
    breaks.push(...own);
  }
  const [only] = mix;
  const surplus =
    mix.length === 1 && only!.weight === 1
      ? (price: number) => surplusOver(only!.terms, aim, price)
      : (price: number) => mix.reduce((sum, { terms, weight }) => sum + weight * surplusOver(terms, aim, price), 0);
  const price = lowestMeeting(surplus, breaks, slack);
  if (price === null) throw refuse(only!.terms, aim);
  return price;
}

/**
 * The lowest retail price whose profit meets the aim, in minor units: one unit less does not. Right where fees have leasts and mosts, and
 * where shipping becomes free. Throws `price-unsolvable` when fees, tax and the aim take everything that a higher price would bring.
 */
export const solveRetail = (terms: Terms, aim: Aim): number =>
  aim.kind === 'retail' ? aim.amountMinor : solveMix([{ terms, weight: 1 }], aim);

/** The floor: the lowest price at which nothing is lost, after everything. */
export const floorMinor = (terms: Terms): number => solveRetail(terms, { kind: 'profit', amountMinor: 0 });

/** Whether the mix meets the aim at a price. */
const meets = (terms: Terms, aim: Aim, price: number): boolean =>
  aim.kind === 'retail' || surplusOver(terms, aim, price) >= 0;

/**
 * The price for an aim, rounded up to an ending; a price that the seller typed stays as typed. Never below the aim: where rounding up
 * makes shipping free, the next ending that meets the aim is taken.
 */
export function priceFor(terms: Terms, aim: Aim, ending: Ending): number {
  if (aim.kind === 'retail') return aim.amountMinor;
  const least = solveRetail(terms, aim);
  let price = withEnding(least, ending, terms.currency);
  while (!meets(terms, aim, price) && price <= MAX_RETAIL_MINOR) price = withEnding(price + 1, ending, terms.currency);
  return price;
}
