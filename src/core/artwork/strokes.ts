import type { Pixels } from './analysis';

/** Alpha from which a pixel counts as ink. */
const INK = 96;
/** Widths that are tried, as shares of the longer side. */
const WIDTHS = [0.0025, 0.004, 0.006, 0.009, 0.013, 0.02] as const;

/** How much of the ink of a picture is thinner than a width. */
export interface ThinInk {
  /** As a share of the picture's longer side. */
  readonly width: number;
  /** Share of the ink, 0 to 1. */
  readonly share: number;
}

/** Squared distance in px of each pixel to the nearest pixel outside `inside` (Felzenszwalb and Huttenlocher's parabolas, from memory). */
function distances(inside: Uint8Array, widthPx: number, heightPx: number): Float64Array {
  const FAR = 1e12;
  const field = Float64Array.from(inside, (value) => (value ? FAR : 0));
  const longest = Math.max(widthPx, heightPx);
  const [f, spots, edges] = [new Float64Array(longest), new Int32Array(longest), new Float64Array(longest + 1)];
  const pass = (start: number, step: number, count: number) => {
    for (let q = 0; q < count; q += 1) f[q] = field[start + q * step]!;
    let k = 0;
    spots[0] = 0;
    edges[0] = -Infinity;
    edges[1] = Infinity;
    for (let q = 1; q < count; q += 1) {
      let cut = 0;
      for (;;) {
        const p = spots[k]!;
        cut = (f[q]! + q * q - f[p]! - p * p) / (2 * (q - p));
        if (cut > edges[k]! || k === 0) break;
        k -= 1;
      }
      if (cut > edges[k]!) k += 1;
      spots[k] = q;
      edges[k] = k === 0 ? -Infinity : cut;
      edges[k + 1] = Infinity;
    }
    for (let q = 0, at = 0; q < count; q += 1) {
      while (edges[at + 1]! < q) at += 1;
      const p = spots[at]!;
      field[start + q * step] = (q - p) * (q - p) + f[p]!;
    }
  };
  for (let x = 0; x < widthPx; x += 1) pass(x, widthPx, heightPx);
  for (let y = 0; y < heightPx; y += 1) pass(y * widthPx, 1, widthPx);
  return field;
}

/**
 * How much of a picture's ink is thinner than some widths: where no disc of that diameter fits inside the shape. Colors are not told apart, so
 * that a picture without transparency has no strokes at all, and gets none. Corners that a disc does not fill count too: a share of a few
 * hundredths means nothing.
 */
export function thinInk({ widthPx, heightPx, rgba }: Pixels): ThinInk[] {
  const ink = new Uint8Array(widthPx * heightPx);
  let total = 0;
  for (let i = 0; i < ink.length; i += 1)
    if (rgba[i * 4 + 3]! >= INK) {
      ink[i] = 1;
      total += 1;
    }
  if (total === 0 || total === ink.length) return [];
  const toEdge = distances(ink, widthPx, heightPx);
  const long = Math.max(widthPx, heightPx);
  return WIDTHS.flatMap((width) => {
    const radius = (width * long) / 2;
    // Under a pixel nothing can be told.
    if (radius < 0.75) return [];
    // Where a disc of that radius fits, and all that is within such discs. A pixel's center is half a pixel from its edge.
    const shaved = toEdge.map((value) => (value >= (radius + 0.5) ** 2 ? 0 : 1));
    const toCore = distances(Uint8Array.from(shaved), widthPx, heightPx);
    let thin = 0;
    for (let i = 0; i < ink.length; i += 1) if (ink[i] && toCore[i]! > (radius + 0.5) ** 2) thin += 1;
    return [{ width, share: thin / total }];
  });
}

/** Share of the ink thinner than `mm` where the longer side is `longMm`, from the tried width that is nearest below. */
export function shareThinnerThan(thin: readonly ThinInk[], mm: number, longMm: number): number {
  return thin.filter(({ width }) => width * longMm <= mm).at(-1)?.share ?? 0;
}
