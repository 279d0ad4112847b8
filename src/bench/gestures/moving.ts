import { placedBox, placementMatrix } from '@/core/geometry/placement';
import type { Point } from '@/core/geometry/matrix';
import { snapBy, type SnapLines } from '../snapping';
import { round1, type Gesture, type Held } from './gesture';

/** Moving: the layer follows the pointer, in tenths of a millimeter; its middle and edges snap to the lines given unless `free`. */
export function moving(held: Held, start: Point, lines: SnapLines, reachMm: number): Gesture {
  const { xMm, yMm } = held.placement;
  const box = placedBox(placementMatrix(held.placement, held.aspect));
  const points = {
    x: [(box.left + box.right) / 2, box.left, box.right],
    y: [(box.top + box.bottom) / 2, box.top, box.bottom],
  };
  return {
    move(pointer, free) {
      const [dx, dy] = [pointer.x - start.x, pointer.y - start.y];
      const snap = (axis: 'x' | 'y', by: number) =>
        free
          ? 0
          : snapBy(
              points[axis].map((at) => at + by),
              lines[axis],
              reachMm,
            );
      return { ...held.placement, xMm: round1(xMm + dx + snap('x', dx)), yMm: round1(yMm + dy + snap('y', dy)) };
    },
  };
}
