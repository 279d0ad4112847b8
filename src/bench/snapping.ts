import { trimBox, type Geometry } from '@/core/geometry/area';
import type { Point } from '@/core/geometry/matrix';

/** Upright and level lines, mm, to which a layer's center snaps. */
export interface SnapLines {
  readonly x: readonly number[];
  readonly y: readonly number[];
}

/** Lines of an area: its middle and its anchor. */
export function linesOf(geometry: Geometry): SnapLines {
  const box = trimBox(geometry);
  return { x: [box.right / 2, geometry.anchor.xMm], y: [box.bottom / 2] };
}

/** The point moved onto the nearest line within reach, each axis by itself. */
export function snapPoint(point: Point, lines: SnapLines, reachMm: number): Point {
  const snap = (value: number, to: readonly number[]) => {
    const near = to.reduce<number | null>(
      (best, line) =>
        Math.abs(line - value) <= reachMm && (best === null || Math.abs(line - value) < Math.abs(best - value))
          ? line
          : best,
      null,
    );
    return near ?? value;
  };
  return { x: snap(point.x, lines.x), y: snap(point.y, lines.y) };
}
