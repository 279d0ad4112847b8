import { colorDifference, labOf } from '../catalog/families';
import { parseHex, type Rgb } from '../artwork/color';
import type { Raster } from '../print/raster';
import { ownEntry } from '../own-entry';

/** Most thread colors of one embroidered area (common practice, no source). */
export const MAX_THREADS = 6;

export interface Thread {
  readonly code: string;
  readonly name: string;
  readonly hex: string;
}

const thread = (code: string, name: string, hex: string): Thread => ({ code, name, hex });

/** A made-up palette of embroidery threads. */
export const THREADS: readonly Thread[] = [
  thread('t01', 'Chalk', '#ffffff'),
  thread('t02', 'Sailcloth', '#f3ead6'),
  thread('t03', 'Sand', '#d8c39a'),
  thread('t04', 'Hemp', '#b39a6b'),
  thread('t05', 'Tarred rope', '#5a4632'),
  thread('t06', 'Peat', '#33261c'),
  thread('t07', 'Coal', '#1a1c20'),
  thread('t08', 'Slate', '#4c5560'),
  thread('t09', 'Mist', '#a9b0b6'),
  thread('t10', 'Pewter', '#7b8288'),
  thread('t11', 'Oxblood', '#6f1f2b'),
  thread('t12', 'Lifebuoy', '#d2342a'),
  thread('t13', 'Brick', '#a5402d'),
  thread('t14', 'Rust', '#b9622f'),
  thread('t15', 'Buoy orange', '#ef7a24'),
  thread('t16', 'Lamp', '#f6b73c'),
  thread('t17', 'Gorse', '#e3c12f'),
  thread('t18', 'Primrose', '#f4e38a'),
  thread('t19', 'Reed', '#a9b26a'),
  thread('t20', 'Weir green', '#3f8b4d'),
  thread('t21', 'Willow', '#6f9160'),
  thread('t22', 'Kelp', '#4c5a33'),
  thread('t23', 'Bottle', '#1f4d38'),
  thread('t24', 'Verdigris', '#2f8077'),
  thread('t25', 'Eddy', '#7fc0b8'),
  thread('t26', 'Estuary', '#28454d'),
  thread('t27', 'Sky', '#9cc7e6'),
  thread('t28', 'Skiff blue', '#4a80b0'),
  thread('t29', 'Signal blue', '#1f5fae'),
  thread('t30', 'Deep channel', '#182a4a'),
  thread('t31', 'Iris', '#5a4a9c'),
  thread('t32', 'Heather', '#a284b8'),
  thread('t33', 'Plum', '#4c2350'),
  thread('t34', 'Thrift', '#e29ab0'),
  thread('t35', 'Foxglove', '#c63a7a'),
  thread('t36', 'Blush', '#f4d3cf'),
];

const byCode = new Map(THREADS.map((one) => [one.code, one]));
export const threadByCode = (code: string): Thread | null => byCode.get(code) ?? null;
const labs = THREADS.map((one) => labOf(one.hex));
const rgbs = THREADS.map((one) => parseHex(one.hex));

/** Alpha from which a pixel is sewn: there is no half a thread. */
const SEWN = 128;
/** Bits of each channel by which colors are counted: finer than threads differ. */
const BITS = 5;

/** Index of the nearest of some threads to each counted color, found once for each color. */
function nearestOf(candidates: readonly number[]): (r: number, g: number, b: number) => number {
  const found = new Int16Array(1 << (3 * BITS)).fill(-1);
  return (r, g, b) => {
    const key = bucket(r, g, b);
    if (found[key]! < 0) found[key] = nearest(centerOf(key), candidates);
    return found[key]!;
  };
}

const bucket = (r: number, g: number, b: number): number =>
  ((r >> (8 - BITS)) << (2 * BITS)) | ((g >> (8 - BITS)) << BITS) | (b >> (8 - BITS));

const centerOf = (key: number): Rgb => {
  const mask = (1 << BITS) - 1;
  const spread = (value: number) => Math.round((value * 255) / mask);
  return [spread(key >> (2 * BITS)), spread((key >> BITS) & mask), spread(key & mask)];
};

function nearest([r, g, b]: Rgb, candidates: readonly number[]): number {
  const lab = labOf(`#${((1 << 24) | (r << 16) | (g << 8) | b).toString(16).slice(1)}`);
  return candidates.reduce((best, i) =>
    colorDifference(lab, labs[i]!) < colorDifference(lab, labs[best]!) ? i : best,
  );
}

