import type { PriceCause } from '@/core/listing/shown-prices';
import { minorDigits } from '@/core/pricing/money';

/** A price that a shop showed from `at` on (ISO 8601), as the API tells it. */
export interface ShownPoint {
  readonly id: number;
  readonly priceMinor: number | null;
  readonly compareAtMinor: number | null;
  readonly currency: string;
  readonly causes: readonly PriceCause[];
  readonly by: string | null;
  readonly at: string;
}

const CAUSE_WORDS: { readonly [cause in PriceCause]: string } = {
  first: 'shown for the first time',
  gone: 'no longer shown',
  sale: 'a sale',
  typed: 'a price that was typed',
  rule: 'a price rule',
  file: 'a file of prices',
  list: 'a new price list',
  rate: 'another rate',
  fee: 'another fee',
  settings: 'taxes, costs or countries',
  product: 'another design or blank',
};

/** What moved a price, in words: "a sale, another rate". */
export const causeText = (causes: readonly PriceCause[]): string =>
  causes.map((cause) => CAUSE_WORDS[cause]).join(', ');

/** Causes to choose from, in words. */
export const CAUSE_CHOICES = Object.entries(CAUSE_WORDS).map(([value, name]) => ({ value, name }));

/** A point of the drawn line, in whole units of the currency (for drawing only); null where nothing is shown. */
export interface DrawnPoint {
  readonly atMs: number;
  readonly price: number | null;
  readonly compareAt: number | null;
}

/** Newest first in, oldest first out; the last price is drawn on to `nowMs`. */
export function drawnPrices(points: readonly ShownPoint[], nowMs: number): DrawnPoint[] {
  const unit = (minor: number | null, currency: string) =>
    minor === null ? null : minor / 10 ** minorDigits(currency);
  const drawn = points
    .map(({ priceMinor, compareAtMinor, currency, at }) => ({
      atMs: Date.parse(at),
      price: unit(priceMinor, currency),
      compareAt: unit(compareAtMinor, currency),
    }))
    .toReversed();
  const last = drawn.at(-1);
  return last && nowMs > last.atMs ? [...drawn, { ...last, atMs: nowMs }] : drawn;
}
