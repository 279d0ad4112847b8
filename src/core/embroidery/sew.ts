import { formatHex, parseHex, type Rgb } from '../artwork/color';
import { colorDifference, labOf } from '../catalog/families';
import { ownEntry } from '../own-entry';
import type { Raster } from '../print/pixels';
import type { ThreadPlan } from './choose';
import { broadPixels, BUCKETS, bucketOf, labOfRgb, sewnPixels, type SewnPixels } from './colors';
import { threadByCode, type Thread } from './palette';

/** A thread of a design with the share of the sewn surface that it covers. */
export interface UsedThread {
  readonly thread: Thread;
  /** The thread that was chosen by itself: another where it was swapped. */
  readonly from: Thread;
  readonly share: number;
  /** The mean color of the design there, `#rrggbb`, and its difference to the thread that is sewn (CIEDE2000). */
  readonly color: string;
  readonly difference: number;
}

/** How far from a rim it is looked for what lies beside it, px. */
const RIM_PX = 2;

/** The nearest of a plan's colors to each color of the picture, found once for each. */
function nearestIn(plan: ThreadPlan): (r: number, g: number, b: number) => number {
  const labs = plan.map(({ color }) => labOf(color));
  const found = new Int16Array(BUCKETS).fill(-1);
  return (r, g, b) => {
    const key = bucketOf(r, g, b);
    if (found[key]! < 0) {
      const lab = labOfRgb([r, g, b]);
      found[key] = labs.reduce(
        (best, one, i) => (colorDifference(lab, one) < colorDifference(lab, labs[best]!) ? i : best),
        0,
      );
    }
    return found[key]!;
  };
}

/** Which of a plan's colors each sewn pixel is; rims between two colors go to the nearer of what lies beside them. −1 where nothing is sewn. */
function entriesOf(pixels: SewnPixels, plan: ThreadPlan): Int16Array {
  const { widthPx, heightPx, rgb, sewn } = pixels;
  const nearest = nearestIn(plan);
  const entries = new Int16Array(sewn.length).fill(-1);
  for (let i = 0; i < sewn.length; i += 1)
    if (sewn[i] === 1) entries[i] = nearest(rgb[3 * i]!, rgb[3 * i + 1]!, rgb[3 * i + 2]!);
  const broad = broadPixels(pixels);
  const colors = plan.map(({ color }) => parseHex(color));
  const settled = entries.slice();
  const away = (i: number, [r, g, b]: Rgb) =>
    (rgb[3 * i]! - r) ** 2 + (rgb[3 * i + 1]! - g) ** 2 + (rgb[3 * i + 2]! - b) ** 2;
  for (let i = 0; i < sewn.length; i += 1) {
    if (sewn[i] === 0 || broad[i] === 1) continue;
    const [x, y] = [i % widthPx, Math.floor(i / widthPx)];
    let [best, least] = [-1, Infinity];
    for (let v = Math.max(0, y - RIM_PX); v <= Math.min(heightPx - 1, y + RIM_PX); v += 1)
      for (let u = Math.max(0, x - RIM_PX); u <= Math.min(widthPx - 1, x + RIM_PX); u += 1) {
        const j = v * widthPx + u;
        if (broad[j] === 0) continue;
        const distance = away(i, colors[entries[j]!]!);
        if (distance < least) [best, least] = [entries[j]!, distance];
      }
    if (best >= 0) settled[i] = best;
  }
  return settled;
}

interface Sum {
  count: number;
  readonly rgb: [number, number, number];
}

/**
 * Turns a premultiplied raster into what is sewn, in place: each pixel in the thread of its color (or what that is swapped for), fully or not at all. Gives
 * the threads that are sewn, the largest share first.
 */
export function sew(raster: Raster, plan: ThreadPlan, swaps: { readonly [code: string]: string }): UsedThread[] {
  const pixels = sewnPixels(raster);
  const { data } = raster;
  if (plan.length === 0 || pixels.count === 0) {
    for (let i = 0; i < data.length; i += 4) if (pixels.sewn[i / 4] === 0) data.fill(0, i, i + 4);
    return [];
  }
  const entries = entriesOf(pixels, plan);
  const threads = plan.map(({ thread }) => threadByCode(ownEntry(swaps, thread.code) ?? '') ?? thread);
  const inks = threads.map(({ hex }) => parseHex(hex));
  const sums = new Map<string, Sum>();
  for (let i = 0; i < entries.length; i += 1) {
    const entry = entries[i]!;
    if (entry < 0) {
      data.fill(0, 4 * i, 4 * i + 4);
      continue;
    }
    const { code } = plan[entry]!.thread;
    let sum = sums.get(code);
    if (!sum) sums.set(code, (sum = { count: 0, rgb: [0, 0, 0] }));
    sum.count += 1;
    const ink = inks[entry]!;
    for (let c = 0; c < 3; c += 1) {
      sum.rgb[c] = sum.rgb[c]! + pixels.rgb[3 * i + c]!;
      data[4 * i + c] = ink[c]!;
    }
    data[4 * i + 3] = 255;
  }
  return [...sums]
    .map(([code, { count, rgb }]): UsedThread => {
      const from = threadByCode(code)!;
      const thread = threadByCode(ownEntry(swaps, code) ?? '') ?? from;
      const color = formatHex([Math.round(rgb[0] / count), Math.round(rgb[1] / count), Math.round(rgb[2] / count)]);
      return {
        from,
        thread,
        share: count / pixels.count,
        color,
        difference: colorDifference(labOf(color), labOf(thread.hex)),
      };
    })
    .sort((a, b) => b.share - a.share || (a.from.code < b.from.code ? -1 : 1));
}
