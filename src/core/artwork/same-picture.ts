import type { Pixels } from './analysis';

/** Side of the square in which two pictures are compared, px. */
export const COMPARED_PX = 256;
/** Levels of a channel that a place of one picture may differ from all places about it in the other (chosen by eye, no source). */
const OTHER_LEVEL = 24;
/** Share of places that may differ: a short word that is left out or written otherwise changes more. */
const OTHER_PLACES = 0.0006;
/** Under this spread of light a picture is a plain field, which is like every other. */
const PLAIN = 6;

/**
 * Whether two pictures of the same size are the same in color and detail, as far as 256 px show it: none has a place that the other does not have
 * within a pixel. False for plain fields.
 */
export function isSamePicture(one: Pixels, other: Pixels): boolean {
  if (one.widthPx !== other.widthPx || one.heightPx !== other.heightPx) return false;
  const [a, b] = [seenOf(one), seenOf(other)];
  const most = OTHER_PLACES * one.widthPx * one.heightPx;
  return spreadOf(a) >= PLAIN && placesBeyond(a, b, one, most) <= most && placesBeyond(b, a, one, most) <= most;
}

/** Four bytes for each pixel: its color times its alpha, and its alpha. */
function seenOf({ rgba }: Pixels): Uint8Array {
  const seen = new Uint8Array(rgba.length);
  for (let i = 0; i < rgba.length; i += 4) {
    const alpha = rgba[i + 3]!;
    for (let c = 0; c < 3; c += 1) seen[i + c] = Math.round((rgba[i + c]! * alpha) / 255);
    seen[i + 3] = alpha;
  }
  return seen;
}

function spreadOf(seen: Uint8Array): number {
  let [sum, squares] = [0, 0];
  const count = seen.length / 4;
  for (let i = 0; i < seen.length; i += 4) {
    const light = (seen[i]! + seen[i + 1]! + seen[i + 2]! + seen[i + 3]!) / 4;
    sum += light;
    squares += light * light;
  }
  return Math.sqrt(Math.max(0, squares / count - (sum / count) ** 2));
}

/** Places of one picture that are like none of the nine about them in the other; counted no further than is too many. */
function placesBeyond(a: Uint8Array, b: Uint8Array, { widthPx, heightPx }: Pixels, most: number): number {
  let count = 0;
  for (let y = 0; y < heightPx && count <= most; y += 1)
    for (let x = 0; x < widthPx; x += 1) if (!hasNear(a, b, x, y, widthPx, heightPx)) count += 1;
  return count;
}

function hasNear(a: Uint8Array, b: Uint8Array, x: number, y: number, widthPx: number, heightPx: number): boolean {
  const own = 4 * (y * widthPx + x);
  const isNear = (at: number) => [0, 1, 2, 3].every((c) => Math.abs(a[own + c]! - b[at + c]!) <= OTHER_LEVEL);
  if (isNear(own)) return true;
  for (let v = Math.max(0, y - 1); v <= Math.min(heightPx - 1, y + 1); v += 1)
    for (let u = Math.max(0, x - 1); u <= Math.min(widthPx - 1, x + 1); u += 1)
      if (isNear(4 * (v * widthPx + u))) return true;
  return false;
}
