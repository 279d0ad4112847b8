import type { Point } from '../geometry/matrix';
import type { CylinderMap } from './shot';

const RAD = Math.PI / 180;
const mix = (p: Point, q: Point, t: number): Point => ({ x: p.x + (q.x - p.x) * t, y: p.y + (q.y - p.y) * t });
const cross = (ax: number, ay: number, bx: number, by: number): number => ax * by - ay * bx;

/** How far the surface is toward the viewer at an angle, as a share of its most: 0 at the edges, 1 in the middle. */
const nearness = (angle: number, half: number): number => (Math.cos(angle) - Math.cos(half)) / (1 - Math.cos(half));

/**
 * Where a place on the area (mm of the trim) is in the picture. The body is seen from afar: across, a place lies at the sine of its
 * angle, and its arc is radius × angle.
 */
export function cylinderToPx(map: CylinderMap, mm: Point): Point {
  const half = map.halfDeg * RAD;
  const angle = (mm.x - map.middleMm) / map.radiusMm;
  const across = (Math.sin(angle) / Math.sin(half) + 1) / 2;
  const top = mix(map.leftPx[0], map.rightPx[0], across);
  const bottom = mix(map.leftPx[1], map.rightPx[1], across);
  const length = Math.hypot(bottom.x - top.x, bottom.y - top.y);
  const near = nearness(angle, half);
  const down = (mm.y - map.topMm) / (map.bottomMm - map.topMm);
  const along = map.bendTopPx * near + down * (length + (map.bendBottomPx - map.bendTopPx) * near);
  return mix(top, bottom, along / length);
}

/** The place on the area that is seen at a place of the picture, or null beside the body. */
export function pxToCylinder(map: CylinderMap, { x, y }: Point): Point | null {
  const half = map.halfDeg * RAD;
  const [[tl, bl], [tr, br]] = [map.leftPx, map.rightPx];
  // The line between top and bottom that goes through the point: a·t² + b·t + c = 0 for its share t of the way across.
  const [qx, qy] = [x - tl.x, y - tl.y];
  const [ex, ey] = [tr.x - tl.x, tr.y - tl.y];
  const [dx, dy] = [bl.x - tl.x, bl.y - tl.y];
  const [fx, fy] = [br.x - tr.x - dx, br.y - tr.y - dy];
  const a = -cross(ex, ey, fx, fy);
  const b = cross(qx, qy, fx, fy) - cross(ex, ey, dx, dy);
  const c = cross(qx, qy, dx, dy);
  const across = nearestRoot(a, b, c);
  if (across === null) return null;
  const sine = (2 * across - 1) * Math.sin(half);
  if (Math.abs(sine) > 1) return null;
  const angle = Math.asin(sine);
  const top = mix(tl, tr, across);
  const bottom = mix(bl, br, across);
  const length = Math.hypot(bottom.x - top.x, bottom.y - top.y);
  const along = ((x - top.x) * (bottom.x - top.x) + (y - top.y) * (bottom.y - top.y)) / length;
  const near = nearness(angle, half);
  const down = (along - map.bendTopPx * near) / (length + (map.bendBottomPx - map.bendTopPx) * near);
  return { x: map.middleMm + map.radiusMm * angle, y: map.topMm + down * (map.bottomMm - map.topMm) };
}

/** The root of a·t² + b·t + c that is nearest to the middle of 0 … 1. */
function nearestRoot(a: number, b: number, c: number): number | null {
  if (Math.abs(a) < 1e-9 * Math.max(1, Math.abs(b))) return b === 0 ? null : -c / b;
  const under = b * b - 4 * a * c;
  if (under < 0) return null;
  const q = -(b + Math.sign(b || 1) * Math.sqrt(under)) / 2;
  const roots = [q / a, q === 0 ? 0 : c / q];
  return roots.sort((s, t) => Math.abs(s - 0.5) - Math.abs(t - 0.5))[0]!;
}
