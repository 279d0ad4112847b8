import type { Passes } from '../passes';
import type { Material } from '../studio/scene';
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
