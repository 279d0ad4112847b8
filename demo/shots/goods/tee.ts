import { smoothstep } from '../noise';
import type { Passes } from '../passes';
import { clothShape, fall, smoothly, type Body, type Fallen, type Panel, type Stitch } from '../studio/cloth';
import { backdrop, fitFlat, softbox } from '../studio/room';
import type { AreaPlace, Camera, Lamp, Material, Part } from '../studio/scene';
import { add, surface, unit, type Shape, type V } from '../studio/shapes';
import { trace, type Quality } from '../studio/trace';

export const JERSEY: Material = {
  role: 'fabric',
  albedo: [0.62, 0.62, 0.62],
  grain: { kind: 'jersey', depthMm: 0.1, sizeMm: 1.05 },
};
const RIB: Material = { ...JERSEY, grain: { kind: 'rib', depthMm: 0.42, sizeMm: 2.1 } };

/** Measures of a tee's pattern, mm; y down from where shoulder and neck meet. */
export interface Cut {
  readonly halfChest: number;
  readonly length: number;
  readonly neckHalf: number;
  readonly neckDeep: number;
  readonly backNeckDeep: number;
  readonly shoulderHalf: number;
  readonly shoulderDrop: number;
  readonly armholeDeep: number;
  readonly sleeveHalf: number;
  readonly cap: number;
  readonly underarm: number;
}
const ADULT: Cut = {
  halfChest: 264,
  length: 715,
  neckHalf: 88,
  neckDeep: 104,
  backNeckDeep: 24,
  shoulderHalf: 226,
  shoulderDrop: 44,
  armholeDeep: 248,
  sleeveHalf: 197,
  cap: 112,
  underarm: 112,
};
const scaled = (cut: Cut, by: number): Cut =>
  Object.fromEntries(Object.entries(cut).map(([key, value]) => [key, value * by])) as unknown as Cut;

const [COLUMNS, ARM_ROWS, LOW_ROWS, SLEEVE_ROWS] = [72, 30, 66, 28];
const ROWS = ARM_ROWS + LOW_ROWS;

/** Half the width at a height: shoulder tip, drawn in at the armhole, out to the chest, straight to the hem. */
function edgeAt(cut: Cut, y: number): number {
  const { shoulderHalf, shoulderDrop, armholeDeep, halfChest } = cut;
  if (y >= armholeDeep) return halfChest;
  const t = Math.max(0, (y - shoulderDrop) / (armholeDeep - shoulderDrop));
  const drawn = shoulderHalf - (halfChest - shoulderHalf) * 0.35 * Math.sin(Math.PI * Math.min(1, t * 1.15)) * (1 - t);
  return drawn + (halfChest - shoulderHalf) * t ** 3.2;
}

/** Front or back: a grid whose top row is neck and shoulders. */
function bodyPanel(cut: Cut, back: boolean): Panel {
  const { neckHalf, shoulderHalf, shoulderDrop, armholeDeep, length } = cut;
  const deep = back ? cut.backNeckDeep : cut.neckDeep;
  const top = (x: number): number => {
    const a = Math.abs(x);
    if (a <= neckHalf) return deep * (1 - (a / neckHalf) ** 2.4) ** 0.7;
    return ((a - neckHalf) / (shoulderHalf - neckHalf)) * shoulderDrop;
  };
  const pattern = (i: number, j: number): readonly [number, number] => {
    const s = (i / COLUMNS) * 2 - 1;
    if (j <= ARM_ROWS) {
      const t = j / ARM_ROWS;
      const side = shoulderDrop + (armholeDeep - shoulderDrop) * t;
      const x = s * edgeAt(cut, side);
      return [x, top(s * shoulderHalf) + (armholeDeep - top(s * shoulderHalf)) * t];
    }
    const y = armholeDeep + ((length - armholeDeep) * (j - ARM_ROWS)) / LOW_ROWS;
    return [s * edgeAt(cut, y), y];
  };
  const scale = cut.halfChest / ADULT.halfChest;
  return {
    columns: COLUMNS,
    rows: ROWS,
    pattern,
    start(i, j) {
      const [x, y] = pattern(i, j);
      const s = (i / COLUMNS) * 2 - 1;
      const z = 150 * scale * Math.sqrt(Math.max(0, 1 - s * s)) * (1 - Math.exp(-j / 7));
      return [x * 0.9, -y, back ? -z : z];
    },
  };
}

