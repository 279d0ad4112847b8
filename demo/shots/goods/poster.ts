import type { Passes } from '../passes';
import type { Material } from '../studio/scene';
import { flatLights, overhead, paperSweep } from '../studio/room';
import { surface } from '../studio/shapes';
import { flatOnWall, wallRoom } from '../studio/wall';
import { trace, type Quality } from '../studio/trace';

const PAPER: Material = {
  role: 'fabric',
  albedo: [0.84, 0.84, 0.83],
  grain: { kind: 'paper', depthMm: 0.01, sizeMm: 0.5 },
};
const SHEET = 1;
/** Its middle stands this far before the wall; its edges lie a little nearer or farther. */
const BEFORE_MM = 2;

/** A poster without a frame on a wall by window light, seen straight on. Sides of its trim in mm. */
export function posterShot(
  quality: Quality,
  { widthMm, heightMm }: { widthMm: number; heightMm: number },
  variant: Record<string, string>,
): Passes {
  const viewMm = heightMm / 0.665;
  const [left, top] = [-widthMm / 2, heightMm / 2 + viewMm * 0.055];
  const paper = surface(
    24,
    36,
    (s, t) => {
      const corner = Math.abs(s - 0.5) ** 3 * 8;
      // Paper that was rolled: its lower edge stands off a little, its upper corners less.
      const stands = 1.1 * t ** 6 * (0.6 + 0.4 * corner) + 0.5 * (1 - t) ** 8 * corner - 0.9;
      return [left + s * widthMm, top - t * heightMm, BEFORE_MM + stands];
    },
    (s, t) => [s * widthMm, t * heightMm],
  );
  const room = wallRoom(viewMm);
  const scene = {
    ...room,
    parts: [...room.parts, { shape: paper, material: PAPER, panel: SHEET }],
    areas: [{ key: 'main.sheet', u: 0, v: 0, widthMm, heightMm, panels: [SHEET] }],
  };
  return trace(
    scene,
    quality,
    { 'main.sheet': { variant, flat: flatOnWall(viewMm, quality.size, BEFORE_MM, left, top) } },
    { dark: false },
  );
}

/** The same lying on paper, seen from straight above: its corners still remember that it was rolled. */
export function flatPosterShot(
  quality: Quality,
  { widthMm, heightMm }: { widthMm: number; heightMm: number },
  variant: Record<string, string>,
): Passes {
  const k = heightMm / 420;
  const liesMm = 1.4 * k;
  const paper = surface(
    40,
    60,
    (s, t) => {
      const [a, b] = [Math.abs(s - 0.5) * 2, Math.abs(t - 0.5) * 2];
      const rolled = 4 * k * b ** 9 * (0.55 + 0.45 * a ** 3) * (t > 0.5 ? 1 : 0.6);
      const corner = 2.2 * k * (a * b) ** 12 * (s > 0.5 ? 1 : 0.4);
      return [(s - 0.5) * widthMm, 0.4 + rolled + corner, (t - 0.5) * heightMm];
    },
    (s, t) => [s * widthMm, t * heightMm],
  );
  const { camera, flat } = overhead(heightMm / 0.74, [0, 0, 0], liesMm, quality.size);
  const scene = {
    camera,
    parts: [paperSweep(4000 * k), { shape: paper, material: PAPER, panel: SHEET }],
    ...flatLights(1.6 * k),
    areas: [{ key: 'main.sheet', u: 0, v: 0, widthMm, heightMm, panels: [SHEET] }],
  };
  return trace(scene, quality, { 'main.sheet': { variant, flat: flat(-widthMm / 2, -heightMm / 2) } }, { dark: false });
}
