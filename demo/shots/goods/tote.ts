import { noise, ridge, smoothstep } from '../noise';
import type { Passes } from '../passes';
import type { Material, Part } from '../studio/scene';
import { moved, surface, sweep, type Shape, type V } from '../studio/shapes';
import { trace, type Quality } from '../studio/trace';
import { flatOnWall, wallRoom } from '../studio/wall';

const CANVAS: Material = {
  role: 'fabric',
  albedo: [0.62, 0.58, 0.5],
  grain: { kind: 'canvas', depthMm: 0.13, sizeMm: 1.5 },
};
const STITCH: Material = {
  role: 'fabric',
  albedo: [0.6, 0.56, 0.5],
  grain: { kind: 'rib', depthMm: 0.4, sizeMm: 2.6 },
};
const PEG: Material = { role: 'front', albedo: [0.5, 0.335, 0.2], f0: 0.03, roughness: 0.42 };
const PANEL = 1;
const [WIDTH_MM, HEIGHT_MM] = [380, 420];
const HANGS_MM = 232;

/** How far the front stands before the middle of the bag, x from its middle, y down from its opening. */
function stands(x: number, y: number): number {
  const side = Math.min(1, Math.abs(x) / (WIDTH_MM / 2));
  const belly = 24 * (1 - side ** 2.4) * (0.3 + 0.7 * smoothstep(0, 260, y)) * (1 - 0.75 * smoothstep(350, 420, y));
  // Pulled up at the handles: folds run from there outward and down.
  const pulls = [-1, 1].reduce((sum, hand) => {
    const [dx, dy] = [x - hand * 79, y + 20];
    const angle = Math.atan2(dx, dy);
    const far = Math.hypot(dx, dy);
    const fade = smoothstep(40, 130, far) * smoothstep(420, 160, far);
    return (
      sum +
      fade *
        (5.6 * ridge(angle - hand * 0.42 + 0.1 * noise(far / 90, 0, 3), 0.11) +
          3.8 * ridge(angle + hand * 0.16, 0.09) -
          2.6 * ridge(angle - hand * 0.12, 0.08))
    );
  }, 0);
  const low =
    7.4 * smoothstep(190, 390, y) * ridge(x + 62 - 0.16 * y - 24 * noise(x / 110, y / 130, 21), 26) +
    6 * smoothstep(150, 380, y) * ridge(x - 88 + 0.12 * y, 30);
  const sag = 5 * Math.cos((x / WIDTH_MM) * Math.PI * 2) * smoothstep(70, 0, y);
  return (
    belly +
    pulls +
    low -
    sag +
    1.5 * noise(x / 70, y / 90, 22) +
    0.7 * noise(x / 26, y / 34, 23) +
    0.25 * noise(x / 11, y / 13, 25)
  );
}

/** Where the cloth is, s and t from 0 to 1: its sides draw in where it is full, its bottom is rounded. */
function bodyAt(s: number, t: number, facing: 1 | -1): V {
  const x0 = (s - 0.5) * WIDTH_MM;
  const y0 = t * HEIGHT_MM;
  const narrow = 1 - 0.018 * smoothstep(0, 250, y0) + 0.006 * smoothstep(300, 420, y0);
  const round = 7 * (Math.abs(x0) / (WIDTH_MM / 2)) ** 6 * smoothstep(380, 420, y0);
  return [
    x0 * narrow,
    -y0 + round - 2 * Math.cos((x0 / WIDTH_MM) * 2 * Math.PI) * smoothstep(60, 0, y0),
    facing * stands(facing * x0, y0),
  ];
}

const side = (facing: 1 | -1): Shape =>
  surface(
    190,
    210,
    (s, t) => bodyAt(facing > 0 ? s : 1 - s, t, facing),
    (s, t) => [s * WIDTH_MM, t * HEIGHT_MM],
  );

