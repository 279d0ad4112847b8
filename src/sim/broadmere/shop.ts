import type { Account, Article, Objection } from '../engine/goods';
import type { World } from '../engine/world';

/** What a seller has at Broadmere beside listings. */
export interface Own {
  /** With which a seller's program gets its pass. */
  readonly secret: string;
  /** Regions in which the seller is let in. */
  readonly regions: string[];
  waivers: Waiver[];
}

/** Leave to sell goods without a product code, asked for by brand. */
export interface Waiver {
  readonly id: string;
  readonly brand: string;
  readonly askedAt: number;
}

export interface Extra {
  points: string[];
  waiver: string | null;
  brand: string;
  ship: { order_cents: number; item_cents: number; to: string[] } | null;
  readyDays: number;
  madeIn: string;
  /** Broadmere's own name for each variant's color, by SKU. */
  shades: Record<string, string>;
}

export type Good = Article<Extra>;
export type Seller = Account<Own>;
export type Broadmere = World<Own, Extra>;

/** A file of rows as it was taken, and what became of each row so far. */
export interface Feed {
  readonly id: string;
  readonly account: string;
  readonly takenAt: number;
  readonly rows: readonly string[];
  /** Only the first so many are done. */
  readonly done: number;
  results: RowResult[];
}

export type RowResult =
  | { readonly row: string; readonly result: 'accepted'; readonly good: string; readonly page: string }
  | { readonly row: string; readonly result: 'rejected'; readonly faults: readonly Objection[] }
  | { readonly row: string; readonly result: 'not-run' };

export const WAIVER_MS = 90_000;

/** Where a request for a waiver stands: decided after a while, and refused for a brand that is hardly one. */
export const waiverState = (waiver: Waiver, now: number): 'asked' | 'granted' | 'refused' =>
  now < waiver.askedAt + WAIVER_MS ? 'asked' : /\p{L}.*\p{L}.*\p{L}/u.test(waiver.brand) ? 'granted' : 'refused';
