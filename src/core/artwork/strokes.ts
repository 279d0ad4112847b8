import type { Pixels } from './analysis';

/** Alpha from which a pixel counts as ink. */
const INK = 96;
/** Widths that are tried, as shares of the longer side: in a picture of some hundred pixels. */
const WIDTHS = [0.0039, 0.0049, 0.0061, 0.0076, 0.0095, 0.0119, 0.0149, 0.0186] as const;

/** How much of the ink of a picture is thinner than a width. */
export interface ThinInk {
  /** As a share of the picture's longer side. */
  readonly width: number;
  /** Share of the ink, 0 to 1. */
  readonly share: number;
}

/** Share of the ink under which there is none. */
const NO_INK = 0.001;
/** Distances are in fifths of a pixel. */
export const DISTANCE_UNIT = 5;
const FAR = 60_000;
/** Pixels of frame around a picture, so that no step leads out of it. */
const FRAME = 2;

/**
 * Distance of each pixel inside to the nearest one outside, in fifths of a pixel, by steps of 5 straight, 7 aslant and 11 by a knight's move: at
 * most two hundredths off (Borgefors 1986, from memory). What lies beyond the picture counts as neither.
 */
export function distancesInside(inside: (p: number) => boolean, widthPx: number, heightPx: number): Uint16Array {
  const stride = widthPx + 2 * FRAME;
  const field = new Uint16Array(stride * (heightPx + 2 * FRAME)).fill(FAR);
  for (let y = 0; y < heightPx; y += 1)
    for (let x = 0; x < widthPx; x += 1) if (!inside(y * widthPx + x)) field[(y + FRAME) * stride + x + FRAME] = 0;
  const pass = (way: 1 | -1) => {
    const [one, up] = [way, way * stride];
    const count = heightPx * stride;
    const first = way === 1 ? FRAME * stride : (heightPx + FRAME) * stride - 1;
    for (let k = 0, i = first; k < count; k += 1, i += way) {
      const own = field[i]!;
      if (own === 0) continue;
      let least = own;
      let by = field[i - one]! + 5;
      if (by < least) least = by;
      by = field[i - up]! + 5;
      if (by < least) least = by;
      by = field[i - up - 1]! + 7;
      if (by < least) least = by;
      by = field[i - up + 1]! + 7;
      if (by < least) least = by;
      by = field[i - up - 2]! + 11;
      if (by < least) least = by;
      by = field[i - up + 2]! + 11;
      if (by < least) least = by;
      by = field[i - 2 * up - 1]! + 11;
      if (by < least) least = by;
      by = field[i - 2 * up + 1]! + 11;
      if (by < least) least = by;
      if (least < own) field[i] = least;
    }
  };
  pass(1);
  pass(-1);
  const picture = new Uint16Array(widthPx * heightPx);
  for (let y = 0; y < heightPx; y += 1) {
    const from = (y + FRAME) * stride + FRAME;
    picture.set(field.subarray(from, from + widthPx), y * widthPx);
  }
  return picture;
}

/**
 * How much of a picture's ink is thinner than some widths: where no disc of that diameter fits inside the shape. Colors are not told apart, so
 * that a picture without transparency has no strokes at all, and gets none. Corners that a disc does not fill count too: a share of a few
 * hundredths means nothing.
 */
export function thinInk({ widthPx, heightPx, rgba }: Pixels): ThinInk[] {
  const alpha = new Uint8Array(widthPx * heightPx);
  for (let i = 0; i < alpha.length; i += 1) alpha[i] = rgba[4 * i + 3]!;
  return thinAlpha({ widthPx, heightPx, alpha }, WIDTHS);
}

/** The alpha of a picture, row by row. */
export interface Alpha {
  readonly widthPx: number;
  readonly heightPx: number;
  readonly alpha: Uint8Array;
}

/** The same of the alpha alone for some widths. */
function thinAlpha({ widthPx, heightPx, alpha }: Alpha, widths: readonly number[]): ThinInk[] {
  const ink = new Uint8Array(widthPx * heightPx);
  let total = 0;
  for (let i = 0; i < ink.length; i += 1)
    if (alpha[i]! >= INK) {
      ink[i] = 1;
      total += 1;
    }
  if (total === 0 || total === ink.length) return [];
  const toEdge = distancesInside((p) => ink[p] === 1, widthPx, heightPx);
  const long = Math.max(widthPx, heightPx);
  const found: ThinInk[] = [];
  // No disc fits that is larger than the one about the innermost pixel.
  const thickest = toEdge.reduce((most, own) => Math.max(most, own), 0) / DISTANCE_UNIT;
  // From the widest down: where nothing is thinner than that, nothing is thinner still.
  for (const width of widths.toSorted((x, y) => y - x)) {
    const radius = (width * long) / 2;
    // Under a pixel nothing can be told.
    if (radius < 0.75) break;
    const share = (found.at(-1)?.share ?? 1) < NO_INK ? 0 : radius > thickest ? 1 : thinnerThan(radius);
    found.push({ width, share });
  }
  return found.reverse();

  /** Share of the ink outside of all discs of that radius that fit inside the shape. */
  function thinnerThan(radius: number): number {
    // A pixel's center is half a pixel from its edge.
    const reach = (radius + 0.5) * DISTANCE_UNIT;
    const toCore = distancesInside((p) => toEdge[p]! < reach, widthPx, heightPx);
    let thin = 0;
    for (let p = 0; p < ink.length; p += 1) if (ink[p] === 1 && toCore[p]! > reach) thin += 1;
    return thin / total;
  }
}

/** Share of the ink thinner than `mm` where the longer side is `longMm`, from the tried width that is nearest below. */
export function shareThinnerThan(thin: readonly ThinInk[], mm: number, longMm: number): number {
  return thin.filter(({ width }) => width * longMm <= mm).at(-1)?.share ?? 0;
}
