import type { Lab65 } from 'culori';
import { formatHex } from '../artwork/color';
import { colorDifference } from '../catalog/families';
import { designColors, type DesignColor, type SewnPixels } from './colors';
import { MAX_THREADS } from './limits';
import { THREAD_LABS, THREADS, type Thread } from './palette';

/** A color of a design and the thread that it is sewn in. */
export interface ThreadFor {
  /** `#rrggbb`: what pixels are held against. */
  readonly color: string;
  readonly thread: Thread;
}

/** Density at which threads are chosen, whatever is drawn later: fine enough to see what is sewn in which thread. */
export const THREADS_DPI = 100;
/** A color on less than about 1 mm² has no thread of its own: pixels at `THREADS_DPI`. */
const MIN_PIXELS = 12;

/** Which color is sewn in which thread; several colors can share one. */
export type ThreadPlan = readonly ThreadFor[];

/** Colors that differ by so much (CIEDE2000) are not sewn in one thread while one is free: the least by which two threads of the palette differ. */
const DIFFERENT = 8;
/** Threads that bring a design nearer by less than this, squared and over the whole surface, are not seen. */
const SEEN_GAIN = 4;

type Row = Float64Array;

/** Squared differences of each color to each thread. */
const costsOf = (colors: readonly DesignColor[]): Row[] =>
  colors.map(({ lab, count }) => Float64Array.from(THREAD_LABS, (thread) => count * colorDifference(lab, thread) ** 2));

const differ = (a: Lab65, b: Lab65): boolean => colorDifference(a, b) >= DIFFERENT;

/**
 * One thread for each color, of at most `slots` beside the pinned: the least sum of squared differences, weighted by area, at which no two colors that differ
 * share one. By search with bounds; exact.
 */
function assign(colors: readonly DesignColor[], pinned: readonly number[], slots: number): number[] | null {
  // A thread that is not pinned has to bring something that is seen.
  const costs = costsOf(colors).map((row, i) =>
    row.map((cost, t) => cost + (pinned.length > 0 && !pinned.includes(t) ? SEEN_GAIN * colors[i]!.count : 0)),
  );
  const orders = costs.map((row) => THREADS.map((_, t) => t).sort((a, b) => row[a]! - row[b]!));
  // What the colors from one on cost at the least.
  const rest = new Float64Array(colors.length + 1);
  for (let i = colors.length - 1; i >= 0; i -= 1) rest[i] = rest[i + 1]! + costs[i]![orders[i]![0]!]!;
  const apart = colors.map(({ lab }) => colors.map((other) => differ(lab, other.lab)));
  const isPinned = new Set(pinned);
  let best: { cost: number; threads: number[] } | null = null;
  const chosen: number[] = [];
  const visit = (i: number, cost: number, used: number) => {
    if (best && cost + rest[i]! >= best.cost) return;
    if (i === colors.length) {
      best = { cost, threads: [...chosen] };
      return;
    }
    for (const thread of orders[i]!) {
      const next = cost + costs[i]![thread]!;
      if (best && next + rest[i + 1]! >= best.cost) return;
      if (chosen.some((other, j) => other === thread && apart[i]![j]!)) continue;
      const isNew = !isPinned.has(thread) && !chosen.includes(thread);
      if (isNew && used === slots) continue;
      chosen.push(thread);
      visit(i + 1, next, used + (isNew ? 1 : 0));
      chosen.pop();
    }
  };
  visit(0, 0, 0);
  return (best as { threads: number[] } | null)?.threads ?? null;
}

/** The sum over all colors of the nearest of some threads. */
const sumOf = (costs: readonly Row[], threads: readonly number[]): number =>
  costs.reduce((sum, row) => sum + Math.min(...threads.map((t) => row[t]!)), 0);

/** Adds the thread that helps most, while it is seen. */
function grow(costs: readonly Row[], chosen: number[], most: number, total: number): void {
  while (chosen.length < most) {
    const before = chosen.length > 0 ? sumOf(costs, chosen) : Infinity;
    let [next, least] = [-1, before];
    for (let t = 0; t < THREADS.length; t += 1) {
      if (chosen.includes(t)) continue;
      const sum = sumOf(costs, [...chosen, t]);
      if (sum < least) [next, least] = [t, sum];
    }
    if (next < 0 || (chosen.length > 0 && (before - least) / total < SEEN_GAIN)) return;
    chosen.push(next);
  }
}

/** Exchanges chosen threads for others while that brings the design nearer: k-medoids (PAM), the pinned ones staying. */
function exchange(costs: readonly Row[], chosen: number[], fixed: number): void {
  for (let better = true; better;) {
    better = false;
    let least = sumOf(costs, chosen);
    for (let at = fixed; at < chosen.length; at += 1)
      for (let t = 0; t < THREADS.length; t += 1) {
        if (chosen.includes(t)) continue;
        const sum = sumOf(costs, chosen.with(at, t));
        if (sum < least - 1e-9) {
          chosen[at] = t;
          least = sum;
          better = true;
        }
      }
  }
}

/** Threads for more colors than there are threads: those that lie nearest on the whole. */
function medoids(colors: readonly DesignColor[], pinned: readonly number[]): number[] {
  const costs = costsOf(colors);
  const total = colors.reduce((sum, { count }) => sum + count, 0);
  const chosen = [...pinned];
  grow(costs, chosen, MAX_THREADS, total);
  exchange(costs, chosen, pinned.length);
  return chosen;
}

const indexOf = (code: string): number => THREADS.findIndex((one) => one.code === code);

/** Fixed threads, each for what is nearest to it. */
const planOf = (threads: readonly number[]): ThreadFor[] =>
  threads.map((t) => ({ color: THREADS[t]!.hex, thread: THREADS[t]! }));

/**
 * Chooses at most six threads for a design, together: where it has up to six colors the best of all, each color its own; where it has more (a photograph)
 * those that lie nearest on the whole. Pinned ones are among them. The picture is at `THREADS_DPI`; a color with fewer than `leastCount` pixels gets no thread
 * of its own. Deterministic.
 */
export function chooseThreads(pixels: SewnPixels, pinned: readonly string[] = [], leastCount = MIN_PIXELS): ThreadPlan {
  const fixed = pinned
    .map(indexOf)
    .filter((t, i, all) => t >= 0 && all.indexOf(t) === i)
    .slice(0, MAX_THREADS);
  const colors = designColors(pixels, leastCount);
  if (pixels.count === 0 || colors.length === 0) return planOf(fixed);
  const own = colors.length <= MAX_THREADS ? assign(colors, fixed, MAX_THREADS - fixed.length) : null;
  if (own) return colors.map(({ rgb }, i) => ({ color: formatHex(rgb), thread: THREADS[own[i]!]! }));
  return planOf(medoids(colors, fixed));
}
