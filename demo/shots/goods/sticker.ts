import { drawnShot, flatArea, looking, type Near, type Piece, rect, type Variant } from '../drawn';
import { noise } from '../noise';
import type { Passes } from '../passes';

/** A sheet of stickers on a table, a corner of it bent up. */
export function stickerShot(
  size: number,
  widthMm: number,
  heightMm: number,
  variant: Variant,
  near?: Near,
): Promise<Passes> {
  const view = looking(size, near, widthMm / 2, heightMm / 2, heightMm * 1.3);
  const bend = (x: number, y: number) => Math.max(0, x / widthMm + y / heightMm - 1.62);
  const pieces: Piece[] = [
    {
      path: rect(0, 0, widthMm, heightMm, 2),
      role: 'fabric',
      height: (x, y) => 26 * bend(x, y) ** 1.6,
      tone: (x, y) => 1 + 0.003 * noise(x / 30, y / 40, 61),
      liftMm: 1.6,
    },
  ];
  return drawnShot(view, pieces, [flatArea('main.sheet', variant, 0, 0, 0, widthMm, heightMm)], {
    wall: [0.72, 0.69, 0.63],
  });
}