/** A handle: flat at the bag, turned on its edge where it hangs on the peg. */
function strap(facing: 1 | -1, peg: V): Shape {
  const half = (hand: 1 | -1) => {
    const start = bodyAt(0.5 + (hand * 79) / WIDTH_MM, 34 / HEIGHT_MM, facing);
    return (k: number): V => [
      start[0] + (peg[0] + hand * 7 - start[0]) * k + hand * 9 * Math.sin(Math.PI * k) * (1 - k),
      start[1] + (peg[1] - start[1]) * k,
      start[2] + facing * (2.2 - 1.2 * k) + (peg[2] - start[2] + facing * 2) * smoothstep(0.15, 1, k),
    ];
  };
  const [left, right] = [half(-1), half(1)];
  const at = (s: number): V => {
    if (s < 0.46) return left(s / 0.46);
    if (s > 0.54) return right((1 - s) / 0.46);
    const angle = Math.PI * (1 - (s - 0.46) / 0.08);
    return [peg[0] + 7 * Math.cos(angle), peg[1] + 7 * Math.sin(angle), left(1)[2]];
  };
  return surface(
    160,
    8,
    (s, t) => {
      const near = Math.min(s, 1 - s) / 0.46;
      const turn = smoothstep(0.12, 0.95, near) * (Math.PI / 2) * 0.86;
      const across = (t - 0.5) * 27;
      const p = at(s);
      const bulge = facing * 0.9 * Math.cos((t - 0.5) * Math.PI);
      return [p[0] + across * Math.cos(turn), p[1], p[2] + across * Math.sin(turn) * facing + bulge * Math.cos(turn)];
    },
    (s, t) => [t * 27, s * 560],
  );
}

/** A line of stitches on the front, and the folded hem's edge. */
const hem = (): Shape =>
  surface(
    190,
    3,
    (s, t) => {
      const p = bodyAt(s, (25 + t * 2.2) / HEIGHT_MM, 1);
      return [p[0], p[1], p[2] + 0.55 * Math.sin(Math.PI * t)];
    },
    (s, t) => [s * WIDTH_MM, t * 2],
  );

/** A tote of canvas that hangs from a peg on a wall; which side is printed and how far from the opening; a part of it from near by, mm from the middle of its opening. */
export function toteShot(
  quality: Quality,
  printed: { readonly key: string; readonly widthMm: number; readonly heightMm: number; readonly fromTopMm: number },
  near?: { readonly x: number; readonly y: number; readonly sideMm: number },
  /** Seen from the side by so much, in a furnished room. */
  fromSideDeg = 0,
): Passes {
  const up = 128;
  const before = 40;
  const lift = (shape: Shape): Shape => moved(shape, [0, up, before]);
  const peg: V = [0, HANGS_MM - 20, 0];
  const cloth: Part[] = [
    { shape: lift(side(1)), material: CANVAS, panel: PANEL },
    { shape: lift(side(-1)), material: CANVAS },
    { shape: lift(strap(-1, peg)), material: CANVAS },
    { shape: lift(strap(1, peg)), material: CANVAS },
    { shape: lift(hem()), material: STITCH },
    {
      shape: moved(
        sweep(
          (s) => [0, 0, s * 66],
          [1, 0, 0],
          (s, angle) => {
            const r = s > 0.84 ? 11 * Math.min(1, (1 - s) / 0.02 + 0.02) : 6.5;
            return [Math.cos(angle) * r, Math.sin(angle) * r];
          },
          90,
          36,
        ),
        [0, up + peg[1], 0],
      ),
      material: PEG,
    },
  ];
  const viewMm = 800;
  const room = wallRoom(viewMm, fromSideDeg !== 0);
  const turn = (fromSideDeg * Math.PI) / 180;
  const { eye } = room.camera;
  const middle: V | null = near ? [near.x, up - near.y, before + 14] : null;
  const camera =
    middle && near
      ? {
          eye: [middle[0] - near.sideMm * 0.5, middle[1] + near.sideMm * 0.12, near.sideMm * 2.3] as V,
          target: middle,
          zoom: 4.6,
        }
      : fromSideDeg
        ? {
            ...room.camera,
            eye: [eye[2] * Math.sin(turn), -40, eye[2] * Math.cos(turn)] as V,
            target: [0, -14, before] as V,
          }
        : room.camera;
  const scene = {
    ...room,
    camera,
    parts: [...room.parts, ...cloth],
    areas: [
      {
        key: printed.key,
        u: WIDTH_MM / 2 - printed.widthMm / 2,
        v: printed.fromTopMm,
        widthMm: printed.widthMm,
        heightMm: printed.heightMm,
        panels: [PANEL],
      },
    ],
  };
  const flat =
    near || fromSideDeg
      ? {}
      : { flat: flatOnWall(viewMm, quality.size, before + 18, -printed.widthMm / 2, up - printed.fromTopMm) };
  return trace(scene, quality, { [printed.key]: { variant: {}, ...flat } });
}
