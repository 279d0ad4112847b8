/** A seller's place in a shop: who they are, and what only they have there. */
export interface Account<Own = unknown> {
  readonly id: string;
  /** As addresses have it. */
  readonly slug: string;
  name: string;
  readonly currency: string;
  own: Own;
}

/** What a seller offers in a shop, as the shop's own database has it; each shop tells it in words of its own. */
export interface Article<Extra = unknown> {
  readonly id: string;
  readonly account: string;
  /** The seller's own mark. */
  readonly reference: string | null;
  stage: 'draft' | 'live';
  title: string;
  text: string;
  tags: string[];
  /** Where it stands in the shop; null where the shop has no such places, or it has none yet. */
  category: string | null;
  options: { name: string; values: string[] }[];
  variants: Variant[];
  pictures: Picture[];
  readonly createdAt: number;
  changedAt: number;
  /** From when on programs find it. */
  readonly foundFrom: number;
  liveSince: number | null;
  /** When a live listing ends by the shop's clock; null: never. */
  liveUntil: number | null;
  extra: Extra;
}

export interface Variant {
  sku: string;
  /** A value for each option, in their order. */
  picks: string[];
  priceMinor: number;
  /** What it cost before, shown struck through; null: nothing. */
  beforeMinor: number | null;
  /** How many there are; null: as many as are ordered. */
  stock: number | null;
  picture: string | null;
  gtin: string | null;
  grams: number | null;
}

export interface Picture {
  id: string;
  caption: string;
}

/** A picture that was uploaded. */
export interface StoredPicture {
  readonly id: string;
  readonly account: string;
  readonly type: string;
  readonly widthPx: number;
  readonly heightPx: number;
  /** `judging` until the shop has looked at it. */
  verdict: 'taken' | 'judging' | 'refused';
  readonly judgedAt: number;
  reason: string | null;
  /** Its border is white; false in a shop that does not look at it. */
  readonly onWhite: boolean;
}

/** What a shopper ordered and paid. */
export interface Order {
  readonly id: string;
  readonly account: string;
  readonly at: number;
  readonly lines: readonly {
    readonly article: string;
    readonly title: string;
    readonly sku: string;
    readonly picks: readonly string[];
    readonly quantity: number;
    readonly priceMinor: number;
  }[];
  readonly deliveryMinor: number;
  readonly totalMinor: number;
  readonly currency: string;
  readonly address: { readonly [field: string]: string };
}

/** What was charged to a seller. */
export interface Charge {
  readonly account: string;
  readonly article: string;
  readonly what: string;
  readonly amountMinor: number;
  readonly at: number;
}

/** One thing that a shop does not take, in its own words. */
export interface Objection {
  readonly field: string;
  readonly message: string;
}

/** Minor units as a decimal text: the simulated shops count in currencies of two places. */
export const amount = (minor: number): string => `${Math.trunc(minor / 100)}.${String(minor % 100).padStart(2, '0')}`;

/** A decimal text with two places as minor units; null for what is none. */
export const minorOf = (text: unknown): number | null =>
  typeof text === 'string' && /^\d{1,6}\.\d{2}$/.test(text) ? Number(text.replace('.', '')) : null;

const letters = new Intl.Segmenter('en', { granularity: 'grapheme' });
/** Length of a text as a reader counts it. */
export const lengthOf = (text: string): number => [...letters.segment(text)].length;
