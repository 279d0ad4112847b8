import { apply, type Matrix } from '../geometry/matrix';
import type { Box } from '../geometry/box';

/** One step of an outline; coordinates in whatever space the path is in. `Q` and `C` are Béziers with their control points first. */
export type Step =
  | { readonly kind: 'M' | 'L'; readonly x: number; readonly y: number }
  | { readonly kind: 'Q'; readonly x1: number; readonly y1: number; readonly x: number; readonly y: number }
  | {
      readonly kind: 'C';
      readonly x1: number;
      readonly y1: number;
      readonly x2: number;
      readonly y2: number;
      readonly x: number;
      readonly y: number;
    }
  | { readonly kind: 'Z' };

/** An outline of closed contours, filled by the nonzero rule. A contour that is not closed is closed when it is filled. */
export type Path = readonly Step[];

/** A path with the color that it is filled with, sRGB `#rrggbb`. */
export interface InkedPath {
  readonly path: Path;
  readonly color: string;
}

/** The path under a map. Béziers stay Béziers: affine maps carry control points. */
export function mapPath(path: Path, m: Matrix): Step[] {
  return path.map((step): Step => {
    if (step.kind === 'Z') return step;
    const end = apply(m, step);
    if (step.kind === 'Q') {
      const c = apply(m, { x: step.x1, y: step.y1 });
      return { kind: 'Q', x1: c.x, y1: c.y, x: end.x, y: end.y };
    }
    if (step.kind === 'C') {
      const [c, d] = [apply(m, { x: step.x1, y: step.y1 }), apply(m, { x: step.x2, y: step.y2 })];
      return { kind: 'C', x1: c.x, y1: c.y, x2: d.x, y2: d.y, x: end.x, y: end.y };
    }
    return { kind: step.kind, x: end.x, y: end.y };
  });
}

/** Closed polygons that follow the path within `tolerance` (in the path's own space, more than 0). Each is x, y, x, y … without its start again. */
export function flatten(path: Path, tolerance: number): Float64Array[] {
  const polygons: Float64Array[] = [];
  let points: number[] = [];
  const close = () => {
    const n = points.length;
    if (n >= 4 && points[0] === points[n - 2] && points[1] === points[n - 1]) points.length = n - 2;
    if (points.length >= 6) polygons.push(Float64Array.from(points));
    points = [];
  };
  let [x, y] = [0, 0];
  for (const step of path) {
    if (step.kind === 'M') {
      close();
      points.push(step.x, step.y);
    } else if (step.kind === 'Z') close();
    else {
      if (points.length === 0) points.push(x, y);
      if (step.kind === 'L') points.push(step.x, step.y);
      else if (step.kind === 'Q') {
        // Distance between a quadratic and its chord falls with the square of the number of parts: |P0 − 2P1 + P2| ÷ 4n².
        const bend = Math.hypot(x - 2 * step.x1 + step.x, y - 2 * step.y1 + step.y);
        const n = Math.max(1, Math.ceil(Math.sqrt(bend / (4 * tolerance))));
        for (let i = 1; i <= n; i += 1) {
          const t = i / n;
          const s = 1 - t;
          points.push(
            s * s * x + 2 * s * t * step.x1 + t * t * step.x,
            s * s * y + 2 * s * t * step.y1 + t * t * step.y,
          );
        }
      } else if (step.kind === 'C') {
        const bend = Math.max(
          Math.hypot(x - 2 * step.x1 + step.x2, y - 2 * step.y1 + step.y2),
          Math.hypot(step.x1 - 2 * step.x2 + step.x, step.y1 - 2 * step.y2 + step.y),
        );
        // The second derivative of a cubic is at most 6 times the larger of these: 6 · bend ÷ 8n².
        const n = Math.max(1, Math.ceil(Math.sqrt((0.75 * bend) / tolerance)));
        for (let i = 1; i <= n; i += 1) {
          const t = i / n;
          const s = 1 - t;
          const [a, b, c, d] = [s * s * s, 3 * s * s * t, 3 * s * t * t, t * t * t];
          points.push(a * x + b * step.x1 + c * step.x2 + d * step.x, a * y + b * step.y1 + c * step.y2 + d * step.y);
        }
      }
    }
    if (step.kind !== 'Z') [x, y] = [step.x, step.y];
  }
  close();
  return polygons;
}

/** The box around all points of a path, control points included; null for an empty path. */
export function pathBox(path: Path): Box | null {
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  const take = (x: number, y: number) => {
    left = Math.min(left, x);
    right = Math.max(right, x);
    top = Math.min(top, y);
    bottom = Math.max(bottom, y);
  };
  for (const step of path) {
    if (step.kind === 'Z') continue;
    take(step.x, step.y);
    if (step.kind === 'Q') take(step.x1, step.y1);
    if (step.kind === 'C') {
      take(step.x1, step.y1);
      take(step.x2, step.y2);
    }
  }
  return left <= right ? { left, top, right, bottom } : null;
}

const short = (value: number) => String(Math.round(value * 1e4) / 1e4);

/** The path as SVG path data, to four decimals. */
export function svgPath(path: Path): string {
  return path
    .map((step) => {
      switch (step.kind) {
        case 'Z':
          return 'Z';
        case 'Q':
          return `Q${short(step.x1)} ${short(step.y1)} ${short(step.x)} ${short(step.y)}`;
        case 'C':
          return `C${short(step.x1)} ${short(step.y1)} ${short(step.x2)} ${short(step.y2)} ${short(step.x)} ${short(step.y)}`;
        default:
          return `${step.kind}${short(step.x)} ${short(step.y)}`;
      }
    })
    .join('');
}

/** Area inside a polygon, by the shoelace formula; positive when it turns clockwise as seen (y down). */
export function polygonArea(points: Float64Array): number {
  let sum = 0;
  const n = points.length;
  for (let i = 0; i < n; i += 2) {
    const j = (i + 2) % n;
    sum += points[i]! * points[j + 1]! - points[j]! * points[i + 1]!;
  }
  return sum / 2;
}
