import type { Alpha, ThinInk } from './strokes';

/** Widths that are tried, as shares of the longer side: each a seventh more than the one before. */
export const HAIR_WIDTHS: readonly number[] = Array.from({ length: 23 }, (_, i) => 0.00015 * 1.15 ** i);

/** Alpha under which a pixel is none of a run: what compression and soft edges leave. */
const CLEAR = 8;
/** Thickness is kept in sixteenths of a pixel; what is thicker than this is no hairline. */
const PART = 16;
const THICK = 65_535;

/**
 * How much of the ink of a picture is thinner than some widths, however thin: a line of a quarter of a pixel leaves a quarter of its ink there. The thickness at a
 * pixel is the ink of the shortest of the four runs through it: along its row, its column and both diagonals. At worst a line between two of these
 * directions is taken for 8 % thicker than it is. Ink counts by its alpha.
 */
export function hairInk(picture: Alpha): ThinInk[] {
  const { widthPx, heightPx, alpha } = picture;
  const thickness = new Uint16Array(alpha.length).fill(THICK);
  for (let y = 0; y < heightPx; y += 1) runs(alpha, thickness, y * widthPx, 1, widthPx, 1);
  for (let x = 0; x < widthPx; x += 1) runs(alpha, thickness, x, widthPx, heightPx, 1);
  for (const way of [1, -1] as const) diagonals(picture, thickness, way);
  const long = Math.max(widthPx, heightPx);
  const thin = new Float64Array(HAIR_WIDTHS.length);
  let all = 0;
  for (let p = 0; p < alpha.length; p += 1) {
    const ink = alpha[p]!;
    if (ink < CLEAR) continue;
    all += ink;
    const px = thickness[p]! / PART;
    // From the widest down: most ink is thicker than all of them.
    for (let i = thin.length - 1; i >= 0 && px < HAIR_WIDTHS[i]! * long; i -= 1) thin[i]! += ink;
  }
  return all === 0 ? [] : HAIR_WIDTHS.map((width, i) => ({ width, share: thin[i]! / all }));
}

/** Runs of ink along a line of `count` pixels: each of their pixels learns how much there is in its run, where that is less than it knew. */
function runs(
  alpha: Uint8Array,
  thickness: Uint16Array,
  start: number,
  step: number,
  count: number,
  pxLength: number,
): void {
  let [begin, sum] = [0, 0];
  const end = (i: number) => {
    if (sum === 0) return;
    const px = Math.min(THICK, Math.round((sum / 255) * pxLength * PART));
    for (let k = begin; k < i; k += 1) {
      const p = start + k * step;
      if (px < thickness[p]!) thickness[p] = px;
    }
    sum = 0;
  };
  for (let i = 0; i < count; i += 1) {
    const ink = alpha[start + i * step]!;
    if (ink < CLEAR) end(i);
    else {
      if (sum === 0) begin = i;
      sum += ink;
    }
  }
  end(count);
}

/** All diagonals that fall to the right (1) or to the left (−1): they begin along the top and along one side. */
function diagonals({ widthPx, heightPx, alpha }: Alpha, thickness: Uint16Array, way: 1 | -1): void {
  const step = widthPx + way;
  const along = (x: number, y: number) => {
    const across = way === 1 ? widthPx - x : x + 1;
    runs(alpha, thickness, y * widthPx + x, step, Math.min(across, heightPx - y), Math.SQRT2);
  };
  for (let x = 0; x < widthPx; x += 1) along(x, 0);
  for (let y = 1; y < heightPx; y += 1) along(way === 1 ? 0 : widthPx - 1, y);
}
