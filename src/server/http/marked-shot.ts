import { invalid } from '@/core/errors';
import type { Point } from '@/core/geometry/matrix';
import type { Quad } from '@/core/shot/homography';
import type { Marks } from '@/core/shot/marks';
import type { MarksDto, OwnShotDto } from './dto/pictures';
import type { MarkedShot } from '../shots/own-shots';

/** Marks as a request gives them. `points` are the corners, or of a cylinder left top, left bottom, right top, right bottom. */
function marksOf(dto: MarksDto): Marks {
  const points: readonly Point[] = dto.points ?? [];
  const need = (count: number) => {
    if (points.length !== count)
      throw invalid('marks-missing', `These marks need ${count} points, and ${points.length} came. Set every mark.`);
  };
  switch (dto.kind) {
    case 'corners':
      need(4);
      return { kind: 'corners', corners: points as unknown as Quad };
    case 'cylinder':
      need(4);
      return {
        kind: 'cylinder',
        left: [points[0]!, points[1]!],
        right: [points[2]!, points[3]!],
        bendTopPx: dto.bendTopPx ?? 0,
        bendBottomPx: dto.bendBottomPx ?? 0,
        spanDeg: dto.spanDeg ?? 180,
        diameterMm: dto.diameterMm ?? NaN,
        middleMm: dto.middleMm ?? NaN,
      };
    case 'mesh':
      return { kind: 'mesh', columns: dto.columns ?? 0, rows: dto.rows ?? 0, points };
  }
}

/** Points of marks in the order in which the API gives and takes them. */
export function pointsOf(marks: Marks): readonly Point[] {
  switch (marks.kind) {
    case 'corners':
      return marks.corners;
    case 'cylinder':
      return [...marks.left, ...marks.right];
    case 'mesh':
      return marks.points;
  }
}

export const markedShotOf = (dto: OwnShotDto): MarkedShot => ({
  photographId: dto.photographId,
  name: dto.name.trim() || 'My photograph',
  areaKey: dto.areaKey,
  variant: dto.variant ?? {},
  marks: marksOf(dto.marks),
  part: dto.part
    ? {
        picks: dto.part.picks.map(({ x, y, tolerance }) => ({ x, y, tolerance })),
        strokes: dto.part.strokes,
      }
    : null,
});

/** An own shot as the API tells it: as it takes it, so that it can be sent back changed. */
export const ownShotView = ({ marks, ...rest }: MarkedShot) => {
  const numbers =
    marks.kind === 'cylinder'
      ? {
          bendTopPx: marks.bendTopPx,
          bendBottomPx: marks.bendBottomPx,
          spanDeg: marks.spanDeg,
          diameterMm: marks.diameterMm,
          middleMm: marks.middleMm,
        }
      : marks.kind === 'mesh'
        ? { columns: marks.columns, rows: marks.rows }
        : {};
  return { ...rest, marks: { kind: marks.kind, points: pointsOf(marks), ...numbers } };
};
