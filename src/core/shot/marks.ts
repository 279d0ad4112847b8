import { invalid } from '../errors';
import type { Point } from '../geometry/matrix';
import type { MarkedMap } from './area-map';
import type { Quad } from './homography';

/** What a seller marks on a photograph: where the print area is. Places in pixels of the photograph. */
export type Marks =
  | { readonly kind: 'corners'; readonly corners: Quad }
  | {
      readonly kind: 'cylinder';
      /** Top and bottom end of each edge of the body's part that shows the print. */
      readonly left: readonly [Point, Point];
      readonly right: readonly [Point, Point];
      readonly bendTopPx: number;
      readonly bendBottomPx: number;
      /** How far the body can be seen around between the edges: 180 where they are its outlines. */
      readonly spanDeg: number;
      /** Across the body, mm. */
      readonly diameterMm: number;
      /** Place on the print area that is seen in the middle between the edges, mm. */
      readonly middleMm: number;
    }
  | { readonly kind: 'mesh'; readonly columns: number; readonly rows: number; readonly points: readonly Point[] };

/** Shortest side of a marked area, px. */
export const MIN_SIDE_PX = 24;
export const MAX_MESH = 9;

const bad = (code: string, says: string) => invalid(`marks-${code}`, says);

const turn = (a: Point, b: Point, c: Point): number => (b.x - a.x) * (c.y - b.y) - (b.y - a.y) * (c.x - b.x);

/** Throws for four corners (clockwise) that cross, bend inward, lie beside the picture or leave no room. */
function checkQuad(corners: readonly Point[], widthPx: number, heightPx: number, leastPx: number): void {
  if (corners.some((p) => !Number.isFinite(p.x) || !Number.isFinite(p.y)))
    throw bad('missing', 'A mark is missing. Set every mark on the photograph.');
  if (corners.some(({ x, y }) => x < 0 || y < 0 || x > widthPx || y > heightPx))
    throw bad('outside', 'A mark lies outside of the photograph. Bring all marks onto the picture.');
  const sides = corners.map((p, i) => {
    const q = corners[(i + 1) % 4]!;
    return Math.hypot(q.x - p.x, q.y - p.y);
  });
  if (Math.min(...sides) < leastPx)
    throw bad(
      'small',
      `The marked area has a side of ${Math.round(Math.min(...sides))} px; nothing could be seen of a print there. Mark at least ${leastPx} px.`,
    );
  const turns = corners.map((p, i) => turn(p, corners[(i + 1) % 4]!, corners[(i + 2) % 4]!));
  if (turns.every((t) => t < 0))
    throw bad(
      'mirrored',
      'The marks run the wrong way around: the area would be seen in a mirror. Swap left and right.',
    );
  if (!turns.every((t) => t > 0))
    throw bad(
      'crossed',
      'The edges of the marked area cross or bend inward. Set the corners around it: top left, top right, bottom right, bottom left.',
    );
}

/** The map that marks mean, for an area of this size (trim). Throws `marks-…` with the reason when they make no sense. */
export function mapOfMarks(
  marks: Marks,
  picture: { readonly widthPx: number; readonly heightPx: number },
  area: { readonly widthMm: number; readonly heightMm: number },
): MarkedMap {
  const { widthPx, heightPx } = picture;
  const { widthMm, heightMm } = area;
  switch (marks.kind) {
    case 'corners':
      checkQuad(marks.corners, widthPx, heightPx, MIN_SIDE_PX);
      return { kind: 'homography', cornersPx: marks.corners, widthMm, heightMm };
    case 'cylinder': {
      const { left, right, bendTopPx, bendBottomPx, spanDeg, diameterMm, middleMm } = marks;
      checkQuad([left[0], right[0], right[1], left[1]], widthPx, heightPx, MIN_SIDE_PX);
      const height = Math.min(
        Math.hypot(left[1].x - left[0].x, left[1].y - left[0].y),
        Math.hypot(right[1].x - right[0].x, right[1].y - right[0].y),
      );
      if (!(spanDeg >= 10 && spanDeg <= 180))
        throw bad(
          'span',
          'Between the edges of a body 10 to 180 degrees of it are seen; 180 where they are its outlines.',
        );
      if (!(diameterMm > 5 && diameterMm < 2000))
        throw bad('diameter', 'The body must be 5 to 2000 mm across. Measure it, or take it from the blank’s page.');
      if (
        Math.abs(bendTopPx) > height ||
        Math.abs(bendBottomPx) > height ||
        height + bendBottomPx - bendTopPx < MIN_SIDE_PX
      )
        throw bad('bend', 'Top and bottom of the area meet in the middle. Make the bend smaller.');
      if (!(middleMm >= 0 && middleMm <= widthMm))
        throw bad('middle', `The middle of the picture must show a place on the area: 0 to ${widthMm} mm.`);
      return {
        kind: 'cylinder',
        leftPx: left,
        rightPx: right,
        bendTopPx,
        bendBottomPx,
        halfDeg: spanDeg / 2,
        radiusMm: diameterMm / 2,
        middleMm,
        topMm: 0,
        bottomMm: heightMm,
        widthMm,
        heightMm,
      };
    }
    case 'mesh': {
      const { columns, rows, points } = marks;
      if (!(columns >= 2 && rows >= 2 && columns <= MAX_MESH && rows <= MAX_MESH) || points.length !== columns * rows)
        throw bad('mesh', `A mesh has 2 to ${MAX_MESH} points in each direction, all of them set.`);
      for (let j = 0; j + 1 < rows; j += 1)
        for (let i = 0; i + 1 < columns; i += 1) {
          const at = j * columns + i;
          const cell = [points[at]!, points[at + 1]!, points[at + columns + 1]!, points[at + columns]!];
          checkQuad(cell, widthPx, heightPx, MIN_SIDE_PX / 3);
        }
      return { kind: 'mesh', columns, rows, pointsPx: points, widthMm, heightMm };
    }
  }
}

/** The same marks on the photograph at another size. */
export function scaleMarks(marks: Marks, by: number): Marks {
  const at = ({ x, y }: Point): Point => ({ x: x * by, y: y * by });
  switch (marks.kind) {
    case 'corners':
      return { ...marks, corners: marks.corners.map(at) as unknown as Quad };
    case 'cylinder':
      return {
        ...marks,
        left: [at(marks.left[0]), at(marks.left[1])],
        right: [at(marks.right[0]), at(marks.right[1])],
        bendTopPx: marks.bendTopPx * by,
        bendBottomPx: marks.bendBottomPx * by,
      };
    case 'mesh':
      return { ...marks, points: marks.points.map(at) };
  }
}
