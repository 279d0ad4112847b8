import type { Point } from '../geometry/matrix';
import { cylinderToPx, pxToCylinder } from './cylinder';
import { homographyOf, invertHomography, project } from './homography';
import { meshToPx } from './mesh';
import type { AreaMap, MapPlanes, ShotArea, TracedMap } from './shot';

/** A map that is computed from marks. */
export type MarkedMap = Exclude<AreaMap, TracedMap>;

/** Where a place on the area (mm of the trim) is in the picture: what the pixels of every such map are held to. */
export function placeInPicture(map: MarkedMap, mm: Point): Point {
  switch (map.kind) {
    case 'homography':
      return project(homographyOf(map.widthMm, map.heightMm, map.cornersPx), mm);
    case 'cylinder':
      return cylinderToPx(map, mm);
    case 'mesh':
      return meshToPx(map, mm);
  }
}

/** Mm beyond the trim that the map is still known to: pixels whose center lies just outside are covered in part. */
const MARGIN = 0.08;
/** Places along the trim's edge at which the picture's box is measured. */
const ALONG = 24;

/**
 * The pixels of a marked map: u and v at each pixel's center, and coverage up to the trim, whose edge is smoothed over one pixel. Throws
 * RangeError when the marks have no area.
 */
export function rasterizeMap(map: MarkedMap, widthPx: number, heightPx: number): ShotArea {
  const n = widthPx * heightPx;
  const uMm = [-MARGIN * map.widthMm, (1 + MARGIN) * map.widthMm] as const;
  const vMm = [-MARGIN * map.heightMm, (1 + MARGIN) * map.heightMm] as const;
  const planes = { coverage: new Uint8Array(n), u: new Uint16Array(n), v: new Uint16Array(n), uMm, vMm };
  const [x0, y0, x1, y1] = boxOf(map, widthPx, heightPx);
  if (x1 <= x0 || y1 <= y0) return planes;
  const w = x1 - x0;
  const [us, vs] = [new Float64Array(w * (y1 - y0)).fill(NaN), new Float64Array(w * (y1 - y0)).fill(NaN)];
  if (map.kind === 'mesh') fillMesh(map, us, vs, x0, y0, w, y1 - y0);
  else {
    const back =
      map.kind === 'homography' ? invertHomography(homographyOf(map.widthMm, map.heightMm, map.cornersPx)) : null;
    for (let y = y0; y < y1; y += 1)
      for (let x = x0; x < x1; x += 1) {
        const p = { x: x + 0.5, y: y + 0.5 };
        const mm = back ? project(back, p) : pxToCylinder(map as Extract<MarkedMap, { kind: 'cylinder' }>, p);
        if (!mm) continue;
        us[(y - y0) * w + x - x0] = mm.x;
        vs[(y - y0) * w + x - x0] = mm.y;
      }
  }
  write(map, planes, us, vs, x0, y0, w, y1 - y0, widthPx);
  return planes;
}

function boxOf(map: MarkedMap, widthPx: number, heightPx: number): [number, number, number, number] {
  const edge = Array.from({ length: ALONG + 1 }, (_, i) => i / ALONG).flatMap((t) => [
    { x: t * map.widthMm, y: 0 },
    { x: t * map.widthMm, y: map.heightMm },
    { x: 0, y: t * map.heightMm },
    { x: map.widthMm, y: t * map.heightMm },
  ]);
  // Of a body only what faces the picture has a place there.
  const seen =
    map.kind === 'cylinder'
      ? edge.filter(({ x }) => Math.abs(x - map.middleMm) <= (map.radiusMm * map.halfDeg * Math.PI) / 180)
      : edge;
  const ends =
    map.kind === 'cylinder'
      ? [...map.leftPx, ...map.rightPx, { ...map.leftPx[1], y: map.leftPx[1].y + Math.abs(map.bendBottomPx) }]
      : [];
  const points = [...seen.map((mm) => placeInPicture(map, mm)), ...ends];
  const [xs, ys] = [points.map((p) => p.x), points.map((p) => p.y)];
  return [
    Math.max(0, Math.floor(Math.min(...xs)) - 2),
    Math.max(0, Math.floor(Math.min(...ys)) - 2),
    Math.min(widthPx, Math.ceil(Math.max(...xs)) + 2),
    Math.min(heightPx, Math.ceil(Math.max(...ys)) + 2),
  ];
}

