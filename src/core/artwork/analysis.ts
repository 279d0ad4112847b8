import type { Box } from '../geometry/box';
import { formatHex, oklab, type Rgb } from './color';

/** Straight RGBA, 8 bit, rows from the top. */
export interface Pixels {
  readonly widthPx: number;
  readonly heightPx: number;
  readonly rgba: Uint8Array | Uint8ClampedArray;
}

/** The box around everything with an alpha above `threshold`, in pixels (right and bottom exclusive); null when nothing is visible. */
export function alphaBounds({ widthPx, heightPx, rgba }: Pixels, threshold = 8): Box | null {
  const rowHas = (y: number, from: number, to: number) => {
    for (let i = (y * widthPx + from) * 4 + 3, end = (y * widthPx + to) * 4; i < end; i += 4)
      if (rgba[i]! > threshold) return true;
    return false;
  };
  let top = 0;
  while (top < heightPx && !rowHas(top, 0, widthPx)) top += 1;
  if (top === heightPx) return null;
  let bottom = heightPx;
  while (!rowHas(bottom - 1, 0, widthPx)) bottom -= 1;
  let left = widthPx;
  let right = 0;
  for (let y = top; y < bottom; y += 1) {
    const row = y * widthPx;
    for (let x = 0; x < left; x += 1) if (rgba[(row + x) * 4 + 3]! > threshold) left = x;
    for (let x = widthPx - 1; x >= right; x -= 1) if (rgba[(row + x) * 4 + 3]! > threshold) right = x + 1;
  }
  return { left, top, right, bottom };
}

export interface MainColor {
  readonly hex: string;
  /** Share of the visible pixels, 0 to 1. */
  readonly share: number;
}

/**
 * Main colors of a small picture (a thumbnail), most first: k-means in OKLab over its visible pixels, seeded with the most
 * distant colors, so that the same picture gives the same colors. Clusters closer than 0.04 are one.
 */
export function mainColors({ rgba }: Pixels, most = 6): MainColor[] {
  const counts = new Map<number, number>();
  for (let i = 0; i < rgba.length; i += 4) {
    if (rgba[i + 3]! < 128) continue;
    const bucket = ((rgba[i]! >> 3) << 10) | ((rgba[i + 1]! >> 3) << 5) | (rgba[i + 2]! >> 3);
    counts.set(bucket, (counts.get(bucket) ?? 0) + 1);
  }
  const samples = [...counts].map(([bucket, weight]) => {
    const rgb: Rgb = [((bucket >> 10) & 31) * 8 + 4, ((bucket >> 5) & 31) * 8 + 4, (bucket & 31) * 8 + 4];
    return { rgb, lab: oklab(rgb), weight };
  });
  if (samples.length === 0) return [];
  const distance = (a: readonly number[], b: readonly number[]) =>
    (a[0]! - b[0]!) ** 2 + (a[1]! - b[1]!) ** 2 + (a[2]! - b[2]!) ** 2;
  samples.sort((a, b) => b.weight - a.weight);
  let centers = [samples[0]!.lab];
  while (centers.length < Math.min(most, samples.length)) {
    const next = samples.reduce(
      (best, s) => {
        const score = Math.min(...centers.map((c) => distance(c, s.lab))) * Math.sqrt(s.weight);
        return score > best.score ? { score, lab: s.lab } : best;
      },
      { score: 0, lab: centers[0]! },
    );
    if (next.score === 0) break;
    centers.push(next.lab);
  }
  let groups: (typeof samples)[] = [];
  for (let round = 0; round < 8; round += 1) {
    groups = centers.map(() => []);
    for (const s of samples) {
      let best = 0;
      for (let k = 1; k < centers.length; k += 1)
        if (distance(centers[k]!, s.lab) < distance(centers[best]!, s.lab)) best = k;
      groups[best]!.push(s);
    }
    centers = groups.map((group, k) => {
      const weight = group.reduce((sum, s) => sum + s.weight, 0);
      if (weight === 0) return centers[k]!;
      return [0, 1, 2].map((axis) => group.reduce((sum, s) => sum + s.lab[axis]! * s.weight, 0) / weight) as [
        number,
        number,
        number,
      ];
    });
  }
  const total = samples.reduce((sum, s) => sum + s.weight, 0);
  const merged: { lab: readonly number[]; rgb: Rgb; weight: number }[] = [];
  for (const group of groups.filter((g) => g.length > 0)) {
    const weight = group.reduce((sum, s) => sum + s.weight, 0);
    // The commonest real color of the cluster stands for it: an average would be a color that is nowhere in the picture.
    const { rgb, lab } = group.reduce((best, s) => (s.weight > best.weight ? s : best));
    const near = merged.find((m) => distance(m.lab, lab) < 0.04 ** 2);
    if (near) near.weight += weight;
    else merged.push({ rgb, lab, weight });
  }
  return merged
    .sort((a, b) => b.weight - a.weight)
    .map(({ rgb, weight }) => ({ hex: formatHex(rgb), share: weight / total }));
}
