import type { EditCause } from '@/core/listing/shown-prices';
import { formatAmount, formatPercent, money } from '@/core/pricing/money';
import type { Aim } from '@/core/pricing/solve';
import { countryName } from '@/core/country-names';
import { count } from '@/core/words/count';
import { aimText } from './prices';

/** A change of prices as `GET /products/ID/price-history` tells it. */
export interface PriceChange {
  /** Null for all stores. */
  readonly storeId: string | null;
  /** `*` for all variants. */
  readonly variantKey: string;
  readonly what: string;
  readonly was: unknown;
  readonly now: unknown;
  readonly revision: number;
  readonly by: string;
  readonly cause: EditCause;
  readonly at: string;
}

type Say = (value: unknown, currency: string) => string;

const amount = (value: unknown, currency: string) => formatAmount(money(Number(value), currency));

/** What a value of each kind of change means, in words. */
const WORDS = new Map<string, Say>([
  ['aim', (value, currency) => aimText(value as Aim, currency)],
  ['differencePpm', (value) => `all stores and ${formatPercent(Number(value))}`],
  ['freeFromMinor', (value, currency) => `shipping free from ${amount(value, currency)}`],
  ['shipping', (value) => (value === 'charged' ? 'shipping paid by the buyer' : 'shipping in the price')],
  ['ending', (value) => `ends in ${String(value)}`],
  ['leastMinor', (value, currency) => `at least ${amount(value, currency)}`],
  ['mostMinor', (value, currency) => `at most ${amount(value, currency)}`],
  ['way', (value) => `rounded ${String(value)}`],
  [
    'notTo',
    (value) => {
      const countries = Object.keys(value as object);
      return countries.length > 0 ? `not sold to ${countries.map(countryName).join(', ')}` : 'sold everywhere';
    },
  ],
  ['items', (value) => `${count((value as readonly unknown[]).length, 'product')} beside it`],
]);

/** A value before or after a change, in words. */
export function changedText(what: string, value: unknown, currency: string): string {
  if (value === null) return what === 'aim' ? 'follows' : 'none';
  return WORDS.get(what)?.(value, currency) ?? String(value);
}

/** Changes of one revision that are alike but for their variant, together. */
export function groupedChanges<C extends PriceChange>(changes: readonly C[]): { change: C; keys: string[] }[] {
  const groups = new Map<string, { change: C; keys: string[] }>();
  for (const change of changes) {
    const { revision, storeId, what, was, now, variantKey } = change;
    const id = JSON.stringify([revision, storeId, what, was, now, variantKey === '*']);
    const have = groups.get(id);
    if (have) have.keys.push(variantKey);
    else groups.set(id, { change, keys: [variantKey] });
  }
  return [...groups.values()];
}
