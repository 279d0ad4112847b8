import { drawnShot, flatArea, type Piece, polygon, type Variant, viewAround } from '../drawn';
import { noise } from '../noise';
import type { Passes } from '../passes';

/** A pennant of plywood; its outline in mm. */
export function pennantShot(
  size: number,
  widthMm: number,
  heightMm: number,
  notchMm: number,
  variant: Variant,
): Promise<Passes> {
  const outline = (dx: number, dy: number) =>
    polygon(
      [
        [0, 0],
        [widthMm, heightMm / 2],
        [0, heightMm],
        [notchMm, heightMm / 2],
      ].map(([x, y]) => [x! + dx, y! + dy] as const),
    );
  const view = viewAround(size, widthMm * 0.46, heightMm / 2, widthMm * 1.3);
  const wood = (x: number, y: number) => 1 + 0.05 * noise(x / 90, y / 5, 51) + 0.03 * noise(x / 30, y / 1.6, 52);
  const pieces: Piece[] = [
    {
      path: outline(2.4, 5),
      role: 'fabric',
      tone: (x, y) => 0.62 + 0.12 * Math.sin(y * 3) * 0.3 + 0.02 * noise(x, y, 53),
      liftMm: 9,
    },
    { path: outline(0, 0), role: 'fabric', tone: wood, liftMm: 0, rim: { depth: 0.06, widthMm: 1.2 } },
  ];
  return drawnShot(view, pieces, [
    { ...flatArea('main.face', variant, 1, 0, 0, widthMm, heightMm), path: outline(0, 0) },
  ]);
}
