import type { Point } from '@/core/geometry/matrix';
import { snapPoint, type SnapLines } from '../snapping';
import { round1, type Gesture, type Held } from './gesture';

/** Moving: the layer's center follows the pointer, in tenths of a millimeter, and snaps to the lines given unless `free`. */
export function moving(held: Held, start: Point, lines: SnapLines, reachMm: number): Gesture {
  return {
    move(pointer, free) {
      const wanted = { x: held.placement.xMm + pointer.x - start.x, y: held.placement.yMm + pointer.y - start.y };
      const { x, y } = free ? wanted : snapPoint(wanted, lines, reachMm);
      return { ...held.placement, xMm: round1(x), yMm: round1(y) };
    },
  };
}
