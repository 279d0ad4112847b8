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

/** Null as well where fees leave so little that it cannot be solved. */
function tried(solve: () => number | null): number | null {
  try {
    return solve();
  } catch (error) {
    if (isTypicaError(error, 'price-unsolvable')) return null;
    throw error;
  }
}

const alone = ({ terms }: TermsTo): Goal => [{ terms, weight: 1 }];

/** The part of what a seller sells that an outlet sends to; empty where nothing is known of it. */
export const mixOf = (all: readonly TermsTo[]): Goal =>
  all.flatMap(({ terms, weight }) => (weight > 0 ? [{ terms, weight }] : []));

/** The floor of those whose own floor lies below a bound: at least what each needs by itself. Null where there are none. */
function together(solve: Solving, own: readonly number[], below: number): number | null {
  let least = -1;
  for (const floor of own) if (floor < below) least = Math.max(least, floor);
  return least < 0 ? null : tried(() => solve.all(least, (i) => own[i]! < below));
}

/** The floor over all destinations, and those of them that decide: whose own floor is highest. */
export function floorOver(all: readonly TermsTo[]): Floor {
  const mix = mixOf(all);
  const mixMinor = mix.length > 0 ? tried(() => new Solving([mix], NOTHING_LOST).all(0)) : null;
  const solve = new Solving(all.map(alone), NOTHING_LOST);
  const own = all.map((_, i) => tried(() => solve.one(i, 0)) ?? Number.POSITIVE_INFINITY);
  let highest = 0;
  for (const floor of own) highest = Math.max(highest, floor);
  const decide = own.every((floor) => floor === highest)
    ? NONE
    : all.flatMap(({ country }, i) => (own[i] === highest ? [country] : []));
  return {
    minor: Number.isFinite(highest) ? together(solve, own, Number.POSITIVE_INFINITY) : null,
    countries: decide,
    withoutMinor: decide.length === 0 ? null : together(solve, own, highest),
    mixMinor,
  };
}

/** What one item lost to a destination, below 0. */
export interface Loss {
  readonly country: string;
  readonly profitMinor: number;
}

const NO_LOSS: readonly Loss[] = [];

/** Destinations to which a price loses money. */
export function lossesAt(all: readonly TermsTo[], retailMinor: number): readonly Loss[] {
  let losses: Loss[] | null = null;
  for (const { country, terms } of all) {
    const left = profitMinor(terms, retailMinor);
    if (left < 0) (losses ??= []).push({ country, profitMinor: left });
  }
  return losses ?? NO_LOSS;
}
