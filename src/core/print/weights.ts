/** Positions between two pixels that are told apart. */
export const PHASES = 256;
const ONE = 1 << 12;
/**
 * Catmull-Rom weights (cubic convolution with a = −½; Keys 1981, from memory) for the four neighbors at each of 256 phases, in 1/4096;
 * each row sums to 4096 exactly, so that flat color stays flat.
 */
export const WEIGHTS = (() => {
  const table = new Int32Array(PHASES * 4);
  for (let p = 0; p < PHASES; p += 1) {
    const t = p / PHASES;
    const w = [
      (-t + 2 * t * t - t ** 3) / 2,
      (2 - 5 * t * t + 3 * t ** 3) / 2,
      (t + 4 * t * t - 3 * t ** 3) / 2,
      (-t * t + t ** 3) / 2,
    ].map((x) => Math.round(x * ONE));
    w[t < 0.5 ? 1 : 2]! += ONE - w.reduce((sum, x) => sum + x, 0);
    table.set(w, p * 4);
  }
  return table;
})();
