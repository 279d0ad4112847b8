/** Pennyquay's words, as they come and go. */
export interface WireItem {
  readonly item_id: string;
  readonly reference: string | null;
  readonly stage: 'draft' | 'open';
  readonly headline: string;
  readonly story: string;
  readonly keywords: readonly string[];
  readonly maker: string | null;
  readonly delivery_profile: string | null;
  readonly choices: readonly { readonly name: string; readonly values: readonly string[] }[];
  readonly offers: readonly WireOffer[];
  readonly pictures: readonly { readonly id: string; readonly caption: string }[];
  /** When a live one ends; null for one that is not live. */
  readonly ends: string | null;
  readonly touched: string;
  readonly page: string;
}

export interface WireOffer {
  readonly sku: string;
  readonly picks: readonly string[];
  readonly price: string;
  /** What it cost before, struck through on the page; null for nothing. */
  readonly before: string | null;
  readonly available: boolean;
  readonly picture: string | null;
}

export interface WireProfile {
  readonly id: string;
  readonly name: string;
  readonly lanes: readonly {
    readonly countries: readonly string[];
    readonly first: string;
    readonly further: string;
  }[];
}

export interface WireMaker {
  readonly id: string;
  readonly name: string;
  readonly country: string;
}

/** `percent` or `amount` off, as decimal texts; `items` null: for everything in the shop. */
export interface WireCode {
  readonly code: string;
  readonly percent: string | null;
  readonly amount: string | null;
  readonly items: readonly string[] | null;
}
