import type { Point } from '@/core/geometry/matrix';
import { normalizeDegrees } from '@/core/geometry/placement';
import type { Gesture, Held } from './gesture';

const STEP_DEG = 15;
const REACH_DEG = 3;

/** Turning about the center: follows the pointer in tenths of a degree, and snaps to steps of 15° within 3° unless `free`. */
export function turning(held: Held, start: Point): Gesture {
  const { xMm, yMm, rotationDeg } = held.placement;
  const angle = (p: Point) => (Math.atan2(p.y - yMm, p.x - xMm) * 180) / Math.PI;
  const first = angle(start);
  return {
    move(pointer, free) {
      const wanted = rotationDeg + angle(pointer) - first;
      const step = Math.round(wanted / STEP_DEG) * STEP_DEG;
      const degrees = !free && Math.abs(step - wanted) <= REACH_DEG ? step : Math.round(wanted * 10) / 10;
      return { ...held.placement, rotationDeg: normalizeDegrees(degrees) };
    },
  };
}
