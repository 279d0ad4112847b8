import { drawnShot, flatArea, grain, looking, type Near, type Piece, rect } from '../drawn';
import { noise, ridge, smoothstep } from '../noise';
import type { Passes } from '../passes';

/** A towel that hangs over a rail. */
export function towelShot(size: number, near?: Near): Promise<Passes> {
  const view = looking(size, near, 0, 320, 840);
  const z = (x: number, y: number) =>
    7 * Math.sin((x + 24 * noise(x / 200, y / 260, 31)) / 46) * smoothstep(-10, 300, y) +
    3 * Math.sin(x / 21 + y / 260) * smoothstep(40, 500, y) +
    1.1 * noise(x / 34, y / 60, 32);
  const linen = grain(view.mmPerPx, 1.2, 0.05, 33);
  const pieces: Piece[] = [
    {
      path: rect(-400, -24, 800, 20, 10),
      role: 'rest',
      color: [0.5, 0.36, 0.22],
      liftMm: 10,
      tone: (_, y) => 1.1 - 0.03 * Math.abs(y + 18),
      rim: { depth: 0.4, widthMm: 6 },
    },
    {
      path: 'M -230 -26 C -80 -30 80 -30 230 -26 C 232 180 234 420 230 634 C 110 642 -110 642 -230 634 C -234 420 -232 180 -230 -26 Z',
      role: 'fabric',
      height: z,
      tone: (x, y) => linen(x, y) * (1 - 0.28 * ridge(y + 26, 9)) * (1 - 0.1 * ridge(y - 622, 1.2)),
      liftMm: 9,
      rim: { depth: 0.12, widthMm: 6 },
    },
  ];
  return drawnShot(view, pieces, [flatArea('main.face', {}, 1, -230, -26, 460, 660)]);
}
