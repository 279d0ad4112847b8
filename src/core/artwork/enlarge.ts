import { newRaster, type Raster } from '../print/pixels';

/** Lobes of the Lanczos window (Duchon 1979, from memory). */
const LOBES = 3;

const lanczos = (x: number): number => {
  if (x === 0) return 1;
  if (Math.abs(x) >= LOBES) return 0;
  const t = Math.PI * x;
  return (LOBES * Math.sin(t) * Math.sin(t / LOBES)) / (t * t);
};

/** Weights of the six source pixels around each target pixel along one axis; `first` is the index of the first of them, which can lie outside. */
function taps(from: number, to: number): { first: Int32Array; weights: Float32Array } {
  const first = new Int32Array(to);
  const weights = new Float32Array(to * 2 * LOBES);
  for (let i = 0; i < to; i += 1) {
    const at = ((i + 0.5) * from) / to - 0.5;
    first[i] = Math.floor(at) - LOBES + 1;
    let sum = 0;
    for (let k = 0; k < 2 * LOBES; k += 1) {
      const weight = lanczos(at - (first[i]! + k));
      weights[i * 2 * LOBES + k] = weight;
      sum += weight;
    }
    for (let k = 0; k < 2 * LOBES; k += 1) weights[i * 2 * LOBES + k]! /= sum;
  }
  return { first, weights };
}

/**
 * Enlarges a premultiplied picture by Lanczos resampling, three lobes, edges repeated. `widthPx` and `heightPx` are not smaller than the
 * picture's own. Works through it by rows of the target, so that only a few rows are held beside source and target.
 */
export function enlarge(source: Raster, widthPx: number, heightPx: number): Raster {
  const target = newRaster(widthPx, heightPx);
  const across = taps(source.widthPx, widthPx);
  const down = taps(source.heightPx, heightPx);
  const rows = new Map<number, Float32Array>();
  const rowOf = (y: number): Float32Array => {
    const have = rows.get(y);
    if (have) return have;
    const row = new Float32Array(widthPx * 4);
    const base = y * source.widthPx * 4;
    for (let x = 0; x < widthPx; x += 1)
      for (let k = 0; k < 2 * LOBES; k += 1) {
        const from = base + Math.min(source.widthPx - 1, Math.max(0, across.first[x]! + k)) * 4;
        const weight = across.weights[x * 2 * LOBES + k]!;
        for (let c = 0; c < 4; c += 1) row[x * 4 + c]! += source.data[from + c]! * weight;
      }
    rows.set(y, row);
    return row;
  };
  for (let y = 0; y < heightPx; y += 1) {
    const ys = Array.from({ length: 2 * LOBES }, (_, k) =>
      Math.min(source.heightPx - 1, Math.max(0, down.first[y]! + k)),
    );
    for (const held of [...rows.keys()]) if (held < ys[0]!) rows.delete(held);
    const lines = ys.map(rowOf);
    const out = y * widthPx * 4;
    for (let i = 0; i < widthPx * 4; i += 4) {
      const sum = [0, 0, 0, 0];
      for (let k = 0; k < 2 * LOBES; k += 1) {
        const weight = down.weights[y * 2 * LOBES + k]!;
        const line = lines[k]!;
        for (let c = 0; c < 4; c += 1) sum[c]! += line[i + c]! * weight;
      }
      // Premultiplied color is never more than its alpha.
      const alpha = Math.min(255, Math.max(0, Math.round(sum[3]!)));
      for (let c = 0; c < 3; c += 1) target.data[out + i + c] = Math.min(alpha, Math.max(0, Math.round(sum[c]!)));
      target.data[out + i + 3] = alpha;
    }
  }
  return target;
}
