/**
 * Affine map of the plane, x right and y down: x′ = a·x + c·y + e, y′ = b·x + d·y + f.
 * What space it maps from and to is in the name of the value (`artworkToMm`, `mmToPx`).
 */
export interface Matrix {
  readonly a: number;
  readonly b: number;
  readonly c: number;
  readonly d: number;
  readonly e: number;
  readonly f: number;
}

export interface Point {
  readonly x: number;
  readonly y: number;
}

export const IDENTITY: Matrix = { a: 1, b: 0, c: 0, d: 1, e: 0, f: 0 };

export const translation = (x: number, y: number): Matrix => ({ a: 1, b: 0, c: 0, d: 1, e: x, f: y });
export const scaling = (sx: number, sy: number = sx): Matrix => ({ a: sx, b: 0, c: 0, d: sy, e: 0, f: 0 });

/** Rotation about the origin, degrees clockwise as seen (y down). Quarter turns are exact. */
export function rotation(degrees: number): Matrix {
  const turn = ((degrees % 360) + 360) % 360;
  const exact: Record<number, [number, number]> = { 0: [1, 0], 90: [0, 1], 180: [-1, 0], 270: [0, -1] };
  const [cos, sin] = exact[turn] ?? [Math.cos((turn * Math.PI) / 180), Math.sin((turn * Math.PI) / 180)];
  return { a: cos, b: sin, c: -sin, d: cos, e: 0, f: 0 };
}

/** The map that does `first`, then the others in the order given. */
export function chain(first: Matrix, ...then: Matrix[]): Matrix {
  return then.reduce(
    (m, n) => ({
      a: n.a * m.a + n.c * m.b,
      b: n.b * m.a + n.d * m.b,
      c: n.a * m.c + n.c * m.d,
      d: n.b * m.c + n.d * m.d,
      e: n.a * m.e + n.c * m.f + n.e,
      f: n.b * m.e + n.d * m.f + n.f,
    }),
    first,
  );
}

export const apply = (m: Matrix, p: Point): Point => ({
  x: m.a * p.x + m.c * p.y + m.e,
  y: m.b * p.x + m.d * p.y + m.f,
});

/** The inverse map. Throws RangeError when the map is flat (a side of zero length). */
export function invert(m: Matrix): Matrix {
  const det = m.a * m.d - m.b * m.c;
  if (!Number.isFinite(det) || Math.abs(det) < 1e-18)
    throw new RangeError('a map with a side of zero length cannot be inverted');
  return {
    a: m.d / det,
    b: -m.b / det,
    c: -m.c / det,
    d: m.a / det,
    e: (m.c * m.f - m.d * m.e) / det,
    f: (m.b * m.e - m.a * m.f) / det,
  };
}

/** Lengths to which the unit steps in x and y are mapped. */
export const axisLengths = (m: Matrix): { x: number; y: number } => ({
  x: Math.hypot(m.a, m.b),
  y: Math.hypot(m.c, m.d),
});