/** A sleeve: its top row is sewn into the armhole, from the side seam up the front, over the shoulder and down the back. */
function sleevePanel(cut: Cut, hand: 1 | -1, startDeg: number): Panel {
  const columns = 2 * ARM_ROWS;
  const { sleeveHalf, cap, underarm } = cut;
  const scale = cut.halfChest / ADULT.halfChest;
  const pattern = (i: number, j: number): readonly [number, number] => {
    const u = ((i / columns) * 2 - 1) * sleeveHalf;
    const high = cap * (0.5 + 0.5 * Math.cos((Math.PI * u) / sleeveHalf)) ** 0.92;
    const t = j / SLEEVE_ROWS;
    return [u * (1 - 0.11 * t), -high * (1 - t) + underarm * t];
  };
  return {
    columns,
    rows: SLEEVE_ROWS,
    pattern,
    start(i, j) {
      const t = j / SLEEVE_ROWS;
      const around = (i / columns) * 2 * Math.PI;
      const lean = (startDeg * Math.PI) / 180;
      const way: V = [hand * Math.cos(lean), -Math.sin(lean), 0];
      const up: V = [hand * Math.sin(lean), Math.cos(lean), 0];
      const far = 30 + (cut.cap + cut.underarm) * t * 0.95;
      const r = 66 * scale;
      const middle = add([hand * 200 * scale, -120 * scale, 0], way, far);
      // From the underside at the front over the top to the underside at the back.
      const p = add(add(middle, up, -r * Math.cos(around)), [0, 0, 1], r * Math.sin(around));
      return p;
    },
  };
}

const stitchesOf = (): Stitch[] => {
  const out: Stitch[] = [];
  const neck = (i: number) => Math.abs((i / COLUMNS) * 2 - 1) < ADULT.neckHalf / ADULT.shoulderHalf - 1e-6;
  for (let i = 0; i <= COLUMNS; i += 1)
    if (!neck(i))
      out.push([
        [0, i, 0],
        [1, i, 0],
      ]);
  for (let j = ARM_ROWS; j <= ROWS; j += 1)
    for (const i of [0, COLUMNS])
      out.push([
        [0, i, j],
        [1, i, j],
      ]);
  for (const [p, side] of [
    [2, COLUMNS],
    [3, 0],
  ] as const) {
    for (let k = 0; k <= 2 * ARM_ROWS; k += 1) {
      const body = k <= ARM_ROWS ? 0 : 1;
      const row = k <= ARM_ROWS ? ARM_ROWS - k : k - ARM_ROWS;
      out.push([
        [p, k, 0],
        [body, side, row],
      ]);
    }
    for (let j = 0; j <= SLEEVE_ROWS; j += 1)
      out.push([
        [p, 0, j],
        [p, 2 * ARM_ROWS, j],
      ]);
  }
  return out;
};

const bodyOf = (scale: number, armDeg: number): Body => {
  const k = (v: number) => v * scale;
  return {
    slices: (
      [
        [70, 56, 54, -4],
        [4, 66, 58, -6],
        [-14, 112, 62, -8],
        [-46, 172, 74, -10],
        [-110, 182, 102, -4],
        [-230, 177, 124, 6],
        [-330, 160, 112, 4],
        [-430, 147, 98, 0],
        [-540, 156, 104, -2],
        [-640, 172, 116, -4],
        [-800, 165, 110, -4],
      ] as const
    ).map((slice) => slice.map(k) as unknown as readonly [number, number, number, number]),
    limbs: ([1, -1] as const).map((hand) => ({
      from: [k(hand * 172), k(-78), k(-8)] as V,
      to: [k(hand * 172 + hand * 330), k(-78), k(8)] as V,
      radii: [k(51), k(41)] as const,
      turnDeg: [hand * -18, hand * -armDeg] as const,
    })),
  };
};