/** Premultiplied pixels counted by color; only those that are sewn. */
function countColors(raster: Raster): Map<number, number> {
  const counts = new Map<number, number>();
  const { data } = raster;
  for (let i = 0; i < data.length; i += 4) {
    const alpha = data[i + 3]!;
    if (alpha < SEWN) continue;
    const undo = 255 / alpha;
    const key = bucket(
      Math.min(255, data[i]! * undo),
      Math.min(255, data[i + 1]! * undo),
      Math.min(255, data[i + 2]! * undo),
    );
    counts.set(key, (counts.get(key) ?? 0) + 1);
  }
  return counts;
}

/** A thread of a design with the share of the sewn surface that it covers. */
export interface UsedThread {
  readonly thread: Thread;
  /** The thread that was chosen by itself: another where it was swapped. */
  readonly from: Thread;
  readonly share: number;
}

/**
 * Chooses at most six threads for a design by perceptual distance (CIEDE2000): those pinned, and then one after the other the thread that
 * brings the design's colors nearest, by area, until no further one helps. Deterministic.
 */
export function chooseThreads(raster: Raster, pinned: readonly string[] = []): Thread[] {
  const counts = [...countColors(raster)].sort(([a], [b]) => a - b);
  const chosen = pinned.flatMap((code) => {
    const at = THREADS.findIndex((one) => one.code === code);
    return at < 0 ? [] : [at];
  });
  chosen.length = Math.min(chosen.length, MAX_THREADS);
  if (counts.length === 0) return chosen.map((i) => THREADS[i]!);
  const distances = counts.map(([key]) => {
    const [r, g, b] = centerOf(key);
    const lab = labOf(`#${((1 << 24) | (r << 16) | (g << 8) | b).toString(16).slice(1)}`);
    return labs.map((one) => colorDifference(lab, one));
  });
  const best = distances.map((row) => Math.min(Infinity, ...chosen.map((i) => row[i]!)));
  const total = counts.reduce((sum, [, n]) => sum + n, 0);
  while (chosen.length < MAX_THREADS) {
    let gain = 0;
    let next = -1;
    for (let t = 0; t < THREADS.length; t += 1) {
      if (chosen.includes(t)) continue;
      let sum = 0;
      for (let c = 0; c < counts.length; c += 1) {
        // Far colors weigh by the square: a small patch in a wrong color is seen.
        const before = Math.min(best[c]!, 100);
        const after = Math.min(before, distances[c]![t]!);
        sum += counts[c]![1] * (before * before - after * after);
      }
      if (sum > gain) [gain, next] = [sum, t];
    }
    // Less than two units of difference over the whole surface is not seen.
    if (next < 0 || (chosen.length > 0 && gain / total < 4)) break;
    chosen.push(next);
    distances.forEach((row, c) => (best[c] = Math.min(best[c]!, row[next]!)));
  }
  return chosen.map((i) => THREADS[i]!);
}

/**
 * Turns a premultiplied raster into what is sewn, in place: each pixel in the nearest of the chosen threads (or what that is swapped for),
 * fully or not at all. Gives the threads that are sewn with their shares, the largest first. With `only` no thread is chosen beside the
 * pinned ones.
 */
export function sew(
  raster: Raster,
  choice: { readonly pinned: readonly string[]; readonly swaps: { readonly [code: string]: string } },
  only = false,
): UsedThread[] {
  const chosen = only
    ? choice.pinned.flatMap((code) => threadByCode(code) ?? [])
    : chooseThreads(raster, choice.pinned);
  const indices = chosen.map((one) => THREADS.indexOf(one));
  const counts = new Map<number, number>();
  let sewn = 0;
  const { data } = raster;
  const find = indices.length > 0 ? nearestOf(indices) : () => -1;
  for (let i = 0; i < data.length; i += 4) {
    const alpha = data[i + 3]!;
    if (alpha < SEWN) {
      data[i] = data[i + 1] = data[i + 2] = data[i + 3] = 0;
      continue;
    }
    const undo = 255 / alpha;
    const at = find(
      Math.min(255, data[i]! * undo),
      Math.min(255, data[i + 1]! * undo),
      Math.min(255, data[i + 2]! * undo),
    );
    if (at < 0) continue;
    const swapped = ownEntry(choice.swaps, THREADS[at]!.code);
    const use = swapped ? THREADS.findIndex((one) => one.code === swapped) : at;
    const [r, g, b] = rgbs[use < 0 ? at : use]!;
    data[i] = r;
    data[i + 1] = g;
    data[i + 2] = b;
    data[i + 3] = 255;
    counts.set(at, (counts.get(at) ?? 0) + 1);
    sewn += 1;
  }
  return [...counts]
    .map(([at, n]) => {
      const from = THREADS[at]!;
      return { from, thread: threadByCode(ownEntry(choice.swaps, from.code) ?? '') ?? from, share: n / sewn };
    })
    .sort((a, b) => b.share - a.share || (a.from.code < b.from.code ? -1 : 1));
}
