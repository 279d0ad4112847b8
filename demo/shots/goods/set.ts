import { type DrawnArea, drawnShot, ellipse, grain, type Piece, polygon, rect, viewAround } from '../drawn';
import { noise, ridge } from '../noise';
import type { Passes } from '../passes';

/** A gift set laid out: towel, sheet of stickers and cup, each with its print. */
export function setShot(size: number): Promise<Passes> {
  const view = viewAround(size, -10, -10, 520);
  const linen = grain(view.mmPerPx, 1.2, 0.045, 95);
  // The towel lies folded in half: its upper part is seen, at about half of its size.
  const [tl, tt, ts] = [-236, -196, 0.62];
  const [sl, st, turn] = [96, -40, (9 * Math.PI) / 180];
  const spin = (x: number, y: number): [number, number] => [
    (x - sl) * Math.cos(turn) + (y - st) * Math.sin(turn),
    -(x - sl) * Math.sin(turn) + (y - st) * Math.cos(turn),
  ];
  const unspin = (u: number, v: number) =>
    [sl + u * Math.cos(turn) - v * Math.sin(turn), st + u * Math.sin(turn) + v * Math.cos(turn)] as const;
  const sheet = polygon([unspin(0, 0), unspin(105, 0), unspin(105, 148), unspin(0, 148)]);
  const [cx, top, bottom, r] = [-40, 52, 132, 41];
  const side = (x: number) => 7 * Math.sqrt(Math.max(0, 1 - ((x - cx) / r) ** 2));
  const pieces: Piece[] = [
    {
      path: rect(tl, tt, 460 * ts, 660 * ts * 0.6, 5),
      role: 'rest',
      color: [0.9, 0.89, 0.86],
      height: (x, y) => 3 * Math.sin(x / 30 + 2 * noise(x / 90, y / 90, 96)) + 2 * noise(x / 30, y / 40, 97),
      tone: (x, y) => linen(x, y) * (1 - 0.12 * ridge(y - tt - 660 * ts * 0.6 + 7, 1.2)),
      liftMm: 8,
      rim: { depth: 0.12, widthMm: 5 },
    },
    { path: sheet, role: 'rest', color: [0.9, 0.9, 0.9], liftMm: 1.6 },
    {
      path: `M ${cx + r - 4} ${top + 14} C ${cx + r + 40} ${top + 10} ${cx + r + 40} ${bottom - 8} ${cx + r - 4} ${bottom - 16} L ${cx + r - 4} ${bottom - 27} C ${cx + r + 25} ${bottom - 22} ${cx + r + 25} ${top + 24} ${cx + r - 4} ${top + 26} Z`,
      role: 'rest',
      color: [0.86, 0.86, 0.84],
      liftMm: 4,
      rim: { depth: 0.35, widthMm: 4 },
    },
    {
      path: `M ${cx - r} ${top} L ${cx - r} ${bottom} A ${r} 8 0 0 0 ${cx + r} ${bottom} L ${cx + r} ${top} Z`,
      role: 'rest',
      color: [0.88, 0.88, 0.86],
      height: (x) => Math.sqrt(Math.max(1, (r + 3) ** 2 - (x - cx) ** 2)),
      liftMm: 9,
    },
    { path: ellipse(cx, top, r + 1.5, 8.5), role: 'fabric', tone: () => 0.95, liftMm: 1 },
    {
      path: ellipse(cx, top + 0.6, r - 3, 6.2),
      role: 'rest',
      color: [0.6, 0.6, 0.58],
      tone: (_, y) => 1 - 0.05 * (top - y),
      liftMm: 0,
    },
  ];
  const areas: DrawnArea[] = [
    {
      key: 'cup.wrap',
      variant: {},
      on: 3,
      widthMm: 190,
      heightMm: 70,
      at: (x, y) => [95 + r * Math.asin(Math.max(-1, Math.min(1, (x - cx) / r))), y - side(x) - top - 4],
    },
    {
      key: 'towel.face',
      variant: {},
      on: 0,
      widthMm: 460,
      heightMm: 660,
      at: (x, y) => [(x - tl) / ts, (y - tt) / ts],
    },
    { key: 'stickers.sheet', variant: {}, on: 1, widthMm: 105, heightMm: 148, at: spin },
  ];
  return drawnShot(view, pieces, areas, { wall: [0.66, 0.55, 0.43] });
}
