import { noise, smoothstep } from '../noise';
import type { Passes } from '../passes';
import { clothShape, fall, smoothly, type Fallen } from '../studio/cloth';
import { backdrop, fitFlat } from '../studio/room';
import type { AreaPlace, Camera, Material, Part } from '../studio/scene';
import { add, cross, lathe, moved, surface, sweep, unit, type Shape, type V } from '../studio/shapes';
import { trace, type Quality } from '../studio/trace';
import {
  ADULT,
  ARM_ROWS,
  around,
  bodyOf,
  bodyPanel,
  edgeAt,
  LIGHTS,
  LOW_ROWS,
  otherWay,
  ROWS,
  sleevePanel,
  stitchesOf,
  type Cut,
} from './shirt';

const FLEECE: Material = {
  role: 'fabric',
  albedo: [0.62, 0.62, 0.62],
  grain: { kind: 'jersey', depthMm: 0.13, sizeMm: 1.3 },
};
const RIB: Material = { ...FLEECE, grain: { kind: 'rib', depthMm: 0.75, sizeMm: 3.4 } };
const CORD: Material = { role: 'front', albedo: [0.74, 0.72, 0.67], grain: { kind: 'rib', depthMm: 0.5, sizeMm: 1.5 } };
const METAL: Material = { role: 'front', albedo: [0.62, 0.6, 0.56], f0: 0.6, roughness: 0.32, metal: true };
const EYELET: Material = { role: 'good', albedo: [0.62, 0.6, 0.56], f0: 0.6, roughness: 0.32, metal: true };

/** Size M: wider than a tee, heavier, with long sleeves that ribs draw in. */
const CUT: Cut = {
  ...ADULT,
  halfChest: 288,
  length: 640,
  neckHalf: 92,
  neckDeep: 92,
  shoulderHalf: 244,
  armholeDeep: 268,
  sleeveHalf: 208,
  cap: 106,
  underarm: 438,
  taper: 0.3,
  startTaper: 0.15,
  gather: 0.07,
  hemHalf: 244,
};
const SLEEVE = 72;
const [FRONT, BACK] = [1, 2];
const FOLDED_MM = 3.2;

let kept: Fallen[] | null = null;
const fallen = (): Fallen[] =>
  (kept ??= fall(
    [bodyPanel(CUT, false), bodyPanel(CUT, true), sleevePanel(CUT, 1, 18, SLEEVE), sleevePanel(CUT, -1, 18, SLEEVE)],
    stitchesOf(CUT, SLEEVE),
    bodyOf(1.03, 63, 545, 37),
    { seconds: 3, growFrom: 0.62, growSeconds: 0.8, sway: 1.2 },
    { stretch: 2e-8, shear: 5e-7, bend: 2.6e-6 },
  ));

/** Around the neck once: from the middle of the front over the wearer's left shoulder and the back. */
function neckline(front: Fallen, back: Fallen): (s: number) => V {
  const [f, b] = [smoothly(front), smoothly(back)];
  const reach = CUT.neckHalf / CUT.shoulderHalf;
  const edge = (t: number): V => {
    const k = (((t % 1) + 1) % 1) * 2;
    const s = k < 1 ? (1 - reach) / 2 + reach * k : (1 + reach) / 2 - reach * (k - 1);
    return k < 1 ? f(s, 0) : b(s, 0);
  };
  return (s) => {
    const all = [-2, -1, 0, 1, 2].map((d) => edge(0.25 + s + d * 0.006));
    return [0, 1, 2].map((c) => all.reduce((sum, p) => sum + p[c]!, 0) / all.length) as unknown as V;
  };
}

const mix = (p: V, q: V, t: number): V => add([p[0] * (1 - t), p[1] * (1 - t), p[2] * (1 - t)], q, t);

/**
 * A hood that stands as if a head were in it: ribs like those of a folding top, from the edge around the face (a = 0) to the neck's back (a = 1);
 * b runs along each from one side over the top to the other.
 */
function hoodAt(neck: (s: number) => V): (a: number, b: number) => V {
  return (a, b) => {
    const from = 0.012 + 0.33 * a ** 0.8;
    const [left, right] = [neck(from), neck(1 - from)];
    const middle = mix(left, right, 0.5);
    const half: V = [(left[0] - right[0]) / 2, (left[1] - right[1]) / 2, (left[2] - right[2]) / 2];
    const angle = Math.PI * b;
    const [sin, cos] = [Math.sin(angle), Math.cos(angle)];
    const lean = ((-6 + 108 * a ** 1.15) * Math.PI) / 180;
    // How far from the neck: over the forehead, over the crown, at the nape.
    const far = 318 * (1 - a) ** 1.4 + 236 * 2.2 * a * (1 - a) + 70 * a ** 2;
    const wide = 112 * (1 - 0.75 * a ** 2.2);
    const top = Math.abs(sin) ** 0.92;
    const fold =
      5 * noise(b * 7, a * 5, 71) * Math.sin(Math.PI * a) +
      8 * Math.exp(-(((a - 0.62) / 0.11) ** 2)) * Math.sin(angle * 5);
    const p: V = [
      middle[0] + half[0] * cos + wide * Math.sin(2 * angle) * (0.62 + 0.38 * (1 - a)),
      middle[1] + half[1] * cos + (far + fold) * top * Math.cos(lean),
      middle[2] + half[2] * cos - (far + fold) * top * Math.sin(lean) + 34 * top * (1 - a) ** 2,
    ];
    return mix(p, neck(from + (1 - 2 * from) * b), smoothstep(0.72, 1, a));
  };
}

