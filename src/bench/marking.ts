import type { Blank } from '@/core/catalog/blank';
import { isTypicaError } from '@/core/errors';
import type { Point } from '@/core/geometry/matrix';
import { placeInPicture, type MarkedMap } from '@/core/shot/area-map';
import { mapOfMarks, type Marks } from '@/core/shot/marks';
import { ownEntry } from '@/core/own-entry';

export type MarksKind = Marks['kind'];

/** A photograph or an area, with its sides. */
export interface Sides {
  readonly widthPx: number;
  readonly heightPx: number;
}

/** Marks to begin with: in the middle of the photograph, in the shape of the area. */
export function firstMarks(
  kind: MarksKind,
  { widthPx, heightPx }: Sides,
  area: { readonly widthMm: number; readonly heightMm: number },
): Marks {
  const scale = 0.4 * Math.min(widthPx / area.widthMm, heightPx / area.heightMm);
  const [w, h] = [area.widthMm * scale, area.heightMm * scale];
  const [x0, y0, x1, y1] = [(widthPx - w) / 2, (heightPx - h) / 2, (widthPx + w) / 2, (heightPx + h) / 2];
  const at = (x: number, y: number): Point => ({ x: Math.round(x), y: Math.round(y) });
  switch (kind) {
    case 'corners':
      return { kind, corners: [at(x0, y0), at(x1, y0), at(x1, y1), at(x0, y1)] };
    case 'cylinder':
      return {
        kind,
        left: [at(x0, y0), at(x0, y1)],
        right: [at(x1, y0), at(x1, y1)],
        bendTopPx: Math.round(h * 0.06),
        bendBottomPx: Math.round(h * 0.1),
        spanDeg: 180,
        diameterMm: 82,
        middleMm: area.widthMm / 2,
      };
    case 'mesh':
      return { kind, ...gridOf(4, 4, (s, t) => at(x0 + s * w, y0 + t * h)) };
  }
}

function gridOf(columns: number, rows: number, place: (s: number, t: number) => Point) {
  const points = Array.from({ length: columns * rows }, (_, i) =>
    place((i % columns) / (columns - 1), Math.floor(i / columns) / (rows - 1)),
  );
  return { columns, rows, points };
}

/** Handles of marks, in the order in which `withHandle` counts them. The last two of a cylinder are its bends. */
export function handlesOf(marks: Marks): { readonly name: string; readonly at: Point }[] {
  const names = ['top left', 'top right', 'bottom right', 'bottom left'];
  switch (marks.kind) {
    case 'corners':
      return marks.corners.map((at, i) => ({ name: names[i]!, at }));
    case 'cylinder': {
      const [[tl, bl], [tr, br]] = [marks.left, marks.right];
      const bend = (a: Point, b: Point, by: number): Point => ({ x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 + by });
      return [
        { name: 'left edge, top', at: tl },
        { name: 'left edge, bottom', at: bl },
        { name: 'right edge, top', at: tr },
        { name: 'right edge, bottom', at: br },
        { name: 'bend of the top', at: bend(tl, tr, marks.bendTopPx) },
        { name: 'bend of the bottom', at: bend(bl, br, marks.bendBottomPx) },
      ];
    }
    case 'mesh':
      return marks.points.map((at, i) => ({
        name: `point ${Math.floor(i / marks.columns) + 1}.${(i % marks.columns) + 1}`,
        at,
      }));
  }
}

/** The marks with one handle somewhere else. Places are rounded to a tenth of a pixel. */
export function withHandle(marks: Marks, index: number, to: Point): Marks {
  const at = { x: Math.round(to.x * 10) / 10, y: Math.round(to.y * 10) / 10 };
  const put = <T>(list: readonly T[], i: number, value: T): T[] => list.map((old, k) => (k === i ? value : old));
  switch (marks.kind) {
    case 'corners':
      return { ...marks, corners: put(marks.corners, index, at) as unknown as typeof marks.corners };
    case 'cylinder': {
      const [[tl, bl], [tr, br]] = [marks.left, marks.right];
      if (index === 0) return { ...marks, left: [at, bl] };
      if (index === 1) return { ...marks, left: [tl, at] };
      if (index === 2) return { ...marks, right: [at, br] };
      if (index === 3) return { ...marks, right: [tr, at] };
      if (index === 4) return { ...marks, bendTopPx: at.y - (tl.y + tr.y) / 2 };
      return { ...marks, bendBottomPx: at.y - (bl.y + br.y) / 2 };
    }
    case 'mesh':
      return { ...marks, points: put(marks.points, index, at) };
  }
}

