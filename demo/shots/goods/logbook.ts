import { flatArea, type DrawnArea, drawnShot, type Piece, polygon, rect, viewAround } from '../drawn';
import { noise, ridge } from '../noise';
import type { Passes } from '../passes';

/** A notebook on a table, straight from above, or standing at an angle: then its cover is seen in perspective. */
export function logbookShot(size: number, key: string, angle: boolean): Promise<Passes> {
  const [w, h] = [148, 210];
  const paper = [0.86, 0.85, 0.82] as const;
  if (!angle) {
    const view = viewAround(size, w / 2, h / 2 + 8, 300);
    const pieces: Piece[] = [
      {
        path: `M ${w * 0.62} ${h - 4} L ${w * 0.62 + 7} ${h - 4} L ${w * 0.62 + 9} ${h + 26} L ${w * 0.62 + 5} ${h + 22} L ${w * 0.62 + 1} ${h + 27} Z`,
        role: 'fabric',
        tone: (x) => 0.9 + 0.08 * Math.sin(x * 4),
        liftMm: 1,
      },
      {
        path: rect(2, 2, w + 1.5, h + 1.5, 3),
        role: 'rest',
        color: [0.8, 0.77, 0.7],
        tone: (x, y) => 0.9 + 0.06 * Math.sin((x + y) * 5),
        liftMm: 7,
      },
      {
        path: rect(0, 0, w, h, 3),
        role: 'rest',
        color: paper,
        tone: (x, y) => (1 - 0.22 * ridge(x - 9, 1.6)) * (1 + 0.006 * noise(x / 3, y / 3, 81)),
        liftMm: 1.4,
      },
    ];
    return drawnShot(view, pieces, [{ ...flatArea(key, {}, 2, 0, 0, w, h), path: rect(0, 0, w, h, 3) }]);
  }
  // Corners of the cover in mm of the picture's plane; the block of pages is seen at its right.
  const corners = [
    { x: 8, y: 14 },
    { x: 142, y: -6 },
    { x: 142, y: 206 },
    { x: 8, y: 222 },
  ] as const;
  const view = viewAround(size, 84, 108, 300);
  const quad = (points: readonly { x: number; y: number }[]) => polygon(points.map(({ x, y }) => [x, y] as const));
  const pieces: Piece[] = [
    {
      path: quad([
        { x: 120, y: 204 },
        { x: 128, y: 203 },
        { x: 131, y: 232 },
        { x: 126, y: 228 },
        { x: 121, y: 234 },
      ]),
      role: 'fabric',
      tone: () => 0.9,
      liftMm: 2,
    },
    {
      path: quad([corners[1], { x: 164, y: 4 }, { x: 164, y: 208 }, corners[2]]),
      role: 'rest',
      color: [0.78, 0.75, 0.68],
      tone: (x) => 0.74 + 0.1 * Math.sin(x * 6),
      liftMm: 10,
    },
    {
      path: quad(corners),
      role: 'rest',
      color: paper,
      tone: (x, y) => (1 - 0.14 * ridge(x - 15, 1.8)) * (1 + 0.006 * noise(x / 3, y / 3, 82)),
      liftMm: 2,
    },
  ];
  const area: DrawnArea = {
    key,
    variant: {},
    on: 2,
    widthMm: w,
    heightMm: h,
    at: (x, y) => [x, y],
    map: (v) => ({
      kind: 'homography',
      cornersPx: corners.map(({ x, y }) => ({ x: (x - v.leftMm) / v.mmPerPx, y: (y - v.topMm) / v.mmPerPx })) as never,
      widthMm: w,
      heightMm: h,
    }),
  };
  return drawnShot(view, pieces, [area]);
}
