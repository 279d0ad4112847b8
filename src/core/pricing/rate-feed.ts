import type { ExchangeRate } from './rates';

/** A rate that moved by a factor of this from one day to the next is held back until a later day says the same: currencies seldom do, feeds do. */
export const HELD_FACTOR = 1.2;
/** So near has a later day's rate to be to one that was held back. */
const CONFIRMED_FACTOR = 1.05;
/** From this on a move is told, parts per million. */
export const TOLD_MOVE_PPM = 20_000;

export interface HeldRate extends ExchangeRate {
  /** The rate that holds instead, and its day. */
  readonly known: string;
  readonly knownDate: string;
}

export interface MovedRate extends ExchangeRate {
  readonly before: string;
  readonly beforeDate: string;
  /** rate ÷ before − 1, parts per million. */
  readonly movePpm: number;
}

export interface JudgedRates {
  /** To be kept: newer than what is known, and believed. */
  readonly taken: readonly ExchangeRate[];
  readonly held: readonly HeldRate[];
  /** Of those taken, the ones that moved far. */
  readonly moved: readonly MovedRate[];
}

const factor = (a: number, b: number): number => Math.max(a / b, b / a);

/**
 * Which rates of a daily feed are believed. `known` gives the newest shared rate of a pair, straight, or null; `held` is what was held back before.
 * Rates are decimal texts above zero.
 */
export function checkRates(
  read: readonly ExchangeRate[],
  known: (from: string, to: string) => ExchangeRate | null,
  held: readonly HeldRate[],
): JudgedRates {
  const taken: ExchangeRate[] = [];
  const keptBack: HeldRate[] = [];
  const moved: MovedRate[] = [];
  for (const one of read) {
    const before = known(one.from, one.to);
    if (before && before.date >= one.date) continue;
    const waiting = held.find(({ from, to }) => from === one.from && to === one.to);
    const [now, was] = [Number(one.rate), before ? Number(before.rate) : null];
    if (before && was !== null && factor(now, was) >= HELD_FACTOR) {
      const confirmed =
        waiting !== undefined && waiting.date < one.date && factor(now, Number(waiting.rate)) <= CONFIRMED_FACTOR;
      if (!confirmed) {
        // The first day on which it was said stays: that is what a later day confirms.
        const stays = waiting && factor(now, Number(waiting.rate)) <= CONFIRMED_FACTOR;
        keptBack.push(stays ? waiting : { ...one, known: before.rate, knownDate: before.date });
        continue;
      }
    }
    taken.push(one);
    const movePpm = was === null ? 0 : Math.round((now / was - 1) * 1_000_000);
    if (before && Math.abs(movePpm) >= TOLD_MOVE_PPM)
      moved.push({ ...one, before: before.rate, beforeDate: before.date, movePpm });
  }
  return { taken, held: keptBack, moved };
}
