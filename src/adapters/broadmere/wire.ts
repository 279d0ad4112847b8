/** Broadmere's words, as they come and go. */
export interface WireGood {
  readonly good: string;
  readonly mark: string | null;
  readonly touched: string;
  readonly page: string;
  readonly doc: WireDoc;
}

export interface WireDoc {
  readonly name: string;
  readonly points: readonly string[];
  readonly copy: string;
  readonly axes: readonly { readonly label: string; readonly choices: readonly string[] }[];
  readonly offers: readonly WireOffer[];
  readonly images: readonly { readonly id: string; readonly says: string }[];
  readonly waiver: string | null;
  readonly brand: string;
  readonly ship: { readonly order_cents: number; readonly item_cents: number; readonly to: readonly string[] } | null;
  readonly ready_days: number;
  readonly made_in: string;
  readonly on: boolean;
}

export interface WireOffer {
  readonly stock_code: string;
  readonly set: readonly string[];
  readonly cents: number;
  readonly was_cents: number | null;
  readonly on_hand: number;
  readonly code: string | null;
  readonly image: string | null;
  readonly grams: number | null;
  readonly shade: string | null;
}

export interface WireFeed {
  readonly ticket: string;
  readonly phase: 'queued' | 'working' | 'closed';
  readonly results: readonly WireResult[];
}

export type WireResult =
  | { readonly row: string; readonly result: 'accepted'; readonly good: string; readonly page: string }
  | {
      readonly row: string;
      readonly result: 'rejected';
      readonly faults: readonly { readonly field: string; readonly message: string }[];
    }
  | { readonly row: string; readonly result: 'not-run' };

export interface WireWaiver {
  readonly waiver: string;
  readonly brand: string;
  readonly state: 'asked' | 'granted' | 'refused';
  readonly asked: string;
}
