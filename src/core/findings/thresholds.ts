import type { Technique } from '../geometry/area';

/** What a technique can do, and from where on it is told that a design asks for more. All lengths in mm. */
export interface Thresholds {
  /**
   * Effective DPI below which a print looks soft, and below which it is blurry, as shares of the geometry's own density. At 300 DPI two thirds
   * and one third are 200 and 100 (common practice, no source).
   */
  readonly softShare: number;
  readonly blurryShare: number;
  /**
   * Capitals and small letters lower than this do not print or cannot be sewn (common practice, no source: printed type from 5 pt, whose capitals are about
   * 1.2 and small letters 0.9 mm; sewn capitals from about 5 mm, small letters from 4).
   */
  readonly leastCapMm: number;
  readonly leastSmallMm: number;
  /** Strokes thinner than this fill in or break off (common practice, no source). */
  readonly leastStrokeMm: number;
  /** Whether ink can be laid half transparent: on cloth it sits on a white ground that cannot (common practice, no source). */
  readonly halfTransparent: boolean;
  /** Most colors, or null for any number (common practice, no source: six threads). */
  readonly mostColors: number | null;
  /** How the technique is named where something is too small for it. */
  readonly needs: string;
}

const print = (over: Partial<Thresholds> = {}): Thresholds => ({
  softShare: 2 / 3,
  blurryShare: 1 / 3,
  leastCapMm: 1.2,
  leastSmallMm: 0.9,
  leastStrokeMm: 0.35,
  halfTransparent: true,
  mostColors: null,
  needs: 'print',
  ...over,
});

export const THRESHOLDS: Record<Technique, Thresholds> = {
  'direct-to-garment': print({ halfTransparent: false, leastStrokeMm: 0.5 }),
  sublimation: print(),
  embroidery: print({
    leastCapMm: 5,
    leastSmallMm: 4,
    leastStrokeMm: 1,
    halfTransparent: false,
    mostColors: 6,
    needs: 'thread',
  }),
  giclee: print({ leastStrokeMm: 0.2 }),
  uv: print({ leastStrokeMm: 0.25 }),
};

/** Share of the ink that may be thinner than the least stroke: corners and serifs count as thin (chosen by eye, no source). */
export const THIN_INK = 0.08;
/** Share of the visible pixels that may be half transparent (chosen by eye, no source). */
export const HALF_TRANSPARENT = 0.02;
/**
 * Color difference (CIEDE2000) under which ink has low contrast on a fabric, and the share of an artwork that may be so (chosen by eye, no
 * source; 2.3 is about the least difference that is seen side by side, from memory).
 */
export const HARDLY_SEEN = 12;
export const MUCH_LOST = 0.6;
/** The same for artwork on a white good, where what stays white is meant. */
export const NOTHING_SEEN = 0.97;
/** Difference of a flat box to the fabric from which it is seen (chosen by eye, no source). */
export const BOX_SEEN = 8;
/** Colors of an artwork closer than this are sewn in one thread (CIEDE2000; chosen by eye, no source). */
export const ONE_THREAD = 10;
/** Colors with less than this share of the design are not worth a thread. */
export const MIN_COLOR = 0.01;
