import { TypicaError } from '../errors';
import { fixedPart, totalRatePpm, type FeeTaker } from './fees';
import { MAX_RETAIL_MINOR, PPM } from './money';
import { itemsPaidMinor, profitMinor, profitWith, takersFor, type Terms } from './quote';

/** What the seller fixes: a price, a profit per item, a margin (share of what is paid for items) or a markup (share of landed cost), parts per million. */
export type Aim =
  | { readonly kind: 'retail'; readonly amountMinor: number }
  | { readonly kind: 'profit'; readonly amountMinor: number }
  | { readonly kind: 'margin'; readonly ppm: number }
  | { readonly kind: 'markup'; readonly ppm: number };

/** One kind of order and how often it comes, as a whole number of any unit. */
export interface MixPart {
  readonly terms: Terms;
  readonly weight: number;
}

const unsolvable = (message: string, fields: Record<string, unknown>) =>
  new TypicaError('invalid', 'price-unsolvable', message, fields);

/**
 * By how much an order's profit at a price exceeds an aim: 0 or more where it is met. Whole numbers: minor units for a profit, millionths of
 * them for shares.
 */
export const surplusOver = (terms: Terms, aim: Exclude<Aim, { kind: 'retail' }>, retailMinor: number): number =>
  surplusOf(terms, aim, retailMinor, profitMinor(terms, retailMinor));

