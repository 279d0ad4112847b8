import type { PictureFormat } from '../listing/picture-format';

/** What a channel demands of a listing, as data; null or absent where it makes no demand. Text lengths are in graphemes (UAX #29). */
export interface ChannelDemands {
  readonly titleMin: number;
  readonly titleMax: number;
  readonly descriptionMax: number;
  readonly tagsMax: number;
  readonly tagMax: number;
  readonly optionsMax: number;
  readonly variantsMax: number;
  readonly picturesMin: number;
  readonly picturesMax: number;
  /** Least length of a picture's longer side, px. */
  readonly pictureLongSideMinPx: number;
  /** The form in which it takes pictures; the first one on pure white where it asks for that. */
  readonly pictureFormat: PictureFormat;
  readonly firstOnWhite: boolean;
  readonly priceMinMinor: number;
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
