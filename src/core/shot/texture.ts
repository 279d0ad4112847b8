/** A square tile that repeats, gray 0 … 255, with halved copies of itself: what heather and weave are made of. */
export interface Texture {
  readonly sizeMm: number;
  /** From the finest to one pixel; each half the side of the one before. */
  readonly levels: readonly { readonly sidePx: number; readonly values: Uint8Array }[];
}

/** A number from 0 to below 1 for whole numbers, the same on every machine. */
function chance(i: number, seed: number): number {
  let h = Math.imul(i + 1, 374761393) ^ Math.imul(seed + 1, 668265263);
  h = Math.imul(h ^ (h >>> 13), 1274126177);
  h = Math.imul(h ^ (h >>> 15), 2246822519);
  return ((h ^ (h >>> 16)) >>> 0) / 4294967296;
}

function withLevels(sizeMm: number, sidePx: number, values: Float64Array): Texture {
  const levels = [{ sidePx, values: Uint8Array.from(values, (v) => Math.max(0, Math.min(255, Math.round(v)))) }];
  let [side, from] = [sidePx, values];
  while (side > 1) {
    const half = side / 2;
    const next = new Float64Array(half * half);
    for (let y = 0; y < half; y += 1)
      for (let x = 0; x < half; x += 1) {
        const i = 2 * y * side + 2 * x;
        next[y * half + x] = (from[i]! + from[i + 1]! + from[i + side]! + from[i + side + 1]!) / 4;
      }
    levels.push({ sidePx: half, values: Uint8Array.from(next, (v) => Math.round(v)) });
    [side, from] = [half, next];
  }
  return { sizeMm, levels };
}

/**
 * Fibers of another shade spun into the yarn: short lines along the fabric's courses, lighter and darker, 128 on average. 64 mm of it.
 */
function makeHeather(): Texture {
  const side = 256;
  const values = new Float64Array(side * side);
  const fibers = 5200;
  for (let k = 0; k < fibers; k += 1) {
    const [x0, y0] = [chance(k, 1) * side, chance(k, 2) * side];
    const long = 5 + 26 * chance(k, 3) ** 2;
    const tilt = (chance(k, 4) - 0.5) * 0.55;
    const tone = (chance(k, 5) < 0.52 ? -1 : 1) * (16 + 34 * chance(k, 6));
    for (let t = 0; t < long; t += 0.5) {
      const x = (((Math.floor(x0 + t) % side) + side) % side) | 0;
      const y = (((Math.floor(y0 + t * tilt) % side) + side) % side) | 0;
      values[y * side + x]! += tone * 0.5;
    }
  }
  const mean = values.reduce((sum, v) => sum + v, 0) / values.length;
  return withLevels(
    64,
    side,
    values.map((v) => 128 + v - mean),
  );
}

/** Loops of a knit, 0.9 × 0.7 mm: high where yarn lies, 255 in the gaps, where ink does not reach. */
function makeKnit(): Texture {
  const side = 64;
  const values = new Float64Array(side * side);
  for (let y = 0; y < side; y += 1)
    for (let x = 0; x < side; x += 1) {
      const [s, t] = [(x / 8) % 1, (y / 6.4) % 1];
      const leg = Math.abs(((s + (s < 0.5 ? t * 0.35 : -t * 0.35) + 2) % 0.5) - 0.25) * 4;
      values[y * side + x] = 255 * Math.max(0, 1 - leg * 2.2) * (0.6 + 0.4 * Math.abs(Math.sin(Math.PI * t)));
    }
  return withLevels(7.2, side, values);
}

/** Over and under of a plain weave, 0.8 mm. */
function makePlainWeave(): Texture {
  const side = 64;
  const values = new Float64Array(side * side);
  for (let y = 0; y < side; y += 1)
    for (let x = 0; x < side; x += 1) {
      const [s, t] = [Math.abs(Math.sin((Math.PI * x) / 8)), Math.abs(Math.sin((Math.PI * y) / 8))];
      values[y * side + x] = 255 * (1 - Math.max(s, t)) * 1.6;
    }
  return withLevels(6.4, side, values);
}

const made = new Map<string, Texture>();
const MAKERS = { heather: makeHeather, knit: makeKnit, 'plain-weave': makePlainWeave };
export type TextureName = keyof typeof MAKERS;

/** The textures, each made once. */
export function textureOf(name: TextureName): Texture {
  const have = made.get(name) ?? MAKERS[name]();
  made.set(name, have);
  return have;
}
