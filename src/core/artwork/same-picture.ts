import type { Pixels } from './analysis';

/** Side of the square in which two pictures are compared, px. */
export const COMPARED_PX = 256;
/** Levels that light and alpha of a place may differ from all places about it in the other picture (chosen by eye, no source). */
const OTHER_LIGHT = 32;
/** Levels that a channel may differ over a square of 4 × 4: compressed pictures keep colors no finer (chosen by eye, no source). */
const OTHER_COLOR = 20;
const SQUARE = 4;
/** Places that may differ: size and compression change none or two, a year that is written otherwise more than ten. */
const OTHER_PLACES = 4;
/** Share of squares that may. */
const OTHER_SQUARES = 0.004;
/** Under this spread of light a picture is a plain field, which is like every other. */
const PLAIN = 6;

/**
 * Whether two pictures of the same size are the same in color and detail, as far as 256 px show it: none has light or a clear place beyond
 * what the other has within a pixel, and their colors agree square by square. False for plain fields.
 */
export function isSamePicture(one: Pixels, other: Pixels): boolean {
  const { widthPx, heightPx } = one;
  if (widthPx !== other.widthPx || heightPx !== other.heightPx) return false;
  const [a, b] = [lightOf(one), lightOf(other)];
  return (
    spreadOf(a) >= PLAIN &&
    placesBeyond(a, b, widthPx) <= OTHER_PLACES &&
    placesBeyond(b, a, widthPx) <= OTHER_PLACES &&
    hasSameColors(one, other)
  );
}

/** Two bytes for each pixel: its light times its alpha, and its alpha. */
function lightOf({ rgba }: Pixels): Uint8Array {
  const light = new Uint8Array(rgba.length / 2);
  for (let i = 0, j = 0; i < rgba.length; i += 4, j += 2) {
    const alpha = rgba[i + 3]!;
    light[j] = Math.round(((0.299 * rgba[i]! + 0.587 * rgba[i + 1]! + 0.114 * rgba[i + 2]!) * alpha) / 255);
    light[j + 1] = alpha;
  }
  return light;
}

function spreadOf(light: Uint8Array): number {
  let [sum, squares] = [0, 0];
  const count = light.length / 2;
  for (let i = 0; i < light.length; i += 2) {
    const level = (light[i]! + light[i + 1]!) / 2;
    sum += level;
    squares += level * level;
  }
  return Math.sqrt(Math.max(0, squares / count - (sum / count) ** 2));
}

/** Places of one picture that lie beyond all nine about them in the other, which may be softer or sharper; counted no further than is too many. */
function placesBeyond(a: Uint8Array, b: Uint8Array, widthPx: number): number {
  const heightPx = a.length / 2 / widthPx;
  let count = 0;
  for (let y = 0; y < heightPx && count <= OTHER_PLACES; y += 1)
    for (let x = 0; x < widthPx; x += 1)
      if (isBeyond(a, b, 0, x, y, widthPx, heightPx) || isBeyond(a, b, 1, x, y, widthPx, heightPx)) count += 1;
  return count;
}

/** Whether light (byte 0) or alpha (1) of a place is less or more than all about it are in the other picture. */
function isBeyond(
  a: Uint8Array,
  b: Uint8Array,
  byte: 0 | 1,
  x: number,
  y: number,
  widthPx: number,
  heightPx: number,
): boolean {
  const own = a[2 * (y * widthPx + x) + byte]!;
  let [least, most] = [255, 0];
  for (let v = Math.max(0, y - 1); v <= Math.min(heightPx - 1, y + 1); v += 1)
    for (let u = Math.max(0, x - 1); u <= Math.min(widthPx - 1, x + 1); u += 1) {
      const level = b[2 * (v * widthPx + u) + byte]!;
      if (level < least) least = level;
      if (level > most) most = level;
    }
  return own < least - OTHER_LIGHT || own > most + OTHER_LIGHT;
}

/** Whether the mean colors of small squares agree, transparent parts aside, with some square of the other within a pixel. */
function hasSameColors(one: Pixels, other: Pixels): boolean {
  const { widthPx, heightPx } = one;
  let [differ, all] = [0, 0];
  for (let top = 0; top + SQUARE <= heightPx; top += SQUARE)
    for (let left = 0; left + SQUARE <= widthPx; left += SQUARE) {
      const own = squareOf(one, left, top);
      all += 1;
      const isNear = AROUND.some(([dx, dy]) =>
        squareOf(other, left + dx, top + dy).every((level, c) => Math.abs(level - own[c]!) <= OTHER_COLOR),
      );
      if (!isNear) differ += 1;
    }
  return differ <= OTHER_SQUARES * all;
}

/** A place itself, and those about it. */
const AROUND = [0, -1, 1].flatMap((dx) => [0, -1, 1].map((dy) => [dx, dy] as const));

/** The mean color of a square, alpha taken in; places beyond the edge are those on it. */
function squareOf({ rgba, widthPx, heightPx }: Pixels, left: number, top: number): [number, number, number] {
  const sum: [number, number, number] = [0, 0, 0];
  for (let y = top; y < top + SQUARE; y += 1)
    for (let x = left; x < left + SQUARE; x += 1) {
      const [u, v] = [Math.min(widthPx - 1, Math.max(0, x)), Math.min(heightPx - 1, Math.max(0, y))];
      const at = 4 * (v * widthPx + u);
      const weight = rgba[at + 3]! / 255 / SQUARE ** 2;
      sum[0] += rgba[at]! * weight;
      sum[1] += rgba[at + 1]! * weight;
      sum[2] += rgba[at + 2]! * weight;
    }
  return sum;
}
