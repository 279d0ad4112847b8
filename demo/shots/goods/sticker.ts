import type { Passes } from '../passes';
import { flatLights, overhead, paperSweep } from '../studio/room';
import type { Material } from '../studio/scene';
import { surface } from '../studio/shapes';
import { trace, type Quality } from '../studio/trace';

const VINYL: Material = {
  role: 'fabric',
  albedo: [0.86, 0.86, 0.86],
  f0: 0.035,
  roughness: 0.36,
  grain: { kind: 'paper', depthMm: 0.004, sizeMm: 0.5 },
};
const SHEET = 1;

/** A sheet of stickers on a table, its lower right corner peeled up; a part of it from near by, when `near` says which, mm from its top left. */
export function stickerShot(
  quality: Quality,
  widthMm: number,
  heightMm: number,
  variant: Record<string, string>,
  near?: { readonly x: number; readonly y: number; readonly sideMm: number },
): Passes {
  // The corner rolls up around a line that runs across it.
  const rolled = 11;
  const shape = surface(
    90,
    120,
    (s, t) => {
      const [x, z] = [s * widthMm, t * heightMm];
      const way = (x - widthMm + z - heightMm) / Math.SQRT2 + 21;
      if (way <= 0) return [x - widthMm / 2, 0.25, z - heightMm / 2];
      const angle = Math.min(1.9, way / rolled);
      const past = way - angle * rolled;
      const along = rolled * Math.sin(angle) + past * Math.cos(angle);
      const up = rolled * (1 - Math.cos(angle)) + past * Math.sin(angle);
      const back = (way - along) / Math.SQRT2;
      return [x - back - widthMm / 2, 0.25 + up, z - back - heightMm / 2];
    },
    (s, t) => [s * widthMm, t * heightMm],
  );
  const middle = near ? ([near.x - widthMm / 2, 0, near.y - heightMm / 2] as const) : ([0, 0, 0] as const);
  const { camera, flat } = overhead(near ? near.sideMm : heightMm * 1.3, middle, 0.25, quality.size);
  const low = near ? { eye: [middle[0] + 10, 165, middle[2] + 150] as const, target: middle, zoom: 4.9 } : camera;
  const scene = {
    camera: near ? low : camera,
    parts: [paperSweep(2000), { shape, material: VINYL, panel: SHEET }],
    ...flatLights(),
    areas: [{ key: 'main.sheet', u: 0, v: 0, widthMm, heightMm, panels: [SHEET] }],
  };
  return trace(
    scene,
    quality,
    { 'main.sheet': { variant, ...(near ? {} : { flat: flat(-widthMm / 2, -heightMm / 2) }) } },
    { dark: false },
  );
}
