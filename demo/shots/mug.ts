import { smoothstep } from './noise';
import { addArea, newPasses, type Passes } from './passes';

/** A mug in mm, y up from the table, its axis in z and x = 0: radius, height, wall, and the wrap that is printed. */
export interface MugSize {
  readonly radiusMm: number;
  readonly heightMm: number;
  readonly wrap: { readonly widthMm: number; readonly heightMm: number; readonly fromTopMm: number };
}

type V = [number, number, number];
const add = (a: V, b: V, t = 1): V => [a[0] + b[0] * t, a[1] + b[1] * t, a[2] + b[2] * t];
const dot = (a: V, b: V) => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
const unit = (a: V): V => {
  const l = Math.hypot(...a);
  return [a[0] / l, a[1] / l, a[2] / l];
};

/** Distance to the mug's surface; `turn` is where the handle points, radians from the viewer clockwise from above. */
function distance(p: V, mug: MugSize, turn: number): number {
  const r = Math.hypot(p[0], p[2]);
  const wall = 4;
  const round = 2;
  const dy = Math.max(-p[1], p[1] - mug.heightMm);
  const outer = box2(r - mug.radiusMm, dy, round);
  const inner = box2(r - (mug.radiusMm - wall), Math.max(6 - p[1], p[1] - mug.heightMm - 20), 3);
  const shell = smoothMax(outer, -inner, 1.4);
  const x = p[0] * Math.sin(turn) + p[2] * Math.cos(turn);
  const side = p[0] * Math.cos(turn) - p[2] * Math.sin(turn);
  const half = mug.heightMm * 0.3;
  const [hx, hy] = [(x - mug.radiusMm + 2) / 0.86, p[1] - mug.heightMm * 0.5];
  const ring = Math.hypot(Math.hypot(hx, hy) - half, side * 0.72) - 5.2;
  // It ends within the wall, so that nothing of it is seen inside.
  const handle = Math.max(ring * 0.86, mug.radiusMm - 1.2 - r);
  return smoothMin(shell, handle, 4);
}

const box2 = (a: number, b: number, round: number) => {
  const [x, y] = [a + round, b + round];
  return Math.min(Math.max(x, y), 0) + Math.hypot(Math.max(x, 0), Math.max(y, 0)) - round;
};
const smoothMin = (a: number, b: number, k: number) => {
  const h = Math.max(k - Math.abs(a - b), 0) / k;
  return Math.min(a, b) - (h * h * k) / 4;
};
const smoothMax = (a: number, b: number, k: number) => -smoothMin(-a, -b, k);

/** Light that comes from a direction: a soft room, a large window at the left, a strip at the right. */
function room(d: V): number {
  const azimuth = Math.atan2(d[0], d[2]);
  const window =
    smoothstep(-1.75, -1.5, azimuth) *
    smoothstep(-0.78, -1.0, azimuth) *
    smoothstep(-0.15, 0.1, d[1]) *
    smoothstep(0.85, 0.7, d[1]);
  const strip = smoothstep(1.15, 1.25, azimuth) * smoothstep(1.55, 1.45, azimuth) * smoothstep(0, 0.1, d[1]);
  return 0.22 + 0.25 * Math.max(0, d[1]) + 5.2 * window + 2.2 * strip;
}

