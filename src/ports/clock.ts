/** The time and chance of the outside, so that tests decide them. */
export interface Clock {
  now(): Date;
}

export interface Chance {
  /** 0 ≤ x < 1 */
  fraction(): number;
}

export const systemClock: Clock = { now: () => new Date() };
export const systemChance: Chance = { fraction: () => Math.random() };
