/**
 * What of a listing form a channel keeps beside what every shop has. A field that it does not keep stays at nothing in its forms, so that a change
 * of it here does not make the listing differ.
 */
export interface CarriedFields {
  readonly tags: boolean;
  /** A place in the shop's tree, with what that place asks. */
  readonly category: boolean;
  /** Product codes (GTIN) of variants. */
  readonly codes: boolean;
  /** Weights of variants: each its own, or of all the heaviest's, where delivery is counted by weight and must come out at so much an item. */
  readonly weight: false | 'own' | 'heaviest';
  readonly highlights: boolean;
  readonly pageAddress: boolean;
  readonly seo: boolean;
  readonly collections: boolean;
  /** Names of the shop's own for colors. */
  readonly shades: boolean;
  /** Whether it shows who makes the goods, or only where. */
  readonly partnerName: boolean;
  /** It takes the same for each item that is sent: a further one costs what the first does. */
  readonly eachItemAlike: boolean;
}

/** What the simplest shop keeps: words, tags, variants, pictures, shipping, partner. */
export const PLAIN_FIELDS: CarriedFields = {
  tags: true,
  category: false,
  codes: false,
  weight: false,
  highlights: false,
  pageAddress: false,
  seo: false,
  collections: false,
  shades: false,
  partnerName: true,
  eachItemAlike: false,
};

/** The seller's standing answers to what a store's channel asks, as they are for one product. */
export interface StandingAnswers {
  readonly category: string | null;
  /** What the category asks, by its keys. */
  readonly attributes: { readonly [key: string]: string };
  /** What the channel asks of every listing, by keys of its own: warehouse, leave to go without codes, days until it is sent. */
  readonly terms: { readonly [key: string]: string };
  /** The shop's name for a color, by the blank's code for it. */
  readonly shades: { readonly [colorCode: string]: string };
  /** Collections that a tag puts a product in, by the tag in small letters. */
  readonly collectionsByTag: { readonly [tag: string]: string };
}

export const NO_ANSWERS: StandingAnswers = {
  category: null,
  attributes: {},
  terms: {},
  shades: {},
  collectionsByTag: {},
};