function surplusOf(terms: Terms, aim: Exclude<Aim, { kind: 'retail' }>, retailMinor: number, left: number): number {
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
const NONE: readonly number[] = [];

function breaksOf(terms: Terms): readonly number[] {
  const { freeFromMinor, fees, items, expectedSales, shippingChargedMinor, tax } = terms;
  const bounded = fees.some(
    ({ minMinor, maxMinor, overMinor }) => minMinor !== undefined || maxMinor !== undefined || overMinor !== undefined,
  );
  if (terms.voucherMinor <= 0 && freeFromMinor === null && !bounded) return NONE;
  const breaks: number[] = [];
  if (terms.voucherMinor > 0) breaks.push(priceReaching(terms, 1));
  if (freeFromMinor !== null) breaks.push(priceReaching(terms, freeFromMinor));
  for (const fee of fees) {
    if (fee.overMinor !== undefined) breaks.push(priceReaching(terms, fee.overMinor + 1));
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

/** Prices that are tried one by one where a line rises so slowly that roundings decide: more is not worth the wait. */
const MAX_TRIED = 10_000;

/** What is to be 0 or more: along straight lines between `breaks`, but for roundings of up to `slack` in all. */
interface Line {
  surplus(price: number): number;
  readonly breaks: readonly number[];
  readonly slack: number;
}

/**
 * The lowest price from `least` on at which a line is 0 or more, or null. Throws `price-unsolvable` where a piece is so flat that too many would
 * have to be tried.
 */
function lowestMeeting(line: Line, least: number): number | null {
  if (line.breaks.length === 0) return lowestOnPiece(line, least, MAX_RETAIL_MINOR);
  const ends = [...new Set([least, ...line.breaks.filter((at) => at > least), MAX_RETAIL_MINOR])].sort((a, b) => a - b);
  for (let i = 0; i + 1 < ends.length; i += 1) {
    const found = lowestOnPiece(line, ends[i]!, i + 2 < ends.length ? ends[i + 1]! - 1 : ends[i + 1]!);
    if (found !== null) return found;
  }
  return null;
}

/**
 * The same on one straight piece. Where it rises, it is looked for where the piece, raised by the slack, crosses 0: below that no price meets the
 * aim, and from there the first that does is the answer. A falling piece is best where it begins.
 */
function lowestOnPiece(line: Line, from: number, to: number): number | null {
  const { slack } = line;
  const first = line.surplus(from);
  if (first >= 0) return from;
  if (to <= from) return null;
  const last = line.surplus(to);
  const falling = last < first;
  if (!falling && last < -slack) return null;
  let price = from;
  if (!falling && first < -slack) {
    const guess = from + Math.floor(((-slack - first) / (last - first)) * (to - from));
    price = Math.min(to, guess) - 2;
    // Until it is certain that no lower one does.
    for (let step = 2; price > from && line.surplus(price) >= -slack; step *= 4) price -= step;
    price = Math.max(from, price);
  }
  for (let tries = 0; price < to; tries += 1) {
    price += 1;
    const value = line.surplus(price);
    if (value >= 0) return price;
    // Only roundings near the beginning of a falling piece can still meet the aim.
    if (falling && value < -slack) return null;
    if (tries > MAX_TRIED) throw tooFlat();
  }
  return null;
}

const tooFlat = () =>
  unsolvable(
    'The store’s fees, tax and this aim together take so nearly all of the price that raising it brings nothing. Aim at less, or look at the fees.',
    {},
  );

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

/** A mix of orders that is to meet an aim on the whole; one order is a mix of one. */
export type Goal = readonly MixPart[];

const slackOf = (terms: Terms, { kind }: Aim, breaks: readonly number[]): number =>
  (roundingsOf(terms, breaks.length > 0) + (kind === 'margin' && terms.salePpm > 0 ? terms.items : 0)) *
  (kind === 'profit' ? 1 : PPM);

/** One order against an aim. */
class OrderLine implements Line {
  readonly breaks: readonly number[];
  readonly slack: number;
  private readonly takers: readonly FeeTaker[];

  constructor(
    private readonly terms: Terms,
    private readonly aim: Exclude<Aim, { kind: 'retail' }>,
  ) {
    this.breaks = breaksOf(terms);
    this.slack = slackOf(terms, aim, this.breaks);
    this.takers = takersFor(terms);
  }

  surplus(price: number): number {
    return surplusOf(this.terms, this.aim, price, profitWith(this.terms, this.takers, price));
  }
}

/** Several orders against an aim, on the whole. */
class MixLine implements Line {
  readonly breaks: readonly number[];
  readonly slack: number;
  private readonly parts: readonly { readonly line: OrderLine; readonly weight: number }[];

  constructor(mix: Goal, aim: Exclude<Aim, { kind: 'retail' }>) {
    this.parts = mix.map(({ terms, weight }) => ({ line: new OrderLine(terms, aim), weight }));
    this.breaks = this.parts.flatMap(({ line }) => line.breaks);
    this.slack = this.parts.reduce((sum, { line, weight }) => sum + weight * line.slack, 0);
  }

  surplus(price: number): number {
    let sum = 0;
    for (const { line, weight } of this.parts) sum += weight * line.surplus(price);
    return sum;
  }
}

/**
 * Prices for several goals: what does not depend on where one begins is settled once. Both calls throw `price-unsolvable` where roundings alone
 * decide over too many prices.
 */
export class Solving {
  private constructor(private readonly lines: readonly Line[]) {}

  static of(goals: readonly Goal[], aim: Exclude<Aim, { kind: 'retail' }>): Solving {
    return new Solving(
      goals.map((goal) =>
        goal.length === 1 && goal[0]!.weight === 1 ? new OrderLine(goal[0]!.terms, aim) : new MixLine(goal, aim),
      ),
    );
  }

  /** Each order by itself. */
  static ofOrders(orders: readonly Terms[], aim: Exclude<Aim, { kind: 'retail' }>): Solving {
    return new Solving(orders.map((terms) => new OrderLine(terms, aim)));
  }

  /** The lowest price from `least` on at which one goal is met, or null. */
  one(index: number, least: number): number | null {
    return lowestMeeting(this.lines[index]!, least);
  }

  /** The same for all goals at once, or for those that are wanted. */
  all(least: number, isWanted?: (index: number) => boolean): number | null {
    const wanted = isWanted ? this.lines.filter((_, i) => isWanted(i)) : this.lines;
    let price = least;
    // A goal that is not met yet moves the price up; then all are looked at again, since another may fall where shipping becomes free.
    for (let met = 0, i = 0; met < wanted.length; i = (i + 1) % wanted.length) {
      const found = lowestMeeting(wanted[i]!, price);
      if (found === null) return null;
      met = found === price ? met + 1 : 1;
      price = found;
    }
    return price;
  }
}

/** Solves for the lowest price from a given one on at which every goal meets an aim. Throws `price-unsolvable`. */
export function solver(goals: readonly Goal[], aim: Exclude<Aim, { kind: 'retail' }>): (least: number) => number {
  const solving = Solving.of(goals, aim);
  return (least) => {
    const price = solving.all(least);
    if (price !== null) return price;
    const impossible = goals.findIndex((_, i) => solving.one(i, least) === null);
    throw refuse(goals[Math.max(0, impossible)]![0]!.terms, aim);
  };
}

/** Whether every goal meets the aim at a price. */
export const allMeet = (goals: readonly Goal[], aim: Aim, price: number): boolean =>
  aim.kind === 'retail' ||
  goals.every((goal) => goal.reduce((sum, { terms, weight }) => sum + weight * surplusOver(terms, aim, price), 0) >= 0);

/** The lowest retail price at which every goal meets the aim. Throws `price-unsolvable`. */
export const solveGoals = (goals: readonly Goal[], aim: Aim): number =>
  aim.kind === 'retail' ? aim.amountMinor : solver(goals, aim)(0);

/** The lowest retail price at which the mix of orders meets the aim on the whole. Throws `price-unsolvable`. */
export const solveMix = (mix: Goal, aim: Aim): number => solveGoals([mix], aim);

/**
 * The lowest retail price whose profit meets the aim, in minor units: one unit less does not. Right where fees have leasts and mosts, and
 * where shipping becomes free. Throws `price-unsolvable` when fees, tax and the aim take everything that a higher price would bring.
 */
export const solveRetail = (terms: Terms, aim: Aim): number => solveMix([{ terms, weight: 1 }], aim);

/** The floor: the lowest price at which nothing is lost, after everything. */
export const floorMinor = (terms: Terms): number => solveRetail(terms, { kind: 'profit', amountMinor: 0 });
