import type { Gray } from './gray';

/** Pixels of a side of the blocks that JPEG codes one by one (ITU-T T.81). */
export const BLOCK_PX = 8;
/** Frequencies that are looked at: low ones, of which there is something in every block with a shape in it. */
const LOW = [
  [0, 1],
  [1, 0],
  [1, 1],
  [0, 2],
  [2, 0],
] as const;
/** Steps that are tried: finer ones are not seen. */
const [MIN_STEP, MAX_STEP] = [10, 160];
/** A block says something where its levels range so far and none of them is clipped. */
const MIN_RANGE = 16;
/** Blocks that are looked at at most, the fewest values that tell a step, and the fewest frequencies that have to have one. */
const MAX_BLOCKS = 1000;
const FEWEST_VALUES = 20;
const FEWEST_FREQUENCIES = 3;
/** How well values have to sit on multiples of a step: 1 all of them, 0 none. */
const SITS = 0.7;

const base = [0, 1, 2].map((u) =>
  Float64Array.from(
    { length: BLOCK_PX },
    (_, x) => (u === 0 ? Math.SQRT1_2 : 1) * 0.5 * Math.cos(((2 * x + 1) * u * Math.PI) / (2 * BLOCK_PX)),
  ),
);

/**
 * The step to which a JPEG rounded the low frequencies of its blocks, in levels: about 11 at quality 50 of the usual tables, 55 at quality 10. The blocks may begin
 * anywhere, since a picture can be cut after it was coded, or be saved otherwise. Null where no step of 10 or more is found.
 */
export function jpegStep(gray: Gray): number | null {
  const corners = cornersOf(gray);
  let best: Found | null = null;
  for (let dy = 0; dy < BLOCK_PX; dy += 1)
    for (let dx = 0; dx < BLOCK_PX; dx += 1) {
      const found = stepOf(gray, corners, dx, dy);
      if (
        found &&
        (!best ||
          found.frequencies > best.frequencies ||
          (found.frequencies === best.frequencies && found.step > best.step))
      )
        best = found;
    }
  return best && best.step;
}

/** Corners of blocks spread over a picture, for blocks that begin at its own corner. */
function cornersOf({ widthPx, heightPx }: Gray): Int32Array {
  const [across, down] = [Math.floor(widthPx / BLOCK_PX) - 1, Math.floor(heightPx / BLOCK_PX) - 1];
  const all = Math.max(0, across) * Math.max(0, down);
  // A prime stride walks over all rows and columns evenly.
  const every = Math.max(1, Math.ceil(all / MAX_BLOCKS));
  const corners: number[] = [];
  for (let i = 0; i < all; i += every)
    corners.push(Math.floor(i / across) * BLOCK_PX * widthPx + (i % across) * BLOCK_PX);
  return Int32Array.from(corners);
}

interface Found {
  readonly step: number;
  /** How many of the frequencies that are looked at have one. */
  readonly frequencies: number;
}

function stepOf({ widthPx, levels }: Gray, corners: Int32Array, dx: number, dy: number): Found | null {
  const values = LOW.map(() => new Set<number>());
  for (const corner of corners) {
    const start = corner + dy * widthPx + dx;
    if (!hasShape(levels, start, widthPx)) continue;
    for (const [k, [u, v]] of LOW.entries()) {
      let sum = 0;
      for (let y = 0; y < BLOCK_PX; y += 1) {
        let row = 0;
        for (let x = 0; x < BLOCK_PX; x += 1) row += levels[start + y * widthPx + x]! * base[u]![x]!;
        sum += row * base[v]![y]!;
      }
      // The same shape drawn many times has the same value each time, and counts once.
      values[k]!.add(Math.round(Math.abs(sum) * 100) / 100);
    }
  }
  const found = values.flatMap((own) => sitting([...own]) ?? []);
  if (found.length < FEWEST_FREQUENCIES) return null;
  return { step: found.reduce((sum, step) => sum + step, 0) / found.length, frequencies: found.length };
}

/** Whether the levels of a block range, and none of them is clipped: that would move its frequencies. */
function hasShape(levels: Uint8Array, start: number, stride: number): boolean {
  let [least, most] = [255, 0];
  for (let y = 0; y < BLOCK_PX; y += 1)
    for (let x = 0; x < BLOCK_PX; x += 1) {
      const level = levels[start + y * stride + x]!;
      if (level < least) least = level;
      if (level > most) most = level;
    }
  return most - least >= MIN_RANGE && least > 0 && most < 255;
}

/** The largest step on whose multiples values sit: they do on those of its parts as well. */
function sitting(values: readonly number[]): number | null {
  for (let step = MAX_STEP; step >= MIN_STEP; step -= 1) {
    let [sum, count] = [0, 0];
    for (const value of values) {
      if (value < step / 2) continue;
      sum += Math.cos((2 * Math.PI * value) / step);
      count += 1;
    }
    if (count >= FEWEST_VALUES && sum / count >= SITS) return step;
  }
  return null;
}

/** Where the quantization tables of a JPEG are, and the scans that end them (ITU-T T.81, B.1.1.3). */
const [TABLES, SCAN] = [0xdb, 0xda];

/**
 * The step to which a JPEG says that it rounds the low frequencies of its brightness, in levels: the mean of the five after the first in its first table, which
 * come in zigzag order. Null for what is no JPEG, or names none before its picture begins.
 */
export function tableStep(bytes: Uint8Array): number | null {
  if (bytes[0] !== 0xff || bytes[1] !== 0xd8) return null;
  for (let at = 2; at + 4 <= bytes.length;) {
    if (bytes[at] !== 0xff) return null;
    const marker = bytes[at + 1]!;
    if (marker === 0xff) {
      at += 1;
      continue;
    }
    if (marker === SCAN) return null;
    const length = (bytes[at + 2]! << 8) | bytes[at + 3]!;
    if (marker === TABLES && (bytes[at + 4]! & 15) === 0) return stepInTable(bytes, at + 4);
    at += 2 + length;
  }
  return null;
}

function stepInTable(bytes: Uint8Array, at: number): number | null {
  const size = bytes[at]! >> 4 === 0 ? 1 : 2;
  if (at + 1 + 6 * size > bytes.length) return null;
  let sum = 0;
  for (let i = 1; i <= LOW.length; i += 1)
    sum += size === 1 ? bytes[at + 1 + i]! : (bytes[at + 1 + 2 * i]! << 8) | bytes[at + 2 + 2 * i]!;
  return sum / LOW.length;
}
