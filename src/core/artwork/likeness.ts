import type { Pixels } from './analysis';

const ACROSS = 9;
const DOWN = 8;

/** Gray level 0 to 255 of each cell of a 9×8 grid, over white: means of all pixels in the cell. */
function grid({ widthPx, heightPx, rgba }: Pixels): Float64Array {
  const sums = new Float64Array(ACROSS * DOWN);
  const counts = new Float64Array(ACROSS * DOWN);
  for (let y = 0; y < heightPx; y += 1)
    for (let x = 0; x < widthPx; x += 1) {
      const i = (y * widthPx + x) * 4;
      const alpha = rgba[i + 3]! / 255;
      const gray = 0.299 * rgba[i]! + 0.587 * rgba[i + 1]! + 0.114 * rgba[i + 2]!;
      const cell = Math.floor((y * DOWN) / heightPx) * ACROSS + Math.floor((x * ACROSS) / widthPx);
      sums[cell]! += gray * alpha + 255 * (1 - alpha);
      counts[cell]! += 1;
    }
  return sums.map((sum, cell) => (counts[cell] ? sum / counts[cell]! : 255));
}

/**
 * Likeness hash of a small picture, 16 hexadecimal digits: each bit says whether a cell of a 9×8 grid is darker than its right neighbor by
 * more than noise (a difference hash; common practice, no source). Size, compression and small changes of color leave it as it is.
 */
export function likenessHash(pixels: Pixels): string {
  const cells = grid(pixels);
  let bits = '';
  for (let y = 0; y < DOWN; y += 1)
    for (let x = 0; x + 1 < ACROSS; x += 1) bits += cells[y * ACROSS + x]! + 2 < cells[y * ACROSS + x + 1]! ? '1' : '0';
  return BigInt(`0b${bits}`).toString(16).padStart(16, '0');
}

/** Bits in which two likeness hashes differ, 0 to 64. */
export function likenessDistance(one: string, two: string): number {
  let bits = BigInt(`0x${one}`) ^ BigInt(`0x${two}`);
  let count = 0;
  for (; bits > 0n; bits >>= 1n) count += Number(bits & 1n);
  return count;
}

/** Pictures whose hashes differ in no more bits than this are taken for the same (chosen by eye, no source). */
export const SAME_LIKENESS = 3;