function hood(neck: (s: number) => V): Part[] {
  const at = hoodAt(neck);
  const edge = sweep(
    (s) => at(0, 0.004 + 0.992 * s),
    [0, 0, 1],
    (_, angle) => [Math.cos(angle) * 11 - 4, Math.sin(angle) * 4.4],
    220,
    24,
  );
  return [
    {
      shape: surface(
        90,
        200,
        (s, t) => at(s, t),
        (s, t) => [s * 420, t * 620],
      ),
      material: FLEECE,
    },
    { shape: edge, material: FLEECE },
    // The seam over the crown.
    {
      shape: surface(
        120,
        4,
        (s, t) => add(at(0.03 + 0.9 * s, 0.5 + (t - 0.5) * 0.012), [0, 1, 0], 1.1 * Math.sin(Math.PI * t)),
        (s, t) => [s * 400, t * 6],
      ),
      material: FLEECE,
    },
  ];
}

/** A band of ribs below a loop of cloth's end: `down` mm long, drawn in to `narrow` of it about its middle. */
function band(loop: (s: number) => V, way: V, downMm: number, narrow: number, round: number): Shape {
  const n = 48;
  const middle = Array.from({ length: n }, (_, i) => loop(i / n)).reduce((sum, p) => add(sum, p, 1 / n), [
    0, 0, 0,
  ] as V);
  return surface(
    260,
    16,
    (s, t) => {
      const all = [-2, -1, 0, 1, 2].map((d) => loop(s + d * 0.008));
      const p = [0, 1, 2].map((c) => all.reduce((sum, q) => sum + q[c]!, 0) / 5) as unknown as V;
      const along = (p[0] - middle[0]) * way[0] + (p[1] - middle[1]) * way[1] + (p[2] - middle[2]) * way[2];
      const flat = add(p, way, -along);
      const out: V = [flat[0] - middle[0], flat[1] - middle[1], flat[2] - middle[2]];
      const drawn =
        1 - (1 - narrow) * smoothstep(0, 0.22, t) + 0.012 * Math.sin(Math.PI * t) - 0.02 * smoothstep(0.94, 1, t);
      const level = along * (1 - smoothstep(0, 0.5, t)) - 5 * (1 - t);
      return add(add(middle, out, drawn), way, level + downMm * t);
    },
    (s, t) => [s * round, t * downMm],
  );
}

/** The front's cloth as a place at x, y of its pattern, below the armholes too, lifted off it. */
function onFront(front: Fallen): (x: number, y: number, lift: number) => V {
  const f = smoothly(front);
  const at = (x: number, y: number): V => {
    const low = y >= CUT.armholeDeep;
    const row = low
      ? ARM_ROWS + ((y - CUT.armholeDeep) / (CUT.length - CUT.armholeDeep)) * LOW_ROWS
      : Math.max(0, (y - 40) / (CUT.armholeDeep - 40)) * ARM_ROWS;
    return f((x / edgeAt(CUT, Math.max(y, CUT.shoulderDrop)) + 1) / 2, row / ROWS);
  };
  return (x, y, lift) => {
    const [a, b, c, d] = [at(x + 3, y), at(x - 3, y), at(x, y + 3), at(x, y - 3)];
    const n = unit(cross(add(c, d, -1), add(a, b, -1)));
    return add(at(x, y), n[2] < 0 ? [-n[0], -n[1], -n[2]] : n, lift);
  };
}

/** A pouch over the belly: hands go in at its slanted sides. */
function pocket(on: ReturnType<typeof onFront>): Shape {
  const [top, bottom] = [432, 630];
  return surface(
    110,
    70,
    (s, t) => {
      const y = top + (bottom - top) * t;
      const half = 118 + 62 * smoothstep(0.02, 0.72, t);
      const x = (s * 2 - 1) * half;
      const side = Math.min(s, 1 - s) * 2 * half;
      const hem =
        1.6 * smoothstep(17, 15.4, Math.min(side, t * 198)) -
        0.8 * Math.exp(-(((Math.min(side, t * 198) - 17) / 1.5) ** 2));
      const belly = 9 * Math.sin(Math.PI * s) * smoothstep(0, 0.3, t) * smoothstep(1, 0.75, t);
      const open = 6 * smoothstep(30, 0, side) * smoothstep(0.04, 0.2, t) * smoothstep(0.8, 0.5, t);
      return on(x, y, 2.6 + FOLDED_MM * smoothstep(0, 5, Math.min(side, t * 198)) * 0.4 + hem + belly + open);
    },
    (s, t) => [(s * 2 - 1) * 170, top + t * 198],
  );
}

