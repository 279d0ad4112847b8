import { noise } from '../noise';
import type { Passes } from '../passes';
import { paperSweep, tableLights } from '../studio/room';
import type { Camera, Material, Part } from '../studio/scene';
import { joined, moved, surface, tilted, turned, type Shape, type V } from '../studio/shapes';
import { trace, type Quality } from '../studio/trace';
import { CUP } from '../vessels';
import { vesselParts, WALL } from './vessel';

const LINEN: Material = {
  role: 'good',
  albedo: [0.8, 0.79, 0.75],
  grain: { kind: 'canvas', depthMm: 0.08, sizeMm: 1.1 },
};
const VINYL: Material = { role: 'good', albedo: [0.86, 0.86, 0.86], f0: 0.035, roughness: 0.36 };
const [TOWEL, SHEET] = [2, 3];

/** A towel folded in four: its layers, and on top a quarter of its face. */
function towel(): { face: Shape; layers: Shape } {
  const [w, d, layer, count] = [250, 175, 5.2, 4];
  const rounded = (x: number, z: number) => {
    const edge = (v: number, half: number) => Math.max(0, Math.abs(v) - half + 7) / 7;
    return 5.5 * Math.min(1, Math.hypot(edge(x, w / 2), edge(z, d / 2)) ** 2);
  };
  const top = count * layer;
  const face = surface(
    100,
    80,
    (s, t) => {
      const [x, z] = [(s - 0.5) * w, (t - 0.5) * d];
      return [x, top - rounded(x, z) + 0.9 * noise(x / 34, z / 40, 5) + 0.5 * noise(x / 13, z / 15, 6), z];
    },
    (s, t) => [s * w, t * d],
  );
  // Each layer's edge is a roll that stands out as far as it likes.
  const layers = joined(
    Array.from({ length: count }, (_, k) =>
      surface(
        200,
        10,
        (s, t) => {
          const around = s * 4;
          const side = Math.floor(around) % 4;
          const along = (around - Math.floor(around)) * 2 - 1;
          const [hx, hz] = [w / 2 - 1 + 1.1 * noise(k * 3, 1, 7), d / 2 - 1 + 1.1 * noise(k * 3, 2, 8)];
          const [x, z] = (
            [
              [along * hx, hz],
              [hx, -along * hz],
              [-along * hx, -hz],
              [-hx, along * hz],
            ] as const
          )[side]!;
          const angle = (t - 0.5) * Math.PI;
          const out = (layer / 2) * Math.cos(angle);
          const n = (
            [
              [0, 1],
              [1, 0],
              [0, -1],
              [-1, 0],
            ] as const
          )[side]!;
          return [x + n[0] * out, k * layer + layer / 2 + (layer / 2) * Math.sin(angle) * 1.04, z + n[1] * out];
        },
        (s, t) => [s * 850, t * 8],
      ),
    ),
  );
  return { face, layers };
}

/** The gift set on a table: towel, the cup beside it, the sheet of stickers leaning before them. */
export function setShot(quality: Quality): Passes {
  const { face, layers } = towel();
  const lay = (shape: Shape): Shape => moved(turned(shape, -9), [20, 0, -78]);
  const sheet = moved(
    turned(
      tilted(
        surface(
          20,
          28,
          (s, t) => [(s - 0.5) * 105, 148 * (1 - t), 1.6 * Math.sin(Math.PI * s) + 2.4 * t * (1 - t)],
          (s, t) => [s * 105, t * 148],
        ),
        21,
      ),
      -8,
    ),
    [92, 0.6, 92],
  );
  const parts: Part[] = [
    paperSweep(),
    ...vesselParts(CUP, -8, [-66, 0, 70] as V),
    { shape: lay(face), material: LINEN, panel: TOWEL },
    { shape: lay(layers), material: LINEN },
    { shape: sheet, material: VINYL, panel: SHEET },
  ];
  const camera: Camera = { eye: [-10, 560, 760], target: [10, 26, -6], zoom: 5.3 };
  const scene = {
    camera,
    parts,
    ...tableLights(110),
    areas: [
      {
        key: 'cup.wrap',
        u: -CUP.wrap.widthMm / 2,
        v: 0,
        widthMm: CUP.wrap.widthMm,
        heightMm: CUP.wrap.heightMm,
        panels: [WALL],
      },
      { key: 'towel.face', u: 0, v: 0, widthMm: 460, heightMm: 660, panels: [TOWEL] },
      { key: 'stickers.sheet', u: 0, v: 0, widthMm: 105, heightMm: 148, panels: [SHEET] },
    ],
  };
  const variant = {};
  return trace(scene, quality, { 'cup.wrap': { variant }, 'towel.face': { variant }, 'stickers.sheet': { variant } });
}
