import { add, type Shape, type V } from '../studio/shapes';
import { softbox } from '../studio/room';
import type { Lamp, Material } from '../studio/scene';
import type { Body, Panel, Stitch } from '../studio/cloth';

/** What tee and hoodie have in common: their pattern, the body they fall onto, their light. */
export const JERSEY: Material = {
  role: 'fabric',
  albedo: [0.62, 0.62, 0.62],
  grain: { kind: 'jersey', depthMm: 0.1, sizeMm: 1.05 },
};
export const RIB: Material = { ...JERSEY, grain: { kind: 'rib', depthMm: 0.42, sizeMm: 2.1 } };

/** Measures of a shirt's pattern, mm; y down from where shoulder and neck meet. */
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
  /** How much narrower a sleeve is at its end, of 1. */
  readonly taper: number;
  /** The same before it falls. */
  readonly startTaper: number;
  /** How far an elastic hem draws the last rows in, of 1. */
  readonly gather: number;
  /** Half the width at the hem. */
  readonly hemHalf: number;
}
export const ADULT: Cut = {
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
  taper: 0.11,
  startTaper: 0,
  gather: 0,
  hemHalf: 264,
};
/** The same cut for a smaller body. */
export const scaled = (cut: Cut, by: number): Cut => ({
  ...(Object.fromEntries(Object.entries(cut).map(([key, value]) => [key, value * by])) as unknown as Cut),
  taper: cut.taper,
  startTaper: cut.startTaper,
  gather: cut.gather,
});

export const [COLUMNS, ARM_ROWS, LOW_ROWS, SLEEVE_ROWS] = [72, 30, 66, 28];
export const ROWS = ARM_ROWS + LOW_ROWS;

/** Half the width at a height: shoulder tip, drawn in at the armhole, out to the chest, straight to the hem. */
export function edgeAt(cut: Cut, y: number): number {
  const { shoulderHalf, shoulderDrop, armholeDeep, halfChest, hemHalf, length } = cut;
  if (y >= armholeDeep) return halfChest + ((hemHalf - halfChest) * (y - armholeDeep)) / (length - armholeDeep);
  const t = Math.max(0, (y - shoulderDrop) / (armholeDeep - shoulderDrop));
  const drawn = shoulderHalf - (halfChest - shoulderHalf) * 0.35 * Math.sin(Math.PI * Math.min(1, t * 1.15)) * (1 - t);
  return drawn + (halfChest - shoulderHalf) * t ** 3.2;
}

/** Front or back: a grid whose top row is neck and shoulders. */
export function bodyPanel(cut: Cut, back: boolean): Panel {
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
    const drawn = 1 - cut.gather * Math.max(0, (j - ROWS + 6) / 6);
    return [s * edgeAt(cut, y) * drawn, y];
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
export function sleevePanel(cut: Cut, hand: 1 | -1, startDeg: number, rows = SLEEVE_ROWS): Panel {
  const columns = 2 * ARM_ROWS;
  const { sleeveHalf, cap, underarm } = cut;
  const scale = cut.halfChest / ADULT.halfChest;
  const pattern = (i: number, j: number): readonly [number, number] => {
    const u = ((i / columns) * 2 - 1) * sleeveHalf;
    const high = cap * (0.5 + 0.5 * Math.cos((Math.PI * u) / sleeveHalf)) ** 0.92;
    const t = j / rows;
    const drawn = 1 - cut.gather * Math.max(0, (j - rows + 6) / 6);
    return [u * (1 - cut.taper * t) * drawn, -high * (1 - t) + underarm * t];
  };
  return {
    columns,
    rows,
    pattern,
    start(i, j) {
      const t = j / rows;
      const around = (i / columns) * 2 * Math.PI;
      const lean = (startDeg * Math.PI) / 180;
      const way: V = [hand * Math.cos(lean), -Math.sin(lean), 0];
      const up: V = [hand * Math.sin(lean), Math.cos(lean), 0];
      const far = 30 + (cut.cap + cut.underarm) * t * 0.95;
      const r = 66 * scale * (1 - cut.startTaper * t);
      const middle = add([hand * 200 * scale, -120 * scale, 0], way, far);
      // From the underside at the front over the top to the underside at the back.
      const p = add(add(middle, up, -r * Math.cos(around)), [0, 0, 1], r * Math.sin(around));
      return p;
    },
  };
}

/** Which points of front, back and the two sleeves are sewn together. */
export const stitchesOf = (cut: Cut, sleeveRows = SLEEVE_ROWS): Stitch[] => {
  const out: Stitch[] = [];
  const neck = (i: number) => Math.abs((i / COLUMNS) * 2 - 1) < cut.neckHalf / cut.shoulderHalf - 1e-6;
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
    for (let j = 0; j <= sleeveRows; j += 1)
      out.push([
        [p, 0, j],
        [p, 2 * ARM_ROWS, j],
      ]);
  }
  return out;
};

/** A body that is not seen: a torso and two arms, `reachMm` long and `wristMm` thick at their ends. */
export const bodyOf = (scale: number, armDeg: number, reachMm = 330, wristMm = 41): Body => {
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
      to: [k(hand * 172 + hand * reachMm), k(-78), k(8)] as V,
      radii: [k(51), k(wristMm)] as const,
      turnDeg: [hand * -18, hand * -armDeg] as const,
    })),
  };
};

/** Light for what is worn, and hangs before the backdrop. */
export const LIGHTS = (scale: number): { lamps: Lamp[]; sky: V; ground: V } => ({
  lamps: [
    softbox([-1150 * scale, 420 * scale, 1150 * scale], [0, -330 * scale, 0], 900 * scale, 1200 * scale, 4.1),
    softbox([1250 * scale, -100 * scale, 850 * scale], [0, -330 * scale, 0], 500 * scale, 1300 * scale, 1.15),
    softbox([0, 1000 * scale, -100 * scale], [0, -200 * scale, 0], 900 * scale, 500 * scale, 1.5),
  ],
  sky: [0.27, 0.27, 0.272],
  ground: [0.2, 0.2, 0.2],
});

/** With u to the other side. */
export const otherWay = (shape: Shape): Shape => ({ ...shape, uv: shape.uv.map((v, i) => (i % 2 === 0 ? -v : v)) });

/** Turned by half about the upright axis. */
export const around = (shape: Shape): Shape => ({
  ...shape,
  positions: shape.positions.map((v, i) => (i % 3 === 1 ? v : -v)),
  ...(shape.normals ? { normals: shape.normals.map((v, i) => (i % 3 === 1 ? v : -v)) } : {}),
});
