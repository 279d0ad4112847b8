import { drawnShot, ellipse, flatArea, grain, looking, type Near, type Piece } from '../drawn';
import { noise, ridge, smoothstep } from '../noise';
import type { Passes } from '../passes';

/** A tote of canvas, hanging from a peg: its body, and what of a side is printed. */
export function toteShot(
  size: number,
  side: { readonly key: string; readonly widthMm: number; readonly heightMm: number; readonly fromTopMm: number },
  near?: Near,
): Promise<Passes> {
  const view = looking(size, near, 0, 130, 800);
  const z = (x: number, y: number) =>
    16 * Math.cos((Math.min(1, Math.abs(x) / 210) * Math.PI) / 2) +
    2.6 * smoothstep(120, 420, y) * ridge(x + 92 - 0.12 * y - 18 * noise(x / 90, y / 120, 21), 26) +
    2.2 * smoothstep(60, 400, y) * ridge(x - 76 + 0.1 * y, 30) +
    1.4 * noise(x / 60, y / 80, 22) +
    0.5 * noise(x / 22, y / 30, 23);
  const canvas = grain(view.mmPerPx, 1.1, 0.05, 24);
  const strap = (side2: 1 | -1) =>
    `M ${side2 * 92} 26 C ${side2 * 88} -120 ${side2 * 40} -218 0 -232 L 0 -206 C ${side2 * 22} -196 ${side2 * 64} -110 ${side2 * 66} 26 Z`;
  const pieces: Piece[] = [
    ...([1, -1] as const).map((s): Piece => ({
      path: strap(s),
      role: 'fabric',
      tone: canvas,
      liftMm: 4,
      rim: { depth: 0.2, widthMm: 3 },
    })),
    {
      path: ellipse(0, -222, 9, 9),
      role: 'front',
      color: [0.35, 0.26, 0.18],
      liftMm: 6,
      rim: { depth: 0.4, widthMm: 4 },
    },
    {
      path: 'M -190 0 C -60 3 60 3 190 0 C 192 140 191 280 188 416 C 120 424 -120 424 -188 416 C -191 280 -192 140 -190 0 Z',
      role: 'fabric',
      height: z,
      tone: (x, y) => canvas(x, y) * (1 - 0.13 * ridge(y - 26, 1.2) - 0.1 * ridge(Math.abs(x) - 182, 1.4)),
      liftMm: 8,
      rim: { depth: 0.16, widthMm: 7 },
    },
  ];
  const left = -side.widthMm / 2;
  return drawnShot(view, pieces, [flatArea(side.key, {}, 3, left, side.fromTopMm, side.widthMm, side.heightMm)]);
}
