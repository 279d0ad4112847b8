import { trimBox, type Geometry } from '@/core/geometry/area';
import { inset, type Box } from '@/core/geometry/box';

/** Upright and level lines, mm, to which a layer's edges and middle snap. */
export interface SnapLines {
  readonly x: readonly number[];
  readonly y: readonly number[];
}

/** Lines of an area: its middle, its anchor, its safe margin; and edges and middles of other layers. */
export function linesOf(geometry: Geometry, others: readonly Box[] = []): SnapLines {
  const box = trimBox(geometry);
  const safe = inset(box, geometry.safeMm);
  return {
    x: [
      box.right / 2,
      geometry.anchor.xMm,
      safe.left,
      safe.right,
      ...others.flatMap(({ left, right }) => [left, (left + right) / 2, right]),
    ],
    y: [
      box.bottom / 2,
      safe.top,
      safe.bottom,
      ...others.flatMap(({ top, bottom }) => [top, (top + bottom) / 2, bottom]),
    ],
  };
}

/** How far to move so that the nearest of `points` comes to lie on the nearest line within reach; 0 where none is. Earlier lines win ties. */
export function snapBy(points: readonly number[], lines: readonly number[], reachMm: number): number {
  let best = 0;
  let least = Infinity;
  for (const line of lines)
    for (const point of points) {
      const distance = Math.abs(line - point);
      if (distance <= reachMm && distance < least - 1e-9) [least, best] = [distance, line - point];
    }
  return best;
}

/** The lines on which a box lies now, for showing them. */
export function linesUnder(box: Box, lines: SnapLines): SnapLines {
  const on = (points: readonly number[], all: readonly number[]) => [
    ...new Set(all.filter((line) => points.some((point) => Math.abs(line - point) < 0.051))),
  ];
  return {
    x: on([box.left, (box.left + box.right) / 2, box.right], lines.x),
    y: on([box.top, (box.top + box.bottom) / 2, box.bottom], lines.y),
  };
}