/** The mesh with other numbers of points; it keeps the surface as nearly as it can. */
export function withMeshSize(marks: Extract<Marks, { kind: 'mesh' }>, columns: number, rows: number): Marks {
  const at = (i: number, j: number) => marks.points[j * marks.columns + i]!;
  return {
    kind: 'mesh',
    ...gridOf(columns, rows, (s, t) => {
      const [x, y] = [s * (marks.columns - 1), t * (marks.rows - 1)];
      const [i, j] = [Math.min(marks.columns - 2, Math.floor(x)), Math.min(marks.rows - 2, Math.floor(y))];
      const [fx, fy] = [x - i, y - j];
      const mix = (a: Point, b: Point, f: number): Point => ({ x: a.x + (b.x - a.x) * f, y: a.y + (b.y - a.y) * f });
      return mix(mix(at(i, j), at(i + 1, j), fx), mix(at(i, j + 1), at(i + 1, j + 1), fx), fy);
    }),
  };
}

/** What marks mean: the map, or the reason why they mean nothing. */
export function readMarks(
  marks: Marks,
  photo: Sides,
  area: { readonly widthMm: number; readonly heightMm: number },
): { readonly map: MarkedMap | null; readonly problem: string | null } {
  try {
    return { map: mapOfMarks(marks, photo, area), problem: null };
  } catch (error) {
    if (!isTypicaError(error)) throw error;
    return { map: null, problem: error.message };
  }
}

/** Lines of a grid over the area as they are seen in the picture, to tell whether the marks fit. */
export function gridLines(map: MarkedMap, lines = 6, steps = 24): Point[][] {
  const seen = (mm: Point) =>
    map.kind !== 'cylinder' || Math.abs(mm.x - map.middleMm) <= (map.radiusMm * map.halfDeg * Math.PI) / 180 + 0.01;
  const line = (place: (t: number) => Point) =>
    Array.from({ length: steps + 1 }, (_, i) => place(i / steps))
      .filter(seen)
      .map((mm) => placeInPicture(map, mm));
  return Array.from({ length: lines + 1 }, (_, i) => i / lines)
    .flatMap((s) => [
      line((t) => ({ x: s * map.widthMm, y: t * map.heightMm })),
      line((t) => ({ x: t * map.widthMm, y: s * map.heightMm })),
    ])
    .filter((points) => points.length > 1);
}

/** Areas of a blank in each of their shapes: what a photograph can show. */
export function shapesOf(blank: Blank) {
  return blank.areas.flatMap((area) => {
    const seen = new Set<string>();
    return area.geometries.flatMap(({ geometryId, applies }) => {
      if (seen.has(geometryId)) return [];
      seen.add(geometryId);
      const geometry = ownEntry(blank.geometries, geometryId)!;
      const named = Object.entries(applies).map(([code, values]) => [code, values[0]!] as const);
      // A variant in this very shape: what the filters before it do not take.
      const variant =
        blank.variants.find(
          (one) => area.geometries.find((g) => holds(g.applies, one.values))?.geometryId === geometryId,
        )?.values ?? {};
      const options = new Set(area.geometries.flatMap((g) => Object.keys(g.applies)));
      return [
        {
          key: `${area.key}/${geometryId}`,
          area,
          geometry,
          variant: Object.fromEntries(Object.entries(variant).filter(([code]) => options.has(code))),
          several: area.geometries.length > 1 || named.length > 0,
        },
      ];
    });
  });
}

const holds = (filter: { readonly [code: string]: readonly string[] }, values: { readonly [code: string]: string }) =>
  Object.entries(filter).every(([code, allowed]) => allowed.includes(ownEntry(values, code) ?? ''));