/** The shot of a mug with `facing` degrees of the wrap's middle turned to the viewer's right edge; the handle is opposite the middle. */
export function mugShot(size: number, mug: MugSize, facingDeg: number, variant: Record<string, string>): Passes {
  const passes = newPasses(size);
  const area = addArea(passes, 'main.wrap', variant);
  const facing = (facingDeg * Math.PI) / 180;
  const turn = Math.PI - facing;
  const eye: V = [0, mug.heightMm * 0.5 + 150, 620];
  const target: V = [facingDeg > 30 ? 8 : 0, mug.heightMm * 0.5 - 2, 0];
  const forward = unit(add(target, eye, -1));
  const right = unit([-forward[2], 0, forward[0]]);
  const up: V = [
    right[1] * forward[2] - right[2] * forward[1],
    right[2] * forward[0] - right[0] * forward[2],
    right[0] * forward[1] - right[1] * forward[0],
  ];
  const zoom = 7.4 * (95 / mug.heightMm);
  const grid = 3;
  const key = unit([-0.62, 0.55, 0.56]);
  const { wrap } = mug;
  for (let py = 0; py < size; py += 1) {
    for (let px = 0; px < size; px += 1) {
      const i = py * size + px;
      let [rest, shade, specular, fabric, covered, su, sv, hits] = [0, 0, 0, 0, 0, 0, 0, 0];
      for (let s = 0; s < grid * grid; s += 1) {
        const sx = (((px + ((s % grid) + 0.5) / grid) / size) * 2 - 1) / zoom;
        const sy = (1 - ((py + (Math.floor(s / grid) + 0.5) / grid) / size) * 2) / zoom;
        const d = unit(add(add(forward, right, sx), up, sy));
        const hit = march(eye, d, mug, turn);
        if (!hit) {
          rest += table(eye, d, mug, turn);
          continue;
        }
        const n = normalAt(hit, mug, turn);
        fabric += 1;
        const lambert = Math.max(0, dot(n, key));
        const inside = Math.hypot(hit[0], hit[2]) < mug.radiusMm - 3.4 && hit[1] > 8 && dot(n, [hit[0], 0, hit[2]]) < 0;
        const near = smoothstep(0, 14, distance(add(hit, n, 14), mug, turn));
        shade +=
          (0.34 + 0.2 * Math.max(0, n[1]) + 0.12 * Math.max(0, -n[1]) * smoothstep(40, 0, hit[1]) + 0.66 * lambert) *
          (0.55 + 0.45 * near) *
          (inside ? 0.5 + 0.4 * (hit[1] / mug.heightMm) : 1);
        const cos = Math.max(0, -dot(n, d));
        const fresnel = 0.045 + 0.955 * (1 - cos) ** 5;
        specular += Math.min(0.55, fresnel * room(unit(add(d, n, 2 * cos)))) * (inside ? 0.35 : 1);
        // On the outer wall: the angle from the wrap's middle and the height give the place on the wrap.
        const r = Math.hypot(hit[0], hit[2]);
        const angle = Math.atan2(hit[0], hit[2]) + facing;
        const wrapped = Math.atan2(Math.sin(angle), Math.cos(angle));
        const u = wrap.widthMm / 2 + mug.radiusMm * wrapped;
        const v = mug.heightMm - wrap.fromTopMm - hit[1];
        if (
          Math.abs(r - mug.radiusMm) < 0.6 &&
          !inside &&
          u > -4 &&
          u < wrap.widthMm + 4 &&
          v > -4 &&
          v < wrap.heightMm + 4
        ) {
          su += u;
          sv += v;
          hits += 1;
          if (u >= 0 && u <= wrap.widthMm && v >= 0 && v <= wrap.heightMm) covered += 1;
        }
      }
      const n = grid * grid;
      for (let c = 0; c < 3; c += 1) passes.rest[i * 3 + c] = (rest / n) * [0.985, 0.975, 0.95][c]!;
      passes.shade[i] = fabric ? shade / fabric : 0;
      passes.specular[i] = specular / n;
      passes.fabric[i] = fabric / n;
      if (hits > 0) {
        area.coverage[i] = covered / n;
        area.u[i] = su / hits;
        area.v[i] = sv / hits;
      }
    }
  }
  return passes;
}

function march(eye: V, d: V, mug: MugSize, turn: number): V | null {
  let t = 420;
  for (let i = 0; i < 90 && t < 900; i += 1) {
    const p = add(eye, d, t);
    const gap = distance(p, mug, turn);
    if (gap < 0.01) return p;
    t += gap;
  }
  return null;
}

function normalAt(p: V, mug: MugSize, turn: number): V {
  const e = 0.05;
  const g = (axis: V) => distance(add(p, axis, e), mug, turn) - distance(add(p, axis, -e), mug, turn);
  return unit([g([1, 0, 0]), g([0, 1, 0]), g([0, 0, 1])]);
}

/** Table and wall behind: even, with the mug's soft contact shadow. */
function table(eye: V, d: V, mug: MugSize, turn: number): number {
  const back = 0.88;
  if (d[1] >= -1e-4) return back;
  const p = add(eye, d, -eye[1] / d[1]);
  if (p[2] < -700) return back;
  const away = Math.hypot(p[0] - 7, p[2] + 4) - mug.radiusMm;
  const far = Math.hypot((p[0] - 46) * 0.62, p[2] + 22) - mug.radiusMm * 1.15;
  const handle =
    Math.hypot(p[0] - Math.sin(turn) * (mug.radiusMm + 16), p[2] - Math.cos(turn) * (mug.radiusMm + 16)) - 14;
  const contact =
    0.5 * Math.exp(-Math.max(0, away) / 9) + 0.2 * smoothstep(40, -25, far) + 0.08 * smoothstep(26, 0, handle);
  return back * (1 - Math.min(0.72, contact)) * (1 - 0.04 * smoothstep(-100, 400, p[2]));
}
