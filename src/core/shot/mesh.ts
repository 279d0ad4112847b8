import type { Point } from '../geometry/matrix';
import type { MeshMap } from './shot';

/** Weights of four neighbors of a curve that goes through its points (Catmull and Rom 1974, from memory). */
const weights = (t: number): [number, number, number, number] => [
  (-t + 2 * t * t - t * t * t) / 2,
  (2 - 5 * t * t + 3 * t * t * t) / 2,
  (t + 4 * t * t - 3 * t * t * t) / 2,
  (-t * t + t * t * t) / 2,
];

/** The point of the mesh at whole numbers; beyond its edge it goes on straight. */
function pointAt({ columns, rows, pointsPx }: MeshMap, i: number, j: number): Point {
  const [ci, cj] = [Math.min(columns - 1, Math.max(0, i)), Math.min(rows - 1, Math.max(0, j))];
  const here = pointsPx[cj * columns + ci]!;
  if (ci === i && cj === j) return here;
  const inner = pointsPx[(cj === j ? cj : j < 0 ? 1 : rows - 2) * columns + (ci === i ? ci : i < 0 ? 1 : columns - 2)]!;
  return { x: 2 * here.x - inner.x, y: 2 * here.y - inner.y };
}

/** Where a place on the area (mm of the trim) is in the picture: a smooth surface through the marked points. */
export function meshToPx(map: MeshMap, mm: Point): Point {
  const [s, t] = [(mm.x / map.widthMm) * (map.columns - 1), (mm.y / map.heightMm) * (map.rows - 1)];
  const i = Math.min(map.columns - 2, Math.max(0, Math.floor(s)));
  const j = Math.min(map.rows - 2, Math.max(0, Math.floor(t)));
  const [wi, wj] = [weights(s - i), weights(t - j)];
  let [x, y] = [0, 0];
  for (let b = 0; b < 4; b += 1)
    for (let a = 0; a < 4; a += 1) {
      const p = pointAt(map, i - 1 + a, j - 1 + b);
      const w = wi[a]! * wj[b]!;
      x += p.x * w;
      y += p.y * w;
    }
  return { x, y };
}
