import { MAX_RETAIL_MINOR, minorDigits } from './money';
import { allMeet, solver, type Aim, type Goal } from './solve';
import { TypicaError } from '../errors';

/** How prices end: `none`, `ladder`, or digits such as `.99`, `4.99` or `80`; see `endingStep`. */
export type Ending = string;

/** Which way a price goes to its ending. */
export const WAYS = ['up', 'down', 'nearest'] as const;
export type Way = (typeof WAYS)[number];

/** How a price that was solved becomes one that is asked for. Amounts in minor units of the outlet's currency. */
export interface Rounding {
  readonly ending: Ending;
  readonly way: Way;
  /** The prices that may be asked for, rising; used where the ending is `ladder`. */
  readonly ladder?: readonly number[];
  /** The least and the most that the seller asks for. */
  readonly leastMinor?: number;
  readonly mostMinor?: number;
}

export const PLAIN_ROUNDING: Rounding = { ending: 'none', way: 'up' };

const ENDING = /^(?:none|ladder|\d{0,3}\.\d{1,3}|\d{1,4})$/;
export const isEnding = (value: unknown): value is Ending =>
  typeof value === 'string' && value.length <= 6 && ENDING.test(value);

/**
 * What an ending means in a currency, in minor units: a price leaves `rest` when divided by `step`. `.99` is 99 of 100 in USD and 990 of 1000 in
 * KWD; `4.99` is 499 of 1000; `80` is 80 whole ones of 100, in JPY 80 of 100. Null where the currency has no such decimals: then a price stays as
 * it comes.
 */
export function endingStep(ending: Ending, currency: string): { step: number; rest: number } | null {
  if (ending === 'none' || ending === 'ladder') return null;
  const digits = minorDigits(currency);
  const [whole = '', decimals = ''] = ending.split('.');
  if (decimals.length > digits) return null;
  const rest = Number(whole || '0') * 10 ** digits + Number(decimals.padEnd(digits, '0') || '0');
  return { step: 10 ** (whole.length + digits), rest };
}

/** The lowest price at or above an amount that ends so; null where there is none up to the most. */
function above(amountMinor: number, { ending, ladder }: Rounding, currency: string): number | null {
  if (ending === 'ladder' && ladder) return ladder.find((rung) => rung >= amountMinor) ?? null;
  const found = endingStep(ending, currency);
  if (!found) return amountMinor;
  const { step, rest } = found;
  const candidate = Math.floor(amountMinor / step) * step + rest;
  const price = candidate >= amountMinor ? candidate : candidate + step;
  return price > MAX_RETAIL_MINOR ? null : price;
}

/** The highest price at or below an amount that ends so; null where there is none above zero. */
function below(amountMinor: number, { ending, ladder }: Rounding, currency: string): number | null {
  if (ending === 'ladder' && ladder) return ladder.findLast((rung) => rung <= amountMinor) ?? null;
  const found = endingStep(ending, currency);
  if (!found) return amountMinor;
  const { step, rest } = found;
  const candidate = Math.floor(amountMinor / step) * step + rest;
  const price = candidate <= amountMinor ? candidate : candidate - step;
  return price > 0 ? price : null;
}

/** An amount with its ending, the way that is asked for; as it is where no price ends so. For prices that no aim holds up. */
export function rounded(amountMinor: number, rounding: Rounding, currency: string): number {
  const [up, down] = [above(amountMinor, rounding, currency), below(amountMinor, rounding, currency)];
  const { way } = rounding;
  if (way === 'down') return down ?? up ?? amountMinor;
  if (way === 'nearest' && up !== null && down !== null) return amountMinor - down < up - amountMinor ? down : up;
  return up ?? down ?? amountMinor;
}

/** A price for an aim, and whether the seller's least or most holds it. */
export interface RoundedPrice {
  readonly priceMinor: number;
  readonly held: 'least' | 'most' | null;
}

const NOTHING_LOST: Aim = { kind: 'profit', amountMinor: 0 };

/**
 * The price for an aim with its ending. Going up it never falls short of the aim: where rounding up makes shipping free, the next ending that
 * meets it is taken. Going down or to the nearest it may fall short of the aim, and never causes a loss that the aim would not. A price that the
 * seller typed stays as typed. Throws `price-unsolvable`.
 */
export function priceFor(goals: readonly Goal[], aim: Aim, rounding: Rounding, currency: string): RoundedPrice {
  if (aim.kind === 'retail') return { priceMinor: aim.amountMinor, held: null };
  const from = solver(goals, aim);
  const least = from(0);
  return within(fitting(least, from, goals, rounding, currency), rounding);
}

function fitting(
  least: number,
  from: (price: number) => number,
  goals: readonly Goal[],
  rounding: Rounding,
  currency: string,
): number {
  if (rounding.way !== 'up') {
    const [up, down] = [above(least, rounding, currency), below(least, rounding, currency)];
    const nearer = rounding.way === 'down' || up === null || least - (down ?? 0) < up - least;
    if (down !== null && nearer && allMeet(goals, NOTHING_LOST, down)) return down;
  }
  for (let price: number | null = least; ;) {
    price = above(price, rounding, currency);
    if (price === null)
      throw new TypicaError(
        'invalid',
        'price-unsolvable',
        rounding.ending === 'ladder'
          ? 'The highest price of your ladder does not meet this aim.'
          : 'No price that ends so meets this aim.',
        { least },
      );
    const met = from(price);
    if (met === price) return price;
    price = met;
  }
}

const within = (priceMinor: number, { leastMinor, mostMinor }: Rounding): RoundedPrice =>
  leastMinor !== undefined && priceMinor < leastMinor
    ? { priceMinor: leastMinor, held: 'least' }
    : mostMinor !== undefined && priceMinor > mostMinor
      ? { priceMinor: mostMinor, held: 'most' }
      : { priceMinor, held: null };
