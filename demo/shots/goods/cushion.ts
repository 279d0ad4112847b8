import { type DrawnArea, drawnShot, grain, looking, type Near, type Piece, polygon, type Variant } from '../drawn';
import { noise, ridge, smoothstep } from '../noise';
import type { Passes } from '../passes';

/** A cushion of a side in mm: full, its sides drawn in between the corners. */
export function cushionShot(size: number, key: string, sideMm: number, variant: Variant, near?: Near): Promise<Passes> {
  const half = sideMm / 2;
  const sag = 15;
  const reach = (t: number) => half - sag * (1 - Math.min(1, Math.abs(t) / half) ** 2);
  const points: [number, number][] = [];
  const n = 40;
  for (const [dx, dy] of [
    [1, 0],
    [0, 1],
    [-1, 0],
    [0, -1],
  ] as const)
    for (let i = 0; i < n; i += 1) {
      const t = -half + (sideMm * i) / n;
      if (dx === 1) points.push([t, -reach(t)]);
      else if (dy === 1) points.push([reach(t), t]);
      else if (dx === -1) points.push([-t, reach(t)]);
      else points.push([-reach(t), -t]);
    }
  const view = looking(size, near, 0, 6, sideMm * 1.32);
  const z = (x: number, y: number) => {
    const [u, v] = [Math.min(1, Math.abs(x) / half), Math.min(1, Math.abs(y) / half)];
    const folds = [1, -1].flatMap((a) =>
      [1, -1].map((b) => {
        const [cx, cy] = [half - a * x, half - b * y];
        return 2.6 * ridge(cx - cy + 7 * noise(x / 30, y / 30, 42), 10) * smoothstep(150, 20, cx + cy);
      }),
    );
    return (
      78 * Math.sqrt(Math.max(0, 1 - u ** 2.6)) * Math.sqrt(Math.max(0, 1 - v ** 2.6)) * 0.8 +
      folds.reduce((s, f) => s + f, 0) +
      1.2 * noise(x / 50, y / 60, 41)
    );
  };
  const cloth = grain(view.mmPerPx, 1, 0.035, 43);
  const pieces: Piece[] = [
    { path: polygon(points), role: 'fabric', height: z, tone: cloth, liftMm: 16, rim: { depth: 0.22, widthMm: 10 } },
  ];
  const area: DrawnArea = {
    key,
    variant,
    on: 0,
    widthMm: sideMm,
    heightMm: sideMm,
    at: (x, y) => [half + (x * half) / reach(y), half + (y * half) / reach(x)],
  };
  return drawnShot(view, pieces, [area]);
}
