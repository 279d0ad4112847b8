import { distancesInside, DISTANCE_UNIT } from './strokes';

/** Sweeps over a picture there and back: a disc reaches all that it covers in one or two. */
const ROUNDS = 2;

/**
 * How thick a shape is at each of its pixels, px: the diameter of the largest disc that fits inside it and covers the pixel; 0 outside. Discs are handed on from
 * pixel to pixel, so that all thicknesses cost a few sweeps, however many there are.
 */
export function thicknessOf(ink: Uint8Array, widthPx: number, heightPx: number): Float32Array {
  const toEdge = distancesInside((p) => ink[p] === 1, widthPx, heightPx);
  /** The middle of the largest disc that is known to cover a pixel. */
  const middle = new Int32Array(ink.length);
  for (let p = 0; p < ink.length; p += 1) middle[p] = ink[p] === 1 ? p : -1;
  const take = (p: number, x: number, y: number, from: number) => {
    const c = middle[from]!;
    if (c < 0 || toEdge[c]! <= toEdge[middle[p]!]!) return;
    const dx = x - (c % widthPx);
    const dy = y - Math.floor(c / widthPx);
    if (Math.sqrt(dx * dx + dy * dy) * DISTANCE_UNIT <= toEdge[c]!) middle[p] = c;
  };
  const sweep = (way: 1 | -1) => {
    for (let k = 0; k < ink.length; k += 1) {
      const p = way === 1 ? k : ink.length - 1 - k;
      if (ink[p] !== 1) continue;
      const x = p % widthPx;
      const y = (p - x) / widthPx;
      const before = way === 1 ? x > 0 : x + 1 < widthPx;
      const after = way === 1 ? x + 1 < widthPx : x > 0;
      if (before) take(p, x, y, p - way);
      if (way === 1 ? y === 0 : y + 1 === heightPx) continue;
      const up = p - way * widthPx;
      take(p, x, y, up);
      if (before) take(p, x, y, up - way);
      if (after) take(p, x, y, up + way);
    }
  };
  for (let round = 0; round < ROUNDS; round += 1) {
    sweep(1);
    sweep(-1);
  }
  const thickness = new Float32Array(ink.length);
  // A pixel's center is half a pixel from its edge.
  for (let p = 0; p < ink.length; p += 1)
    if (middle[p]! >= 0) thickness[p] = 2 * (toEdge[middle[p]!]! / DISTANCE_UNIT - 0.5);
  return thickness;
}
