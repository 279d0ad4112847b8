import { noise, ridge, smoothstep } from '../noise';
import type { Passes } from '../passes';
import type { Material, Part } from '../studio/scene';
import { block, moved, surface, tilted, turned, type Shape, type V } from '../studio/shapes';
import { trace, type Quality } from '../studio/trace';
import { OAK, wallRoom } from '../studio/wall';

const CLOTH: Material = {
  role: 'fabric',
  albedo: [0.78, 0.78, 0.77],
  grain: { kind: 'canvas', depthMm: 0.07, sizeMm: 0.9 },
};
const PANEL = 1;

/** Half of a full cushion, toward the viewer; its seam lies in z = 0. */
function half(sideMm: number, seed: number): Shape {
  const h = sideMm / 2;
  const sag = sideMm * 0.04;
  const reach = (t: number) => h - sag * (1 - Math.min(1, Math.abs(t)) ** 2.2);
  const full = (s: number, t: number) => {
    const [a, b] = [Math.abs(s), Math.abs(t)];
    const dome = (Math.max(0, 1 - a ** 2.3) * Math.max(0, 1 - b ** 2.3)) ** 0.42;
    const corner = smoothstep(0.35, 1.1, Math.min(a, b) + 0.35 * Math.max(a, b));
    // Folds run from each corner inward, and short ones stand on the seams.
    const [dx, dy] = [1 - a, 1 - b];
    const angle = Math.atan2(dy, dx);
    const far = Math.hypot(dx, dy);
    const own = noise(Math.sign(s) * 3 + 7, Math.sign(t) * 5 + 11, seed);
    const rays =
      5.2 * ridge(angle - 0.62 - 0.16 * own, 0.1) +
      3.6 * ridge(angle - 1.02 + 0.1 * own, 0.09) -
      2.4 * ridge(angle - 0.82, 0.08);
    const puckers =
      1.5 *
        Math.sin(s * 31 + 3 * noise(s * 4, t * 4, seed + 1)) *
        smoothstep(0.75, 0.97, b) *
        (1 - smoothstep(0.97, 1, b)) +
      1.5 *
        Math.sin(t * 29 + 2 * noise(s * 4, t * 4, seed + 2)) *
        smoothstep(0.75, 0.97, a) *
        (1 - smoothstep(0.97, 1, a));
    return (
      sideMm * 0.185 * dome +
      rays * smoothstep(0.06, 0.22, far) * smoothstep(0.8, 0.3, far) * (0.6 + 0.4 * corner) +
      puckers +
      (2.2 * noise(s * 3.1, t * 3.3, seed + 3) + 0.9 * noise(s * 8, t * 8.6, seed + 4)) * dome
    );
  };
  return surface(
    200,
    200,
    (s, t) => {
      const [u, v] = [s * 2 - 1, t * 2 - 1];
      return [u * reach(v), -v * reach(u), full(u, v)];
    },
    (s, t) => [s * sideMm, t * sideMm],
  );
}

/** A cord sewn into the seam. */
function piping(sideMm: number): Shape {
  const h = sideMm / 2;
  const sag = sideMm * 0.04;
  const reach = (t: number) => h - sag * (1 - Math.min(1, Math.abs(t)) ** 2.2);
  const n = 400;
  const around = (s: number): V => {
    const k = (((s % 1) + 1) % 1) * 4;
    const side = Math.floor(k) % 4;
    const t = (k - Math.floor(k)) * 2 - 1;
    const [x, y] = [t * h * (reach(1) / h), reach(t)];
    return side === 0 ? [x, y, 0] : side === 1 ? [y, -x, 0] : side === 2 ? [-x, -y, 0] : [-y, x, 0];
  };
  return surface(
    n,
    12,
    (s, t) => {
      const [p, q] = [around(s), around(s + 1e-3)];
      const l = Math.hypot(q[0] - p[0], q[1] - p[1]) || 1;
      const out: V = [(q[1] - p[1]) / l, -(q[0] - p[0]) / l, 0];
      const angle = t * 2 * Math.PI;
      const r = 2.6;
      return [p[0] - out[0] * r * Math.cos(angle), p[1] - out[1] * r * Math.cos(angle), r * Math.sin(angle)];
    },
    (s, t) => [s * sideMm * 4, t * 16],
  );
}

/** A cushion on a bench against a wall, straight or at an angle. */
export function cushionShot(
  quality: Quality,
  key: string,
  sideMm: number,
  variant: Record<string, string>,
  turnDeg = 0,
): Passes {
  const seed = key === 'main.back' ? 61 : 42;
  const viewMm = sideMm * 1.52;
  const bench = -viewMm * 0.37;
  // It leans on the wall; its lower side is pressed flat a little by its own weight.
  const stand = (shape: Shape): Shape =>
    moved(turned(tilted(shape, 13), turnDeg), [0, bench + sideMm * 0.475, sideMm * 0.3]);
  const back: Shape = turned(half(sideMm, seed + 9), 180);
  const room = wallRoom(viewMm, false);
  const depth = 480;
  const parts: Part[] = [
    ...room.parts,
    { shape: moved(block([6000, 40, depth], 4), [0, bench - 20, depth / 2]), material: OAK },
    { shape: stand(half(sideMm, seed)), material: CLOTH, panel: PANEL },
    { shape: stand(back), material: CLOTH },
    { shape: stand(piping(sideMm)), material: CLOTH },
  ];
  const scene = {
    ...room,
    camera: { ...room.camera, eye: [0, viewMm * 0.12, room.camera.eye[2] + 100] as V, target: [0, 0, 100] as V },
    parts,
    areas: [{ key, u: 0, v: 0, widthMm: sideMm, heightMm: sideMm, panels: [PANEL] }],
  };
  return trace(scene, quality, { [key]: { variant } }, { dark: false });
}