/** A tee on a body that is not seen: its panels after they fell. */
function fallenTee(cut: Cut, scale: number): Fallen[] {
  const panels = [bodyPanel(cut, false), bodyPanel(cut, true), sleevePanel(cut, 1, 18), sleevePanel(cut, -1, 18)];
  return fall(
    panels,
    stitchesOf(),
    bodyOf(scale, 58),
    { seconds: 3, growFrom: 0.62, growSeconds: 0.8, sway: 1.3 },
    { stretch: 2e-8, shear: 5e-7, bend: 8e-6 },
  );
}

/** A band around the neck: along the edges of front and back, up and a little inward. */
function collar(front: Fallen, back: Fallen, cut: Cut, scale: number): Part {
  const [f, b] = [smoothly(front), smoothly(back)];
  const reach = cut.neckHalf / cut.shoulderHalf;
  const edge = (t: number): V => {
    // Once around: the front from the wearer's right to left, and back along the back.
    const k = (((t % 1) + 1) % 1) * 2;
    const s = k < 1 ? (1 - reach) / 2 + reach * k : (1 + reach) / 2 - reach * (k - 1);
    return k < 1 ? f(s, 0) : b(s, 0);
  };
  const smooth = (t: number): V => {
    const all = [-2, -1, 0, 1, 2].map((d) => edge(t + d * 0.006));
    return [0, 1, 2].map((c) => all.reduce((sum, p) => sum + p[c]!, 0) / all.length) as unknown as V;
  };
  const middle: V = [0, 30 * scale, -6 * scale];
  const wide = 19 * scale;
  const shape = surface(
    260,
    10,
    (s, t) => {
      const p = smooth(s);
      // Toward the neck's own upper opening, standing up the nearer to it.
      const toward = unit([middle[0] - p[0], (middle[1] - p[1]) * 0.9, middle[2] - p[2]]);
      const way = wide * (t * 1.12 - 0.12);
      const out = unit([p[0], 0, p[2] + 6 * scale]);
      return add(add(p, toward, way), out, 1.7 * scale * Math.sin(Math.PI * Math.min(1, t * 1.15)) + 0.5);
    },
    (s, t) => [s * 460 * scale, t * wide],
  );
  return { shape, material: RIB };
}

export const LIGHTS = (scale: number): { lamps: Lamp[]; sky: V; ground: V } => ({
  lamps: [
    softbox([-1150 * scale, 420 * scale, 1150 * scale], [0, -330 * scale, 0], 900 * scale, 1200 * scale, 4.1),
    softbox([1250 * scale, -100 * scale, 850 * scale], [0, -330 * scale, 0], 500 * scale, 1300 * scale, 1.15),
    softbox([0, 1000 * scale, -100 * scale], [0, -200 * scale, 0], 900 * scale, 500 * scale, 1.5),
  ],
  sky: [0.27, 0.27, 0.272],
  ground: [0.2, 0.2, 0.2],
});

export interface TeeSpec {
  readonly back: boolean;
  /** 1 for an adult's size M; a child's is smaller. */
  readonly scale: number;
  readonly print: {
    readonly topMm: number;
    readonly widthMm: number;
    readonly heightMm: number;
    readonly variant: Record<string, string>;
  };
  /** On the wearer's left sleeve, seen from the front. */
  readonly sleeve?: { readonly widthMm: number; readonly heightMm: number };
  /** Inside of the neck, seen from the front. */
  readonly label?: { readonly widthMm: number; readonly heightMm: number };
  /** What is looked at, mm of the shirt; the whole of it when absent. */
  readonly near?: { readonly x: number; readonly y: number; readonly sideMm: number };
}

const [FRONT, BACK, LEFT_SLEEVE] = [1, 2, 3];
const kept = new Map<number, Fallen[]>();

