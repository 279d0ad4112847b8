import { isTypicaError } from '../errors';
import { profitMinor, type Terms } from './quote';
import { Solving, type Goal } from './solve';

/** Where an order goes and what decides about it there. */
export interface TermsTo {
  readonly country: string;
  /** How often the seller sells there, of all; 0: it is not known. */
  readonly weight: number;
  readonly terms: Terms;
}

/** The lowest prices of a variant at which nothing is lost, after everything. Null where no price brings anything. */
export interface Floor {
  /** To no destination. */
  readonly minor: number | null;
  /** The destinations that decide; none where all need the same. */
  readonly countries: readonly string[];
  /** To none of the others; null where there are none, or no price is enough for them. */
  readonly withoutMinor: number | null;
  /** On the whole where the seller sells; null where that is not known. */
  readonly mixMinor: number | null;
}

const NONE: readonly string[] = [];
const NOTHING_LOST = { kind: 'profit', amountMinor: 0 } as const;

/** The part of what a seller sells that an outlet sends to; empty where nothing is known of it. */
export const mixOf = (all: readonly TermsTo[]): Goal =>
  all.flatMap(({ terms, weight }) => (weight > 0 ? [{ terms, weight }] : []));

/** Floors of orders that differ: each by itself, and together. */
class Floors {
  private readonly solving: Solving;
  readonly own: number[] = [];
  highest = 0;

  constructor(orders: readonly Terms[]) {
    this.solving = Solving.ofOrders(orders, NOTHING_LOST);
    for (let i = 0; i < orders.length; i += 1) {
      const floor = this.ownOf(i) ?? Number.POSITIVE_INFINITY;
      this.own.push(floor);
      if (floor > this.highest) this.highest = floor;
    }
  }

  /** The floor of one; null as well where fees leave so little that it cannot be solved. */
  private ownOf(index: number): number | null {
    try {
      return this.solving.one(index, 0);
    } catch (error) {
      if (isTypicaError(error, 'price-unsolvable')) return null;
      throw error;
    }
  }

  /** The floor of those whose own floor lies below a bound: at least what each needs by itself. Null where there are none. */
  below(bound: number): number | null {
    let least = -1;
    for (const floor of this.own) if (floor < bound && floor > least) least = floor;
    if (least < 0) return null;
    try {
      return this.solving.all(least, (i) => this.own[i]! < bound);
    } catch (error) {
      if (isTypicaError(error, 'price-unsolvable')) return null;
      throw error;
    }
  }
}

/** The floor over all destinations, and those of them that decide: whose own floor is highest. */
export function floorOver(all: readonly TermsTo[]): Floor {
  const mix = mixOf(all);
  const orders: Terms[] = [];
  for (const { terms } of all) if (!orders.includes(terms)) orders.push(terms);
  const floors = new Floors(orders);
  const { own, highest } = floors;
  let decide: readonly string[] = NONE;
  if (own.some((floor) => floor !== highest))
    decide = all.filter(({ terms }) => own[orders.indexOf(terms)] === highest).map(({ country }) => country);
  return {
    minor: Number.isFinite(highest) ? floors.below(Number.POSITIVE_INFINITY) : null,
    countries: decide,
    withoutMinor: decide.length === 0 ? null : floors.below(highest),
    mixMinor: mix.length > 0 ? mixFloor(mix) : null,
  };
}

function mixFloor(mix: Goal): number | null {
  try {
    return Solving.of([mix], NOTHING_LOST).all(0);
  } catch (error) {
    if (isTypicaError(error, 'price-unsolvable')) return null;
    throw error;
  }
}

/** What one item lost to a destination, below 0. */
export interface Loss {
  readonly country: string;
  readonly profitMinor: number;
}

/** A variant that is sold at a loss: to which destinations, and the price at which it would not be (null: none is). */
export interface LosingVariant {
  readonly key: string;
  readonly name: string;
  readonly priceMinor: number;
  readonly losses: readonly Loss[];
  readonly floorMinor: number | null;
}

const NO_LOSS: readonly Loss[] = [];

/** Destinations to which a price loses money. */
export function lossesAt(all: readonly TermsTo[], retailMinor: number): readonly Loss[] {
  let losses: Loss[] | null = null;
  let [before, left]: [Terms | null, number] = [null, 0];
  for (const { country, terms } of all) {
    if (terms !== before) left = profitMinor(terms, retailMinor);
    before = terms;
    if (left < 0) (losses ??= []).push({ country, profitMinor: left });
  }
  return losses ?? NO_LOSS;
}
