import type { Fee } from './fees';
import type { MoneySettings } from './settings';
import type { StoreRule } from './store-rule';
import type { ToldShipping } from './told-shipping';

/** Where a store's one price is to meet an aim: at its first destination, at whichever leaves least, or on the whole where the seller sells. */
export const AIMS_AT = ['first', 'worst', 'mix'] as const;
export type AimsAt = (typeof AIMS_AT)[number];

/** Where something is sold: a store with its currency and fees, or `id: null` for no store in particular. */
export interface Outlet {
  readonly id: string | null;
  readonly name: string;
  readonly currency: string;
  readonly fees: readonly Fee[];
  /** Items over which a fee per listing is spread. */
  readonly expectedSales: number;
  /** Countries to which it sells at one price, ISO 3166 alpha-2; there is at least one. */
  readonly sellsTo: readonly string[];
  readonly aimsAt: AimsAt;
  /** How it prices what has no prices of its own there; absent: as each product says. */
  readonly rule?: StoreRule;
  /** Its buyers pay for sending by item: each further one costs what the first does. Absent: as the partner charges. */
  readonly eachItemAlike?: boolean;
  /** What its buyers pay for sending goods of a parcel class, in its currency; absent: what the partner takes. */
  readonly shippingByClass?: { readonly [parcelClass: string]: ToldShipping };
}

/** No store in particular: no fees, sold at home and wherever the seller sells. */
export const baseOutlet = (currency: string, home: string, settings?: MoneySettings): Outlet => ({
  id: null,
  name: '',
  currency,
  fees: [],
  expectedSales: 1,
  sellsTo: [...new Set([home, ...(settings?.mix ?? []).map(({ country }) => country)])],
  aimsAt: 'first',
});
