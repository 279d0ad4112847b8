import type { LosingVariant } from '../pricing/floor';

/** Losses that somebody accepted, one by one: by variant and destination, what is left of an item there, below 0. */
export interface AcceptedLosses {
  readonly [variantKey: string]: { readonly [country: string]: number };
}

export const acceptedLosses = (losing: readonly LosingVariant[]): AcceptedLosses =>
  Object.fromEntries(
    losing.map(({ key, losses }) => [
      key,
      Object.fromEntries(losses.map(({ country, profitMinor }) => [country, profitMinor])),
    ]),
  );
