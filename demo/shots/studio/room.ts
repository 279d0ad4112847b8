import { sheet, surface, type V } from './shapes';
import type { Camera, Lamp, Material, Part } from './scene';

/** The paper that goods stand on and before, and the lights of the studio: one family for all of them. */
const PAPER: Material = {
  role: 'room',
  albedo: [0.76, 0.76, 0.755],
  grain: { kind: 'speckle', depthMm: 0, sizeMm: 1 },
};

/** A sweep of paper: floor, bend, wall. Its floor is at y = 0, its wall `backMm` behind the middle. */
export function paperSweep(backMm = 520, material: Material = PAPER): Part {
  const bend = 260;
  const front = 1600;
  const flat = front + backMm - bend;
  const curve = (bend * Math.PI) / 2;
  const all = flat + curve + 1400;
  const at = (t: number): readonly [number, number] => {
    const way = t * all;
    if (way < flat) return [0, front - way];
    if (way < flat + curve) {
      const angle = (way - flat) / bend;
      return [bend - bend * Math.cos(angle), -(backMm - bend) - bend * Math.sin(angle)];
    }
    return [bend + way - flat - curve, -backMm];
  };
  const shape = surface(
    2,
    160,
    (s, t) => [(s - 0.5) * 5000, at(t)[0], at(t)[1]],
    (s, t) => [s * 5000, t * all],
  );
  return { material, shape };
}

/** The same paper as a plain wall, for what hangs or is worn. */
export const backdrop = (zMm: number): Part => ({
  shape: sheet([-6000, 5000, zMm], [12000, 0, 0], [0, -10000, 0]),
  material: PAPER,
});

/** A softbox: its middle, where it shines, its sides and its light. */
export function softbox(
  middle: V,
  toward: V,
  widthMm: number,
  heightMm: number,
  light: number,
  tint: V = [1, 1, 1],
): Lamp {
  const minus = (p: V, q: V): V => [p[0] - q[0], p[1] - q[1], p[2] - q[2]];
  const cross = (p: V, q: V): V => [p[1] * q[2] - p[2] * q[1], p[2] * q[0] - p[0] * q[2], p[0] * q[1] - p[1] * q[0]];
  const unit = (p: V): V => {
    const l = Math.hypot(...p);
    return [p[0] / l, p[1] / l, p[2] / l];
  };
  const forward = unit(minus(toward, middle));
  const right = unit(Math.abs(forward[1]) > 0.98 ? [1, 0, 0] : cross(forward, [0, 1, 0]));
  const up = cross(right, forward);
  const a: V = [right[0] * widthMm, right[1] * widthMm, right[2] * widthMm];
  const b: V = [up[0] * heightMm, up[1] * heightMm, up[2] * heightMm];
  const corner: V = [middle[0] - (a[0] + b[0]) / 2, middle[1] - (a[1] + b[1]) / 2, middle[2] - (a[2] + b[2]) / 2];
  // a × b looks to the back of the box: the sides are exchanged.
  return { corner, a: b, b: a, color: [light * tint[0], light * tint[1], light * tint[2]] };
}

/** A lamp on the other side of the middle. */
export const otherSide = ({ corner, a, b, color }: Lamp): Lamp => ({
  corner: [-corner[0], corner[1], corner[2]],
  // The other way round, so that it still shines inward.
  a: [-b[0], b[1], b[2]],
  b: [-a[0], a[1], a[2]],
  color,
});

/** Lights for what stands on a table: a large window of a softbox at the left, a strip close by at the right, one above, and what the room gives back. */
export const tableLights = (heightMm: number): { lamps: Lamp[]; sky: V; ground: V } => ({
  lamps: [
    softbox([-620, heightMm + 330, 420], [0, heightMm * 0.5, 0], 520, 620, 5.2),
    softbox([330, heightMm * 0.6 + 120, 250], [0, heightMm * 0.55, 0], 70, 420, 4.4),
    softbox([60, heightMm + 780, -60], [0, 0, 0], 700, 560, 2.6),
  ],
  sky: [0.26, 0.26, 0.264],
  ground: [0.16, 0.16, 0.16],
});

