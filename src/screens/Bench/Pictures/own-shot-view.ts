import type { MarksKind } from '@/bench/marking';
import type { Marks } from '@/core/shot/marks';
import type { Part } from '@/core/shot/part';
import { ownEntry } from '@/core/own-entry';

/** A shot as it is told by `GET /shots/ID`. */
export interface OwnShotView {
  readonly id: string;
  readonly photographId: string;
  readonly name: string;
  readonly areaKey: string;
  readonly variant: { readonly [code: string]: string };
  readonly marks: { readonly kind: MarksKind; readonly points: readonly { x: number; y: number }[] } & Record<
    string,
    unknown
  >;
  readonly part: Part | null;
}

/** Marks as they were saved. */
export function marksOfView({ marks }: OwnShotView): Marks {
  const { kind, points } = marks;
  const number = (name: string) => Number(ownEntry(marks, name));
  if (kind === 'corners') return { kind, corners: points as unknown as Extract<Marks, { kind: 'corners' }>['corners'] };
  if (kind === 'mesh') return { kind, columns: number('columns'), rows: number('rows'), points };
  return {
    kind,
    left: [points[0]!, points[1]!],
    right: [points[2]!, points[3]!],
    bendTopPx: number('bendTopPx'),
    bendBottomPx: number('bendBottomPx'),
    spanDeg: number('spanDeg'),
    diameterMm: number('diameterMm'),
    middleMm: number('middleMm'),
  };
}

/** Marks as they are sent. */
export const sentMarks = (marks: Marks) => {
  if (marks.kind === 'corners') return { kind: marks.kind, points: marks.corners };
  if (marks.kind === 'mesh') return marks;
  const { left, right, ...rest } = marks;
  return { ...rest, points: [...left, ...right] };
};
