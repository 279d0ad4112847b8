import type { FontStyle } from './families';

/** Longest text of one layer, in UTF-16 units. */
export const MAX_TEXT = 2000;
export const MIN_SIZE_MM = 0.5;
export const MAX_SIZE_MM = 2000;
/** PostScript point: 1/72 in. */
export const MM_PER_POINT = 25.4 / 72;

export const ALIGNMENTS = ['left', 'center', 'right'] as const;
export type Alignment = (typeof ALIGNMENTS)[number];

/**
 * How the letters of a text layer are set. Lengths are mm in the layer's own box, before it is scaled by its placement.
 */
export interface Lettering {
  readonly text: string;
  readonly family: string;
  readonly style: FontStyle;
  /** Font size (em). */
  readonly sizeMm: number;
  readonly align: Alignment;
  /** Added between letters, thousandths of an em. */
  readonly tracking: number;
  /** Distance of baselines as a multiple of the size. */
  readonly lineHeight: number;
  readonly fill: string;
  /** Around the letters, outside of them. */
  readonly outline: { readonly color: string; readonly widthMm: number } | null;
  /** How far the text is bent, degrees from its first letter to its last; 0 is straight, above 0 arches up. */
  readonly arcDeg: number;
  /** The box that the text is set in. */
  readonly boxWidthMm: number;
  readonly boxHeightMm: number;
  /** Made smaller until it fits the box, down to this size; null keeps the size and lets it run out of the box. */
  readonly shrinkToMm: number | null;
  /** Whether it may break into several lines by itself; line breaks that were typed always count. */
  readonly wrap: boolean;
}

/** Letters that were joined for type of old: fonts join them themselves, and few have these signs. */
const JOINED = /[\ufb00-\ufb06]/g;

/**
 * The text as it is set: letters and marks composed where there is a sign for both (NFC), line ends made one, controls and lone surrogates taken out, tabs as
 * spaces, trailing blank lines dropped.
 */
export const settableText = (text: string): string =>
  text
    .toWellFormed()
    .normalize('NFC')
    .replace(JOINED, (sign) => sign.normalize('NFKC'))
    .replace(/\r\n?|\u2028|\u2029/g, '\n')
    .replace(/\t/g, ' ')
    .replace(/\p{Cc}/gu, (c) => (c === '\n' ? c : ''))
    .replace(/\ufffd/g, '')
    .trimEnd();