/** The shot of a tee on a body that is not seen. */
export function teeShot(quality: Quality, { back, scale, print, sleeve, label, near }: TeeSpec): Passes {
  const cut = scaled(ADULT, scale);
  const panels = kept.get(scale) ?? fallenTee(cut, scale);
  kept.set(scale, panels);
  // Previews need not be so smooth.
  const finer = quality.size > 800 ? 4 : 2;
  // Hems are cloth on cloth: they stand up a little at the line where they are sewn.
  const hem = (from: number) => (_: number, v: number) =>
    0.75 * smoothstep(from - 0.6, from + 0.6, v) - 0.45 * Math.exp(-(((v - from) / 1.3) ** 2));
  const bodyHem = hem(cut.length - 22 * scale);
  const cuff = hem(cut.underarm - 20 * scale);
  const shapes: Shape[] = [
    clothShape(panels[0]!, finer, 1, bodyHem),
    clothShape(panels[1]!, finer, -1, bodyHem),
    clothShape(panels[2]!, finer, 1, cuff),
    clothShape(panels[3]!, finer, -1, cuff),
  ];
  const parts: Part[] = [
    { shape: shapes[0]!, material: JERSEY, panel: FRONT },
    // The back's x runs from its own left to right: as it is seen from behind.
    { shape: back ? otherWay(shapes[1]!) : shapes[1]!, material: JERSEY, panel: BACK },
    { shape: shapes[2]!, material: JERSEY, panel: LEFT_SLEEVE },
    { shape: shapes[3]!, material: JERSEY },
    collar(panels[0]!, panels[1]!, cut, scale),
  ];
  // From the back all is turned round.
  const turnedParts = back ? parts.map((part) => ({ ...part, shape: around(part.shape) })) : parts;
  const key = back ? 'main.back' : 'main.front';
  const areas: AreaPlace[] = [
    {
      key,
      u: -print.widthMm / 2,
      v: print.topMm,
      widthMm: print.widthMm,
      heightMm: print.heightMm,
      panels: [back ? BACK : FRONT],
    },
  ];
  if (sleeve && !back)
    areas.push({
      key: 'main.sleeve',
      u: -sleeve.widthMm / 2,
      v: cut.underarm - 34 * scale - sleeve.heightMm,
      widthMm: sleeve.widthMm,
      heightMm: sleeve.heightMm,
      panels: [LEFT_SLEEVE],
    });
  if (label && !back)
    areas.push({
      key: 'main.label',
      u: -label.widthMm / 2,
      v: cut.backNeckDeep + 12 * scale,
      widthMm: label.widthMm,
      heightMm: label.heightMm,
      panels: [BACK],
    });
  const viewMm = near ? near.sideMm : 830 * scale;
  const far = 2500 * scale;
  const middle: V = near ? [near.x, -near.y, 110 * scale] : [0, -335 * scale, 0];
  const camera: Camera = near
    ? {
        eye: [middle[0] - 260 * scale, middle[1] - 40 * scale, far * 0.5],
        target: middle,
        zoom: (2 * (far * 0.5 - middle[2])) / viewMm,
      }
    : { eye: [0, middle[1] + 210 * scale, far], target: middle, zoom: (2 * far) / viewMm };
  const scene = {
    camera,
    parts: [backdrop(-430 * scale), ...turnedParts],
    ...LIGHTS(scale),
    areas,
  };
  const variant = print.variant;
  const passes = trace(scene, quality, Object.fromEntries(areas.map((area) => [area.key, { variant }])), {
    lightFrom: [key],
    heather: true,
    // From near by there are no folds that throw light on each other.
    dark: !near,
  });
  if (!near) passes.areas[key]!.flat = fitFlat(passes.areas[key]!, quality.size);
  return passes;
}

/** With u to the other side. */
const otherWay = (shape: Shape): Shape => ({ ...shape, uv: shape.uv.map((v, i) => (i % 2 === 0 ? -v : v)) });

/** Turned by half about the upright axis. */
const around = (shape: Shape): Shape => ({
  ...shape,
  positions: shape.positions.map((v, i) => (i % 3 === 1 ? v : -v)),
  ...(shape.normals ? { normals: shape.normals.map((v, i) => (i % 3 === 1 ? v : -v)) } : {}),
});
