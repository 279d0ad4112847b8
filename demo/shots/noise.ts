/** Smooth noise for folds and grain, the same on every machine: no Math.random, integer hashing only. */
function lattice(ix: number, iy: number, seed: number): number {
  let h = Math.imul(ix, 374761393) ^ Math.imul(iy, 668265263) ^ Math.imul(seed, 2147483647 - 58);
  h = Math.imul(h ^ (h >>> 13), 1274126177);
  return ((h ^ (h >>> 16)) >>> 0) / 4294967295;
}

const ease = (t: number) => t * t * t * (t * (t * 6 - 15) + 10);

/** Value noise, −1 to 1, period of about 1 in x and y. */
export function noise(x: number, y: number, seed = 0): number {
  const [ix, iy] = [Math.floor(x), Math.floor(y)];
  const [fx, fy] = [ease(x - ix), ease(y - iy)];
  const top = lattice(ix, iy, seed) * (1 - fx) + lattice(ix + 1, iy, seed) * fx;
  const bottom = lattice(ix, iy + 1, seed) * (1 - fx) + lattice(ix + 1, iy + 1, seed) * fx;
  return (top * (1 - fy) + bottom * fy) * 2 - 1;
}

export const smoothstep = (from: number, to: number, x: number): number => {
  const t = Math.min(1, Math.max(0, (x - from) / (to - from)));
  return t * t * (3 - 2 * t);
};

/** A rounded ridge of width `w` around 0. */
export const ridge = (distance: number, w: number): number => Math.exp(-((distance / w) ** 2));
