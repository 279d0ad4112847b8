import type { PictureFormat } from '../listing/picture-format';

/** A sum that a channel names; its currency, or null for the store's own. */
export interface ChannelSum {
  readonly minor: number;
  readonly currency: string | null;
}

/** A color as a channel names it, sRGB `#rrggbb`. */
export interface ShadeName {
  readonly name: string;
  readonly hex: string;
}

/** A whole number between two, both of them allowed. */
export interface WholeRange {
  readonly min: number;
  readonly max: number;
}

/** What a channel demands of a listing, as data; null or absent where it makes no demand. Text lengths are in graphemes (UAX #29). */
export interface ChannelDemands {
  readonly titleMin: number;
  readonly titleMax: number;
  /** A title ends with the name of the seller's shop; it begins with a letter. */
  readonly titleEndsWithShop?: boolean;
  readonly titleBeginsWithLetter?: boolean;
  /** Characters that no title has. */
  readonly titleWithout?: string;
  /** Phrases that no title has, and phrases that neither title nor any other words have; in small letters. */
  readonly titlePhrasesBanned?: readonly string[];
  readonly phrasesBanned?: readonly string[];
  /** Words in capitals: `words` bans each of five letters and more, `all` a title that has nothing else. */
  readonly shouting?: 'words' | 'all';
  readonly emojiBanned?: boolean;
  readonly descriptionMax: number;
  readonly tagsMax: number;
  readonly tagMax: number;
  readonly highlightsMax?: number;
  readonly highlightMax?: number;
  readonly seoTitleMax?: number;
  readonly seoDescriptionMax?: number;
  readonly pageAddressMax?: number;
  readonly optionsMax: number;
  readonly optionNameMax?: number;
  readonly optionValueMax?: number;
  readonly variantsMax: number;
  /** Each color is one of these to the channel. */
  readonly shades?: readonly ShadeName[];
  readonly picturesMin: number;
  readonly picturesMax: number;
  /** Least length of a picture's longer side, px. */
  readonly pictureLongSideMinPx: number;
  /** The form in which it takes pictures; the first one on pure white where it asks for that. */
  readonly pictureFormat: PictureFormat;
  readonly firstOnWhite: boolean;
  /** A place in its tree, and what that place asks. */
  readonly category?: boolean;
  /** A product code for each variant, or leave to go without. */
  readonly codes?: boolean;
  readonly warehouse?: boolean;
  readonly processingDays?: WholeRange;
  readonly weight?: boolean;
  readonly origin?: boolean;
  readonly priceMin: ChannelSum;
  readonly priceMax?: ChannelSum;
  /** The dearest variant costs at most so many times the cheapest. */
  readonly spreadMax?: number;
  /** The print partner must be declared to the shop. */
  readonly partnerDeclared: boolean;
}

/** Docket part on which a broken rule is mended. */
export type DocketPart = 'blank' | 'artwork' | 'variants' | 'pictures' | 'price' | 'words' | 'stores';

/** One demand of a channel on a listing: kept or broken, and how to mend it. */
export interface RuleResult {
  readonly id: string;
  readonly kept: boolean;
  /** A sentence with numbers. */
  readonly says: string;
  /** What to do; null when it is kept. */
  readonly mend: string | null;
  readonly part: DocketPart;
  /** A person may take it upon themselves as it stands; who did, where somebody has. */
  readonly acceptable?: boolean;
  readonly acceptedBy?: string;
}
