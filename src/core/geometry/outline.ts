import { flatten } from '../paths/path';
import { parsePath } from '../paths/parse';
import { trimBox, type Geometry } from './area';
import type { Point } from './matrix';

/** Curves of an outline are taken as straight within this, mm. */
const TOLERANCE_MM = 0.05;

/** The edge of an area as closed polygons, mm: that of its outline, or its sides. */
export type Edge = readonly Float64Array[];

const edges = new Map<string, Edge>();
const MAX_KEPT = 200;

export function edgeOf(geometry: Geometry): Edge {
  if (geometry.outline === null) {
    const { left, top, right, bottom } = trimBox(geometry);
    return [Float64Array.of(left, top, right, top, right, bottom, left, bottom)];
  }
  let edge = edges.get(geometry.outline);
  if (!edge) {
    edge = flatten(parsePath(geometry.outline), TOLERANCE_MM);
    if (edges.size >= MAX_KEPT) edges.clear();
    edges.set(geometry.outline, edge);
  }
  return edge;
}

/** Distance of a point to a segment. */
function toSegment(x: number, y: number, ax: number, ay: number, bx: number, by: number): number {
  const [dx, dy] = [bx - ax, by - ay];
  const length = dx * dx + dy * dy;
  const t = length === 0 ? 0 : Math.min(1, Math.max(0, ((x - ax) * dx + (y - ay) * dy) / length));
  return Math.hypot(x - ax - t * dx, y - ay - t * dy);
}

/** How far a point lies inside an edge, mm; below 0 outside. Inside by the even-odd rule. */
export function insideMm(edge: Edge, { x, y }: Point): number {
  let [inside, least] = [false, Infinity];
  for (const polygon of edge)
    for (let i = 0, j = polygon.length - 2; i < polygon.length; j = i, i += 2) {
      const [ax, ay, bx, by] = [polygon[j]!, polygon[j + 1]!, polygon[i]!, polygon[i + 1]!];
      if (ay > y !== by > y && x < ax + ((y - ay) / (by - ay)) * (bx - ax)) inside = !inside;
      least = Math.min(least, toSegment(x, y, ax, ay, bx, by));
    }
  return inside ? least : -least;
}
