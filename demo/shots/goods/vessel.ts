import { smoothstep } from '../noise';
import { addArea, newPasses, type Passes } from '../passes';

/** A vessel in mm, y up from the table, its axis in z and x = 0. */
export interface Vessel {
  readonly kind: 'mug' | 'cup' | 'bottle';
  readonly radiusMm: number;
  readonly heightMm: number;
  /** The wrap that is printed. */
  readonly wrap: { readonly widthMm: number; readonly heightMm: number; readonly fromTopMm: number };
}

type V = [number, number, number];
const add = (a: V, b: V, t = 1): V => [a[0] + b[0] * t, a[1] + b[1] * t, a[2] + b[2] * t];
const dot = (a: V, b: V) => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
const unit = (a: V): V => {
  const l = Math.hypot(...a);
  return [a[0] / l, a[1] / l, a[2] / l];
};

/** Height of a bottle's shoulder, below which it is straight. */
const SHOULDER_MM = 0.76;

/** Distance to the surface; `turn` is where the handle points, radians from the viewer clockwise from above. */
function distance(p: V, vessel: Vessel, turn: number): number {
  const r = Math.hypot(p[0], p[2]);
  const { radiusMm: radius, heightMm: height } = vessel;
  if (vessel.kind === 'bottle') {
    const shoulder = height * SHOULDER_MM;
    const body = box2(r - radius, Math.max(-p[1], p[1] - shoulder), 7);
    const neck = box2(r - radius * 0.58, Math.max(shoulder - 20 - p[1], p[1] - height * 0.86), 3);
    const cap = box2(r - radius * 0.66, Math.max(height * 0.85 - p[1], p[1] - height), 3.5);
    return Math.min(smoothMin(body, neck, 16), cap);
  }
  const wall = vessel.kind === 'cup' ? 2 : 4;
  const outer = box2(r - radius, Math.max(-p[1], p[1] - height), vessel.kind === 'cup' ? 1 : 2);
  const inner = box2(r - (radius - wall), Math.max(6 - p[1], p[1] - height - 20), 3);
  const shell = smoothMax(outer, -inner, vessel.kind === 'cup' ? 0.8 : 1.4);
  const rim = vessel.kind === 'cup' ? Math.hypot(r - radius, p[1] - height) - 1.9 : Infinity;
  const x = p[0] * Math.sin(turn) + p[2] * Math.cos(turn);
  const side = p[0] * Math.cos(turn) - p[2] * Math.sin(turn);
  const half = height * 0.3;
  const [hx, hy] = [(x - radius + 2) / 0.86, p[1] - height * 0.5];
  const thick = vessel.kind === 'cup' ? 3.6 : 5.2;
  const ring = Math.hypot(Math.hypot(hx, hy) - half, side * 0.72) - thick;
  // It ends within the wall, so that nothing of it is seen inside.
  const handle = Math.max(ring * 0.86, radius - 1.2 - r);
  return Math.min(smoothMin(shell, handle, 4), rim);
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

/** Linear light of what keeps its own color: enamel, steel. */
const ENAMEL = [0.86, 0.86, 0.84] as const;
const STEEL = [0.5, 0.51, 0.52] as const;

/** What of a vessel a point on it belongs to. */
function partOf(hit: V, vessel: Vessel): 'fabric' | 'enamel' | 'steel' {
  if (vessel.kind === 'bottle') return hit[1] > vessel.heightMm * 0.845 ? 'steel' : 'fabric';
  if (vessel.kind === 'mug') return 'fabric';
  const r = Math.hypot(hit[0], hit[2]);
  return Math.abs(hit[1] - vessel.heightMm) < 3 && Math.hypot(r - vessel.radiusMm, hit[1] - vessel.heightMm) < 2.2
    ? 'fabric'
    : 'enamel';
}

/** What one ray meets. */
interface Seen {
  readonly part: 'fabric' | 'enamel' | 'steel' | null;
  readonly rest: number;
  readonly shade: number;
  readonly specular: number;
  readonly u: number;
  readonly v: number;
  /** On the outer wall, about the wrap. */
  readonly onWrap: boolean;
}

export interface Camera {
  readonly eye: readonly [number, number, number];
  readonly target: readonly [number, number, number];
  readonly zoom: number;
}

/** The camera that a vessel is seen by: far, a little from above. */
export const cameraOf = ({ heightMm }: Vessel): Camera => ({
  eye: [0, heightMm * 0.5 + 150, 620],
  target: [0, heightMm * 0.5 - 2, 0],
  zoom: heightMm > 150 ? 7.4 * (95 / (heightMm * 0.72)) : 7.4 * (95 / Math.max(95, heightMm * 0.98)),
});

/** The shot of a vessel with `facing` degrees of the wrap's middle turned to the viewer's right edge; a handle is opposite the middle. */
export function vesselShot(
  size: number,
  vessel: Vessel,
  facingDeg: number,
  key: string,
  variant: Record<string, string>,
): Passes {
  const n = size * size;
  const passes = newPasses(size, { specular: true, good: true });
  const area = addArea(passes, key, variant);
  const facing = (facingDeg * Math.PI) / 180;
  const turn = Math.PI - facing;
  const camera = cameraOf(vessel);
  const [eye, target]: [V, V] = [[...camera.eye], [...camera.target]];
  const forward = unit(add(target, eye, -1));
  const right = unit([-forward[2], 0, forward[0]]);
  const up: V = [
    right[1] * forward[2] - right[2] * forward[1],
    right[2] * forward[0] - right[0] * forward[2],
    right[0] * forward[1] - right[1] * forward[0],
  ];
  const key3 = unit([-0.62, 0.55, 0.56]);
  const { wrap } = vessel;
  const look = (x: number, y: number): Seen => {
    const sx = ((x / size) * 2 - 1) / camera.zoom;
    const sy = (1 - (y / size) * 2) / camera.zoom;
    const d = unit(add(add(forward, right, sx), up, sy));
    const hit = march(eye, d, vessel, turn);
    if (!hit)
      return { part: null, rest: table(eye, d, vessel, turn), shade: 0, specular: 0, u: 0, v: 0, onWrap: false };
    const normal = normalAt(hit, vessel, turn);
    const lambert = Math.max(0, dot(normal, key3));
    const r = Math.hypot(hit[0], hit[2]);
    const inside =
      vessel.kind !== 'bottle' && r < vessel.radiusMm - 1.6 && hit[1] > 8 && dot(normal, [hit[0], 0, hit[2]]) < 0;
    const near = smoothstep(0, 14, distance(add(hit, normal, 14), vessel, turn));
    const shade =
      (0.34 +
        0.2 * Math.max(0, normal[1]) +
        0.12 * Math.max(0, -normal[1]) * smoothstep(40, 0, hit[1]) +
        0.66 * lambert) *
      (0.55 + 0.45 * near) *
      (inside ? 0.5 + 0.4 * (hit[1] / vessel.heightMm) : 1);
    const cos = Math.max(0, -dot(normal, d));
    const part = partOf(hit, vessel);
    const f0 = part === 'steel' ? 0.4 : vessel.kind === 'bottle' ? 0.03 : 0.045;
    const fresnel = f0 + (1 - f0) * (1 - cos) ** 5;
    const specular = Math.min(0.55, fresnel * room(unit(add(d, normal, 2 * cos)))) * (inside ? 0.35 : 1);
    // On the outer wall: the angle from the wrap's middle and the height give the place on the wrap.
    const angle = Math.atan2(hit[0], hit[2]) + facing;
    const wrapped = Math.atan2(Math.sin(angle), Math.cos(angle));
    const u = wrap.widthMm / 2 + vessel.radiusMm * wrapped;
    const v = vessel.heightMm - wrap.fromTopMm - hit[1];
    const onWrap =
      Math.abs(r - vessel.radiusMm) < 0.6 &&
      !inside &&
      u > -4 &&
      u < wrap.widthMm + 4 &&
      v > -4 &&
      v < wrap.heightMm + 4;
    return { part, rest: 0, shade, specular, u, v, onWrap };
  };
  // Once for each pixel's center, where the map is taken; several times only where neighbors see different things.
  const first: Seen[] = [];
  for (let y = 0; y < size; y += 1) for (let x = 0; x < size; x += 1) first.push(look(x + 0.5, y + 0.5));
  const differs = (one: Seen, other: Seen | undefined) =>
    other !== undefined &&
    (one.part !== other.part ||
      one.onWrap !== other.onWrap ||
      Math.abs(one.shade - other.shade) > 0.06 ||
      Math.abs(one.specular - other.specular) > 0.06 ||
      Math.abs(one.rest - other.rest) > 0.05);
  const grid = 4;
  for (let i = 0; i < n; i += 1) {
    const own = first[i]!;
    const edge = [i - 1, i + 1, i - size, i + size].some((j) => differs(own, first[j]));
    const samples = [own];
    if (edge) {
      samples.length = 0;
      for (let s = 0; s < grid * grid; s += 1)
        samples.push(
          look((i % size) + ((s % grid) + 0.5) / grid, Math.floor(i / size) + (Math.floor(s / grid) + 0.5) / grid),
        );
    }
    write(passes, area, i, own, samples, wrap);
  }
  return passes;
}

function write(
  passes: Passes,
  area: Passes['areas'][string],
  i: number,
  center: Seen,
  samples: readonly Seen[],
  wrap: Vessel['wrap'],
): void {
  let [shade, lit, fabric, good, specular, covered, su, sv, hits] = [0, 0, 0, 0, 0, 0, 0, 0, 0];
  const rest = [0, 0, 0];
  for (const s of samples) {
    specular += s.specular;
    if (s.part === null) for (let c = 0; c < 3; c += 1) rest[c]! += s.rest * [0.985, 0.975, 0.95][c]!;
    else {
      good += 1;
      shade += s.shade;
      lit += 1;
      if (s.part === 'fabric') fabric += 1;
      else for (let c = 0; c < 3; c += 1) rest[c]! += s.shade * (s.part === 'steel' ? STEEL : ENAMEL)[c]!;
    }
    if (!s.onWrap) continue;
    su += s.u;
    sv += s.v;
    hits += 1;
    if (s.u >= 0 && s.u <= wrap.widthMm && s.v >= 0 && s.v <= wrap.heightMm) covered += 1;
  }
  const n = samples.length;
  for (let c = 0; c < 3; c += 1) passes.rest[i * 3 + c] = rest[c]! / n;
  passes.shade[i] = lit ? shade / lit : 0;
  passes.specular![i] = specular / n;
  passes.fabric![i] = fabric / n;
  passes.good![i] = good / n;
  if (hits === 0) return;
  area.coverage[i] = covered / n;
  area.u[i] = center.onWrap ? center.u : su / hits;
  area.v[i] = center.onWrap ? center.v : sv / hits;
}

function march(eye: V, d: V, vessel: Vessel, turn: number): V | null {
  let t = 420;
  for (let i = 0; i < 110 && t < 900; i += 1) {
    const p = add(eye, d, t);
    const gap = distance(p, vessel, turn);
    if (gap < 0.01) return p;
    t += gap;
  }
  return null;
}

function normalAt(p: V, vessel: Vessel, turn: number): V {
  const e = 0.05;
  const g = (axis: V) => distance(add(p, axis, e), vessel, turn) - distance(add(p, axis, -e), vessel, turn);
  return unit([g([1, 0, 0]), g([0, 1, 0]), g([0, 0, 1])]);
}

/** Table and wall behind: even, with the soft contact shadow of what stands on it. */
function table(eye: V, d: V, vessel: Vessel, turn: number): number {
  const back = 0.88;
  if (d[1] >= -1e-4) return back;
  const p = add(eye, d, -eye[1] / d[1]);
  if (p[2] < -700) return back;
  const away = Math.hypot(p[0] - 7, p[2] + 4) - vessel.radiusMm;
  const far = Math.hypot((p[0] - 46) * 0.62, p[2] + 22) - vessel.radiusMm * 1.15;
  const handle =
    vessel.kind === 'bottle'
      ? Infinity
      : Math.hypot(p[0] - Math.sin(turn) * (vessel.radiusMm + 16), p[2] - Math.cos(turn) * (vessel.radiusMm + 16)) - 14;
  const contact =
    0.5 * Math.exp(-Math.max(0, away) / 9) + 0.2 * smoothstep(40, -25, far) + 0.08 * smoothstep(26, 0, handle);
  return back * (1 - Math.min(0.72, contact)) * (1 - 0.04 * smoothstep(-100, 400, p[2]));
}
