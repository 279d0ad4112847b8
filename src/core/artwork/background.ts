import type { Pixels } from './analysis';
import { parseHex } from './color';
import { borderOf, nearColor } from './flat-box';

/** A channel may be this far from the background and still be it: what JPEG does near edges. */
const SLACK = 26;
/** Alpha below which a pixel is of the margin. */
const CLEAR = 16;
/** Pixels behind the edge where the art's own color is looked for. */
const DEPTH = 3;

/**
 * Takes the flat color away that runs around a picture, in place (straight alpha): from the border inwards, as far as it reaches, so that the
 * same color inside the art stays. The edge of the art becomes soft: a pixel there is a mixture of background and art, of which the art's
 * share becomes its alpha and the art's color its color. `hex` is the background's color.
 */
export function takeBackground({ widthPx, heightPx, rgba }: Pixels, hex: string): void {
  const background = parseHex(hex);
  const count = widthPx * heightPx;
  const gone = new Uint8Array(count);
  const queue = new Int32Array(count);
  let end = 0;
  const reach = (p: number) => {
    if (gone[p] || !nearColor(rgba, p * 4, background, SLACK)) return;
    gone[p] = 1;
    queue[end] = p;
    end += 1;
  };
  for (const i of borderOf(widthPx, heightPx)) reach(i >> 2);
  // From a transparent margin as well: a box can stand in one.
  for (let p = 0; p < count; p += 1)
    if (rgba[p * 4 + 3]! < CLEAR)
      for (const step of [-1, 1, -widthPx, widthPx]) {
        const beside = p + step;
        if (beside >= 0 && beside < count && rgba[beside * 4 + 3]! >= CLEAR) reach(beside);
      }
  for (let at = 0; at < end; at += 1) {
    const p = queue[at]!;
    const x = p % widthPx;
    if (x > 0) reach(p - 1);
    if (x + 1 < widthPx) reach(p + 1);
    if (p >= widthPx) reach(p - widthPx);
    if (p + widthPx < count) reach(p + widthPx);
  }
  const steps = [-1, 1, -widthPx, widthPx];
  const source = rgba.slice();
  for (let at = 0; at < end; at += 1) {
    const p = queue[at]!;
    rgba.fill(0, p * 4, p * 4 + 4);
    for (const step of steps) {
      const edge = p + step;
      if (edge < 0 || edge >= count || gone[edge]) continue;
      soften(rgba, source, edge, step, gone, background, count);
    }
  }
}

/** Unmixes one edge pixel: `step` leads into the art. */
function soften(
  rgba: Pixels['rgba'],
  source: Pixels['rgba'],
  edge: number,
  step: number,
  gone: Uint8Array,
  background: readonly [number, number, number],
  count: number,
): void {
  let inner = edge;
  for (let depth = 0; depth < DEPTH; depth += 1) {
    const next = inner + step;
    if (next < 0 || next >= count || gone[next]) break;
    inner = next;
  }
  let [along, length] = [0, 0];
  for (let c = 0; c < 3; c += 1) {
    const toArt = source[inner * 4 + c]! - background[c]!;
    along += (source[edge * 4 + c]! - background[c]!) * toArt;
    length += toArt * toArt;
  }
  if (length === 0) return;
  const share = Math.max(0, Math.min(1, along / length));
  const alpha = Math.round(source[edge * 4 + 3]! * share);
  // Two neighbors that are gone: the thinner of the two says how much is left.
  if (alpha >= rgba[edge * 4 + 3]!) return;
  for (let c = 0; c < 3; c += 1) rgba[edge * 4 + c] = source[inner * 4 + c]!;
  rgba[edge * 4 + 3] = alpha;
}

/** Half-transparent pixels become solid from one half on, and clear below, in place (straight alpha). */
export function makeSolid({ rgba }: Pixels): void {
  for (let i = 3; i < rgba.length; i += 4) rgba[i] = rgba[i]! >= 128 ? 255 : 0;
}
