import type { Path, Step } from './path';
import { flatten } from './path';

/**
 * The ribbon of `width` along the contours of a path, corners round, as a path to be filled by the nonzero rule. Curves are followed within
 * `tolerance`; all in the path's own space. Contours are closed. Width 0 or less gives nothing.
 */
export function strokePath(path: Path, width: number, tolerance: number): Step[] {
  if (!(width > 0)) return [];
  const steps: Step[] = [];
  for (const polygon of flatten(path, tolerance)) {
    const points = withoutRepeats(polygon);
    if (points.length < 4) continue;
    // The two sides of the ribbon; the second is walked backward, so that what lies between them winds once.
    side(steps, points, width / 2, tolerance);
    side(steps, reversed(points), width / 2, tolerance);
  }
  return steps;
}

function withoutRepeats(polygon: Float64Array): number[] {
  const points: number[] = [];
  for (let i = 0; i < polygon.length; i += 2) {
    const n = points.length;
    if (n === 0 || points[n - 2] !== polygon[i] || points[n - 1] !== polygon[i + 1])
      points.push(polygon[i]!, polygon[i + 1]!);
  }
  return points;
}

function reversed(points: readonly number[]): number[] {
  const back: number[] = [];
  for (let i = points.length - 2; i >= 0; i -= 2) back.push(points[i]!, points[i + 1]!);
  return back;
}

/** One side of the ribbon: the closed contour moved to its left, with an arc around each outer corner. */
function side(steps: Step[], points: readonly number[], reach: number, tolerance: number): void {
  const n = points.length;
  const out: number[] = [];
  for (let i = 0; i < n; i += 2) {
    const before = (i - 2 + n) % n;
    const after = (i + 2) % n;
    const [x, y] = [points[i]!, points[i + 1]!];
    const [ux, uy] = direction(points[before]!, points[before + 1]!, x, y);
    const [vx, vy] = direction(x, y, points[after]!, points[after + 1]!);
    // To the left of a direction, with y down, is (dy, −dx).
    const [fromX, fromY] = [uy * reach, -ux * reach];
    const [toX, toY] = [vy * reach, -vx * reach];
    const cross = ux * vy - uy * vx;
    const dot = ux * vx + uy * vy;
    const turn = Math.atan2(cross, dot);
    // On the inner side of a corner the two edges meet; where they are too short for that, the way leads over the corner itself.
    const short = Math.min(
      Math.hypot(x - points[before]!, y - points[before + 1]!),
      Math.hypot(points[after]! - x, points[after + 1]! - y),
    );
    if (turn < 0 && short >= reach * Math.tan(-turn / 2)) {
      out.push(x + (fromX + toX) / (1 + dot), y + (fromY + toY) / (1 + dot));
      continue;
    }
    out.push(x + fromX, y + fromY);
    if (turn > 0) {
      const step = 2 * Math.acos(Math.max(0, 1 - tolerance / reach)) || Math.PI / 8;
      const parts = Math.ceil(turn / step);
      const start = Math.atan2(fromY, fromX);
      for (let k = 1; k < parts; k += 1) {
        const angle = start + (turn * k) / parts;
        out.push(x + Math.cos(angle) * reach, y + Math.sin(angle) * reach);
      }
    } else if (turn < 0) out.push(x, y);
    out.push(x + toX, y + toY);
  }
  for (let i = 0; i < out.length; i += 2) steps.push({ kind: i === 0 ? 'M' : 'L', x: out[i]!, y: out[i + 1]! });
  steps.push({ kind: 'Z' });
}

function direction(ax: number, ay: number, bx: number, by: number): [number, number] {
  const length = Math.hypot(bx - ax, by - ay) || 1;
  return [(bx - ax) / length, (by - ay) / length];
}
