import { type DrawnArea, drawnShot, ellipse, grain, type Piece, viewAround } from '../drawn';
import { ridge, smoothstep } from '../noise';
import type { Passes } from '../passes';

/** A cap from the front, or from its left side. */
export function capShot(size: number, view3: 'front' | 'side'): Promise<Passes> {
  const view = viewAround(size, 0, 4, 300);
  const R = 92;
  const dome = (x: number, y: number) => 84 * Math.sqrt(Math.max(0, 1 - (x / (R + 6)) ** 2 - ((y + 6) / 104) ** 2));
  const seams = (x: number, y: number) =>
    view3 === 'front'
      ? 1 - 0.14 * ridge(x, 0.9) * smoothstep(-40, -70, y) - 0.12 * ridge(Math.abs(x) - 58 - 0.2 * y, 1)
      : 1 - 0.13 * ridge(x + 8 + 0.1 * y, 1) - 0.12 * ridge(x - 62, 1);
  const twill = grain(view.mmPerPx, 0.9, 0.05, 91);
  const pieces: Piece[] = [
    { path: ellipse(0, -95, 7, 4), role: 'fabric', liftMm: 2, rim: { depth: 0.3, widthMm: 2 } },
    {
      path:
        view3 === 'front'
          ? 'M -92 42 C -96 -40 -62 -94 0 -96 C 62 -94 96 -40 92 42 C 50 54 -50 54 -92 42 Z'
          : 'M -90 44 C -98 -34 -60 -92 4 -95 C 66 -92 96 -44 96 40 C 50 50 -40 52 -90 44 Z',
      role: 'fabric',
      height: dome,
      tone: (x, y) => twill(x, y) * seams(x, y),
      liftMm: 9,
      rim: { depth: 0.26, widthMm: 8 },
    },
    {
      path:
        view3 === 'front'
          ? 'M -94 40 C -60 22 60 22 94 40 C 104 62 96 84 84 88 C 40 70 -40 70 -84 88 C -96 84 -104 62 -94 40 Z'
          : 'M -86 40 C -40 48 -30 50 -52 54 C -92 60 -132 72 -142 66 C -146 56 -118 44 -86 40 Z',
      role: 'fabric',
      height: (x, y) => -0.006 * x * x + 0.2 * (y - 40),
      tone: (x, y) => twill(x, y) * (0.92 - 0.06 * Math.sin((y - 0.002 * x * x) * 0.9)),
      liftMm: 6,
      rim: { depth: 0.18, widthMm: 3 },
    },
  ];
  const wrap = (x: number) => R * Math.asin(Math.max(-1, Math.min(1, x / R)));
  const lean = (y: number) => 100 * Math.asin(Math.max(-1, Math.min(1, y / 100)));
  const area: DrawnArea =
    view3 === 'front'
      ? {
          key: 'main.front',
          variant: {},
          on: 1,
          widthMm: 115,
          heightMm: 55,
          at: (x, y) => [57.5 + wrap(x), 27.5 + lean(y + 18)],
        }
      : {
          key: 'main.side',
          variant: {},
          on: 1,
          widthMm: 50,
          heightMm: 40,
          at: (x, y) => [25 + wrap(x - 22), 20 + lean(y - 8)],
        };
  return drawnShot(view, pieces, [area]);
}