/** A drawstring out of an eyelet, hanging over the chest, with a metal end. */
function cord(on: ReturnType<typeof onFront>, hand: 1 | -1): Part[] {
  const [fromY, toY] = [104, hand > 0 ? 322 : 300];
  const path = (s: number): V => {
    const y = fromY + (toY - fromY) * s;
    const x = hand * (31 + 15 * s + 5 * Math.sin(s * 4.2 + hand));
    // It hangs straight: it touches where the chest is fullest only.
    return on(x, y, 4.5 + 5 * Math.sin(Math.PI * Math.min(1, s * 1.1)) + 6 * (1 - smoothstep(0, 0.12, s)));
  };
  const end = path(1);
  const tip = lathe(
    [
      [0, 0],
      [3, 0],
      [3.4, 1],
      [3.4, 20],
      [2.9, 22],
      [0, 22],
    ],
    3,
    30,
    40,
  );
  const hole = path(0);
  return [
    {
      shape: sweep(path, [0, 0, 1], (_, angle) => [Math.cos(angle) * 3.1, Math.sin(angle) * 3.1], 220, 20),
      material: CORD,
    },
    { shape: moved(tip, [end[0], end[1] - 21, end[2]]), material: METAL },
    {
      shape: sweep(
        (s) => add(hole, [6 * Math.cos(s * 2 * Math.PI), 6 * Math.sin(s * 2 * Math.PI), -5.5]),
        [0, 0, 1],
        (_, angle) => [Math.cos(angle) * 1.3, Math.sin(angle) * 1.6],
        40,
        12,
      ),
      material: EYELET,
    },
  ];
}

export interface HoodieSpec {
  readonly back: boolean;
  /** What is looked at, mm of the front; the whole of it when absent. */
  readonly near?: { readonly x: number; readonly y: number; readonly sideMm: number };
}

/** The shot of a hoodie on a body that is not seen: from the front its drawstrings hang before the print. */
export function hoodieShot(quality: Quality, { back, near }: HoodieSpec): Passes {
  const panels = fallen();
  const finer = quality.size > 800 ? 4 : 2;
  const shapes = panels.map((panel, i) => clothShape(panel, finer, i % 2 === 0 ? 1 : -1));
  const [front, rear] = [panels[0]!, panels[1]!];
  const neck = neckline(front, rear);
  const on = onFront(front);
  const [f, b] = [smoothly(front), smoothly(rear)];
  const waist = (s: number): V => {
    const k = (((s % 1) + 1) % 1) * 2;
    return k < 1 ? f(k, 1) : b(2 - k, 1);
  };
  const cuffs = [2, 3].map((i): Part => {
    const sleeve = smoothly(panels[i]!);
    const loop = (s: number) => sleeve(((s % 1) + 1) % 1, 1);
    const way = unit(add(sleeve(0.5, 1), sleeve(0.5, 0.86), -1));
    return { shape: band(loop, way, 66, 0.84, 260), material: RIB };
  });
  const parts: Part[] = [
    { shape: shapes[0]!, material: FLEECE, panel: FRONT },
    // The back's x runs from its own left to right: as it is seen from behind.
    { shape: back ? otherWay(shapes[1]!) : shapes[1]!, material: FLEECE, panel: BACK },
    { shape: shapes[2]!, material: FLEECE },
    { shape: shapes[3]!, material: FLEECE },
    { shape: band(waist, [0, -1, 0], 64, 0.975, 1000), material: RIB },
    ...cuffs,
    ...hood(neck),
    { shape: pocket(on), material: FLEECE },
    ...cord(on, 1),
    ...cord(on, -1),
  ];
  const area = (key: string, u: number, v: number, widthMm: number, heightMm: number, panel: number): AreaPlace => ({
    key,
    u,
    v,
    widthMm,
    heightMm,
    panels: [panel],
  });
  const areas = back
    ? [area('main.back', -152.5, 128, 305, 406, BACK)]
    : [area('main.front', -150, 124, 300, 300, FRONT), area('main.chest', 46, 128, 100, 100, FRONT)];
  const far = 2700;
  const viewMm = near ? near.sideMm : 1080;
  const middle: V = near ? [near.x, -near.y, 115] : [0, -226, 0];
  const camera: Camera = near
    ? {
        eye: [middle[0] + 230, middle[1] - 30, far * 0.5],
        target: middle,
        zoom: (2 * (far * 0.5 - middle[2])) / viewMm,
      }
    : { eye: [0, middle[1] + 190, far], target: middle, zoom: (2 * far) / viewMm };
  const scene = {
    camera,
    parts: [backdrop(-430), ...(back ? parts.map((part) => ({ ...part, shape: around(part.shape) })) : parts)],
    ...LIGHTS(1),
    areas,
  };
  const [main] = areas;
  const passes = trace(scene, quality, Object.fromEntries(areas.map(({ key }) => [key, { variant: { size: 'm' } }])), {
    lightFrom: [main!.key],
    heather: true,
    dark: !near,
  });
  if (!near) for (const { key } of areas) passes.areas[key]!.flat = fitFlat(passes.areas[key]!, quality.size);
  return passes;
}