/** Lights for what lies on a table and is seen from above: none that it would mirror into the camera. `k`: how much larger than a book it is. */
export const flatLights = (k = 1): { lamps: Lamp[]; sky: V; ground: V } => ({
  lamps: [
    softbox([-760 * k, 560 * k, -420 * k], [0, 0, 0], 520 * k, 620 * k, 7.2),
    softbox([820 * k, 520 * k, 300 * k], [0, 0, 0], 500 * k, 500 * k, 1.5),
  ],
  sky: [0.3, 0.3, 0.302],
  ground: [0.2, 0.2, 0.2],
});

/** A camera straight above `middle` that sees `viewMm` at the height of what is printed; and the map from its pixels to mm of an area whose top left corner is at x, z. */
export function overhead(viewMm: number, middle: V, printedAtMm: number, sizePx: number) {
  const away = viewMm * 2.4;
  const camera: Camera = {
    eye: [middle[0], printedAtMm + away, middle[2]],
    target: [middle[0], 0, middle[2]],
    zoom: (2 * away) / viewMm,
  };
  const mm = viewMm / sizePx;
  const flat = (left: number, top: number) => ({
    a: mm,
    b: 0,
    c: 0,
    d: mm,
    e: middle[0] - viewMm / 2 - left,
    f: middle[2] - viewMm / 2 - top,
  });
  return { camera, flat };
}

/** Where a camera sees a place, px. */
export function project({ eye, target, zoom }: Camera, p: V, sizePx: number): { x: number; y: number } {
  const minus = (a: V, b: V): V => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
  const dot = (a: V, b: V) => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
  const unit = (a: V): V => {
    const l = Math.hypot(...a);
    return [a[0] / l, a[1] / l, a[2] / l];
  };
  const forward = unit(minus(target, eye));
  const right = unit([-forward[2], 0, forward[0]]);
  const up: V = [
    right[1] * forward[2] - right[2] * forward[1],
    right[2] * forward[0] - right[0] * forward[2],
    right[0] * forward[1] - right[1] * forward[0],
  ];
  const d = minus(p, eye);
  const depth = dot(d, forward);
  return {
    x: ((dot(d, right) / depth) * zoom + 1) * 0.5 * sizePx,
    y: (1 - (dot(d, up) / depth) * zoom) * 0.5 * sizePx,
  };
}

/** The affine map that fits an area best, from pixels to mm: for drawing over a picture in which the area is nearly flat. */
export function fitFlat(
  { coverage, u, v }: { coverage: Float32Array; u: Float32Array; v: Float32Array },
  sizePx: number,
) {
  // Least squares: the normal equations of x, y and 1.
  const sums = Array.from({ length: 3 }, () => [0, 0, 0]);
  const [right, low] = [
    [0, 0, 0],
    [0, 0, 0],
  ];
  for (let i = 0; i < coverage.length; i += 3) {
    if (coverage[i]! < 0.99) continue;
    const row = [(i % sizePx) + 0.5, Math.floor(i / sizePx) + 0.5, 1];
    for (let j = 0; j < 3; j += 1) {
      for (let k = 0; k < 3; k += 1) sums[j]![k]! += row[j]! * row[k]!;
      right![j]! += row[j]! * u[i]!;
      low![j]! += row[j]! * v[i]!;
    }
  }
  const det = (m: number[][]) =>
    m[0]![0]! * (m[1]![1]! * m[2]![2]! - m[1]![2]! * m[2]![1]!) -
    m[0]![1]! * (m[1]![0]! * m[2]![2]! - m[1]![2]! * m[2]![0]!) +
    m[0]![2]! * (m[1]![0]! * m[2]![1]! - m[1]![1]! * m[2]![0]!);
  const solve = (to: number[]) =>
    [0, 1, 2].map((k) => det(sums.map((row, j) => row.map((value, c) => (c === k ? to[j]! : value)))) / det(sums)) as [
      number,
      number,
      number,
    ];
  const [[a, c, e], [b, d, f]] = [solve(right!), solve(low!)];
  return { a, b, c, d, e, f };
}