/** Pieces into which each cell of a mesh is cut, in each direction; between their corners the map is straight. */
const PIECES = 12;

function fillMesh(
  map: Extract<MarkedMap, { kind: 'mesh' }>,
  us: Float64Array,
  vs: Float64Array,
  x0: number,
  y0: number,
  w: number,
  h: number,
): void {
  const [nu, nv] = [(map.columns - 1) * PIECES, (map.rows - 1) * PIECES];
  const over = Math.ceil(MARGIN * Math.max(nu, nv) * 0.5);
  const at = (i: number, j: number) => {
    const mm = { x: (i / nu) * map.widthMm, y: (j / nv) * map.heightMm };
    const p = meshToPx(map, mm);
    return { px: p.x - x0, py: p.y - y0, u: mm.x, v: mm.y };
  };
  for (let j = -over; j < nv + over; j += 1)
    for (let i = -over; i < nu + over; i += 1) {
      const [a, b, c, d] = [at(i, j), at(i + 1, j), at(i + 1, j + 1), at(i, j + 1)];
      triangle(a, b, c, us, vs, w, h);
      triangle(a, c, d, us, vs, w, h);
    }
}

type Vertex = { px: number; py: number; u: number; v: number };

/** u and v at the centers of the pixels in a triangle, straight between its corners. */
function triangle(a: Vertex, b: Vertex, c: Vertex, us: Float64Array, vs: Float64Array, w: number, h: number): void {
  const area = (b.px - a.px) * (c.py - a.py) - (c.px - a.px) * (b.py - a.py);
  if (Math.abs(area) < 1e-12) return;
  const [left, right] = [Math.min(a.px, b.px, c.px), Math.max(a.px, b.px, c.px)];
  const [top, bottom] = [Math.min(a.py, b.py, c.py), Math.max(a.py, b.py, c.py)];
  for (let y = Math.max(0, Math.floor(top - 0.5)); y < Math.min(h, bottom + 0.5); y += 1)
    for (let x = Math.max(0, Math.floor(left - 0.5)); x < Math.min(w, right + 0.5); x += 1) {
      const [qx, qy] = [x + 0.5 - a.px, y + 0.5 - a.py];
      const s = (qx * (c.py - a.py) - (c.px - a.px) * qy) / area;
      const t = ((b.px - a.px) * qy - qx * (b.py - a.py)) / area;
      if (s < -1e-9 || t < -1e-9 || s + t > 1 + 1e-9) continue;
      us[y * w + x] = a.u + s * (b.u - a.u) + t * (c.u - a.u);
      vs[y * w + x] = a.v + s * (b.v - a.v) + t * (c.v - a.v);
    }
}

function write(
  map: MarkedMap,
  to: MapPlanes & { coverage: Uint8Array },
  us: Float64Array,
  vs: Float64Array,
  x0: number,
  y0: number,
  w: number,
  h: number,
  widthPx: number,
): void {
  const slope = (values: Float64Array, i: number, x: number, y: number): number => {
    const along = (step: number, less: boolean, more: boolean) => {
      const before = less ? values[i - step]! : NaN;
      const after = more ? values[i + step]! : NaN;
      const here = values[i]!;
      if (!Number.isNaN(before) && !Number.isNaN(after)) return (after - before) / 2;
      return Number.isNaN(after) ? (Number.isNaN(before) ? 0 : here - before) : after - here;
    };
    return Math.hypot(along(1, x > 0, x + 1 < w), along(w, y > 0, y + 1 < h)) || 1e-9;
  };
  const code = (value: number, [from, until]: readonly [number, number]) =>
    Math.round(Math.min(1, Math.max(0, (value - from) / (until - from))) * 65535);
  for (let y = 0; y < h; y += 1)
    for (let x = 0; x < w; x += 1) {
      const i = y * w + x;
      const [u, v] = [us[i]!, vs[i]!];
      if (Number.isNaN(u)) continue;
      const [gu, gv] = [slope(us, i, x, y), slope(vs, i, x, y)];
      const inside = Math.min(u / gu, (map.widthMm - u) / gu, v / gv, (map.heightMm - v) / gv);
      const coverage = Math.round(Math.min(1, Math.max(0, inside + 0.5)) * 255);
      if (coverage === 0) continue;
      const o = (y0 + y) * widthPx + x0 + x;
      to.coverage[o] = coverage;
      to.u[o] = code(u, to.uMm);
      to.v[o] = code(v, to.vMm);
    }
}
