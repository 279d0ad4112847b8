import type { Point } from '../geometry/matrix';

/** Corners clockwise from the top left. */
export type Quad = readonly [Point, Point, Point, Point];

/** A perspective map of the plane, row by row: x′ = (h0·x + h1·y + h2) ÷ (h6·x + h7·y + h8), y′ likewise with h3 … h5. */
export type Homography = readonly [number, number, number, number, number, number, number, number, number];

/**
 * The perspective map that takes a sheet of `width` × `height` to four corners (the map of a square to a quadrilateral in closed form,
 * Heckbert 1989, from memory). Throws RangeError when three of the corners lie on a line.
 */
export function homographyOf(width: number, height: number, [p0, p1, p2, p3]: Quad): Homography {
  const [dx1, dy1] = [p1.x - p2.x, p1.y - p2.y];
  const [dx2, dy2] = [p3.x - p2.x, p3.y - p2.y];
  const [sx, sy] = [p0.x - p1.x + p2.x - p3.x, p0.y - p1.y + p2.y - p3.y];
  const det = dx1 * dy2 - dx2 * dy1;
  if (Math.abs(det) < 1e-9) throw new RangeError('three of the corners lie on a line');
  const g = (sx * dy2 - dx2 * sy) / det;
  const h = (dx1 * sy - sx * dy1) / det;
  return [
    (p1.x - p0.x + g * p1.x) / width,
    (p3.x - p0.x + h * p3.x) / height,
    p0.x,
    (p1.y - p0.y + g * p1.y) / width,
    (p3.y - p0.y + h * p3.y) / height,
    p0.y,
    g / width,
    h / height,
    1,
  ];
}

export function project([a, b, c, d, e, f, g, h, i]: Homography, { x, y }: Point): Point {
  const w = g * x + h * y + i;
  return { x: (a * x + b * y + c) / w, y: (d * x + e * y + f) / w };
}

/** The map back. Throws RangeError when there is none. */
export function invertHomography([a, b, c, d, e, f, g, h, i]: Homography): Homography {
  const [A, B, C] = [e * i - f * h, c * h - b * i, b * f - c * e];
  const det = a * A + d * B + g * C;
  if (!Number.isFinite(det) || Math.abs(det) < 1e-15) throw new RangeError('this perspective cannot be undone');
  return [
    A / det,
    B / det,
    C / det,
    (f * g - d * i) / det,
    (a * i - c * g) / det,
    (c * d - a * f) / det,
    (d * h - e * g) / det,
    (b * g - a * h) / det,
    (a * e - b * d) / det,
  ];
}
