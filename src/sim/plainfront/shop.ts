import type { Account, Article } from '../engine/goods';
import type { World } from '../engine/world';

export const SCOPES = ['products', 'pictures', 'delivery', 'hooks', 'discounts'] as const;

/** What a storefront has beside products. */
export interface Own {
  tables: DeliveryTable[];
  hooks: Hook[];
  discounts: Discount[];
}

/** What delivery costs by weight: a band holds up to its grams; what is heavier is not delivered. */
export interface DeliveryTable {
  readonly name: string;
  readonly zones: readonly {
    readonly to: readonly string[];
    readonly bands: readonly { readonly upToGrams: number; readonly price: string }[];
  }[];
}

/** Where changes are told, signed. */
export interface Hook {
  readonly id: string;
  readonly address: string;
  readonly secret: string;
}

export interface Discount {
  readonly code: string;
  readonly percent: string | null;
  readonly amount: string | null;
  readonly products: string[] | null;
}

export interface Extra {
  handle: string;
  search: { title: string; summary: string };
  collections: string[];
  delivery: string | null;
}

/** A key that the owner made, for programs. */
export interface Key {
  readonly id: string;
  readonly name: string;
  readonly scopes: readonly string[];
  readonly until: number;
  readonly accounts: readonly string[];
}

export type Product = Article<Extra>;
export type Storefront = Account<Own>;
export type Plainfront = World<Own, Extra>;
