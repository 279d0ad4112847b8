import { noise, smoothstep } from '../noise';
import type { Passes } from '../passes';
import { otherSide, paperSweep, tableLights } from '../studio/room';
import type { Camera, Material, Part } from '../studio/scene';
import { moved, surface, turned, type Shape, type V } from '../studio/shapes';
import { trace, type Quality } from '../studio/trace';

const TWILL: Material = {
  role: 'fabric',
  albedo: [0.6, 0.58, 0.53],
  grain: { kind: 'canvas', depthMm: 0.09, sizeMm: 0.95 },
};
/** The visor is sewn in rows. */
const VISOR: Material = {
  role: 'fabric',
  albedo: [0.6, 0.58, 0.53],
  grain: { kind: 'rib', depthMm: 0.55, sizeMm: 7.5 },
};
const CROWN = 1;
const [SIDE_MM, DEEP_MM, HIGH_MM] = [84, 97, 114];
const RIM_MM = 11;
const COLUMNS = 300;
const ROWS = 120;

/** The crown at an angle (0 in front, to the wearer's left) and a height from rim to top, 0 to 1. */
function crownAt(angle: number, t: number): V {
  const front = Math.max(0, Math.cos(angle));
  // The front stands up before it bends; the back falls away earlier.
  const r = (1 - t ** (2.5 + 1.5 * front)) ** 0.5;
  // Six panels: their seams are drawn in a little, and a row of stitches runs on both sides of each.
  const seam = Math.abs(((angle / (Math.PI / 3) + 100.5) % 1) - 0.5) * (Math.PI / 3) * 92 * r;
  const sewn = -1.3 * Math.exp(-((seam / 1.6) ** 2)) - 0.35 * Math.exp(-(((seam - 5.5) / 0.8) ** 2));
  const soft =
    1.1 * noise(Math.sin(angle) * 3.1, t * 4 + Math.cos(angle) * 2, 12) * smoothstep(0.1, 0.5, t) * (1 - 0.8 * front);
  const out = 1 + (sewn + soft) / 95;
  const rise = HIGH_MM * (t - 0.12 * (1 - front) * t * (1 - t));
  return [SIDE_MM * r * Math.sin(angle) * out, RIM_MM + rise, DEEP_MM * r * Math.cos(angle) * out];
}

/** The crown with u along each row from the middle of the front, v up the front from the rim; both as lengths on the cloth. */
function crown(): { shape: Shape; sideMm: number } {
  const angleOf = (s: number) => (s * 2 - 1) * Math.PI;
  const length = (a: V, b: V) => Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);
  const up: number[] = [0];
  for (let j = 1; j <= ROWS; j += 1) up.push(up[j - 1]! + length(crownAt(0, (j - 1) / ROWS), crownAt(0, j / ROWS)));
  const along = Array.from({ length: ROWS + 1 }, (_, j) => {
    const row = new Array<number>(COLUMNS + 1).fill(0);
    for (let i = COLUMNS / 2 + 1; i <= COLUMNS; i += 1) {
      const step = length(crownAt(angleOf((i - 1) / COLUMNS), j / ROWS), crownAt(angleOf(i / COLUMNS), j / ROWS));
      row[i] = row[i - 1]! + step;
      row[COLUMNS - i] = -row[i]!;
    }
    return row;
  });
  const shape = surface(
    COLUMNS,
    ROWS,
    // From the top down, so that the outside is the outer side.
    (s, t) => crownAt(angleOf(s), 1 - t),
    (s, t) => {
      const j = Math.round((1 - t) * ROWS);
      return [along[j]![Math.round(s * COLUMNS)]!, -up[j]!];
    },
  );
  return { shape, sideMm: along[Math.round(ROWS * 0.3)]![COLUMNS * 0.75]! };
}

function visor(under: boolean): Shape {
  const wide = 1.12;
  return surface(
    120,
    40,
    (s, t) => {
      const k = under ? 1 - s : s;
      const angle = (k * 2 - 1) * wide;
      const base = crownAt(angle, 0.005);
      const reach = 80 * Math.max(0, Math.cos(angle * 1.395)) ** 0.58 * t;
      // Its ends come up to the rim.
      const bow = 15 * Math.sin(angle) ** 2 * (1 - 0.85 * smoothstep(0.72, 1, Math.abs(k * 2 - 1)));
      const y =
        base[1] +
        2 -
        bow * (0.35 + 0.65 * t) -
        9 * t -
        5 * t * t -
        (under ? 3.2 * Math.sin(Math.PI * Math.min(1, 0.12 + t * 0.76)) : 0);
      return [base[0] + 0.3 * reach * Math.sin(angle), y, base[2] - 2 + reach * (0.94 + 0.06 * Math.cos(angle))];
    },
    (s, t) => [t * 80, s * 220],
  );
}

/** A cap on a table: from the front, or three-quarter from its left. */
export function capShot(quality: Quality, view: 'front' | 'side'): Passes {
  const { shape, sideMm } = crown();
  const button = surface(
    40,
    16,
    (s, t) => {
      const angle = s * 2 * Math.PI;
      const r = 8 * Math.sin((t * Math.PI) / 2);
      return [r * Math.sin(angle), RIM_MM + HIGH_MM - 1 + 4.5 * Math.cos((t * Math.PI) / 2), r * Math.cos(angle)];
    },
    (s, t) => [s * 30, t * 9],
  );
  const band = surface(
    COLUMNS,
    6,
    (s, t) => {
      const p = crownAt((s * 2 - 1) * Math.PI, 0);
      return [p[0] * 0.995, p[1] - t * 5, p[2] * 0.995];
    },
    (s, t) => [s * 590, t * 5],
  );
  const parts: Part[] = [
    { shape, material: TWILL, panel: CROWN },
    { shape: band, material: TWILL },
    { shape: button, material: TWILL },
    { shape: visor(false), material: VISOR },
    { shape: visor(true), material: VISOR },
  ];
  const turn = view === 'front' ? 0 : -52;
  const all = parts.map((part) => ({ ...part, shape: moved(turned(part.shape, turn), [0, 1, 0]) }));
  const camera: Camera = {
    eye: [0, view === 'front' ? 268 : 215, 880],
    target: [view === 'front' ? 0 : -27, view === 'front' ? 54 : 60, 0],
    zoom: view === 'front' ? 6.3 : 5.9,
  };
  const lights = tableLights(150);
  // Its left is toward the right then: the light comes from there.
  const lamps = view === 'front' ? lights.lamps : lights.lamps.map(otherSide);
  const scene = {
    camera,
    parts: [paperSweep(), ...all],
    ...lights,
    lamps,
    areas: [
      { key: 'main.front', u: -57.5, v: -78, widthMm: 115, heightMm: 55, panels: [CROWN] },
      { key: 'main.side', u: sideMm - 25, v: -60, widthMm: 50, heightMm: 40, panels: [CROWN] },
    ],
  };
  return trace(
    scene,
    quality,
    { 'main.front': { variant: {} }, 'main.side': { variant: {} } },
    { lightFrom: view === 'front' ? ['main.front'] : ['main.side'] },
  );
}
