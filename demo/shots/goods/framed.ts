import { drawnShot, flatArea, looking, type Near, type Piece, rect, type Variant } from '../drawn';
import { noise, ridge } from '../noise';
import type { Passes } from '../passes';

/** A print in a frame of wood, mitered, on a wall. */
export function framedShot(
  size: number,
  sheet: { readonly widthMm: number; readonly heightMm: number },
  variant: Variant,
  near?: Near,
): Promise<Passes> {
  const { widthMm: w, heightMm: h } = sheet;
  const f = 20;
  const view = looking(size, near, w / 2, h / 2, h * 1.32);
  const side = (x: number, y: number) => {
    const d = [x + f, w + f - x, y + f, h + f - y];
    return d.indexOf(Math.min(...d));
  };
  const lights = [1.06, 0.86, 1.12, 0.8];
  const pieces: Piece[] = [
    {
      path: rect(-f, -f, w + 2 * f, h + 2 * f, 1),
      role: 'fabric',
      tone: (x, y) => {
        const s = side(x, y);
        const d = Math.min(x + f, w + f - x, y + f, h + f - y);
        const along = s < 2 ? y : x;
        return (
          lights[s]! *
          (1 + 0.05 * noise(along / 60, d / 1.6, 71 + s)) *
          (1 - 0.16 * ridge(d - f + 2, 1.6) - 0.1 * ridge(d, 1))
        );
      },
      liftMm: 14,
    },
    {
      path: rect(0, 0, w, h),
      role: 'rest',
      color: [0.9, 0.9, 0.89],
      tone: (x, y) => 1 - 0.3 * Math.exp(-Math.min(x, 1.4 * y) / 5),
      liftMm: 0,
    },
  ];
  return drawnShot(view, pieces, [flatArea('main.sheet', variant, 1, 0, 0, w, h)]);
}
