import { apply, type Matrix, type Point } from './matrix';

/** Upright rectangle; the unit is that of whoever made it. */
export interface Box {
  readonly left: number;
  readonly top: number;
  readonly right: number;
  readonly bottom: number;
}

export function boxOfPoints(points: readonly Point[]): Box {
  const xs = points.map((p) => p.x);
  const ys = points.map((p) => p.y);
  return { left: Math.min(...xs), top: Math.min(...ys), right: Math.max(...xs), bottom: Math.max(...ys) };
}

export const cornersOf = (box: Box): [Point, Point, Point, Point] => [
  { x: box.left, y: box.top },
  { x: box.right, y: box.top },
  { x: box.right, y: box.bottom },
  { x: box.left, y: box.bottom },
];

/** Corners of the unit square under a map, clockwise from the top left of the unmapped square. */
export const unitCorners = (m: Matrix): [Point, Point, Point, Point] =>
  cornersOf({ left: 0, top: 0, right: 1, bottom: 1 }).map((p) => apply(m, p)) as [Point, Point, Point, Point];

export const inset = (box: Box, by: number): Box => ({
  left: box.left + by,
  top: box.top + by,
  right: box.right - by,
  bottom: box.bottom - by,
});

/** Whether `inner` lies in `outer`, with `slack` forgiven on each side. */
export function contains(outer: Box, inner: Box, slack = 0): boolean {
  return (
    inner.left >= outer.left - slack &&
    inner.top >= outer.top - slack &&
    inner.right <= outer.right + slack &&
    inner.bottom <= outer.bottom + slack
  );
}
