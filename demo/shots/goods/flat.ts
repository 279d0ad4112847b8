import { drawnShot, ellipse, grain, polygon, rect, viewAround, type DrawnArea, type Piece, type View } from '../drawn';
import { noise, ridge, smoothstep } from '../noise';
import type { Passes } from '../passes';

type Near = { readonly x: number; readonly y: number; readonly sideMm: number };
type Variant = Record<string, string>;
const looking = (size: number, near: Near | undefined, x: number, y: number, sideMm: number): View =>
  near ? viewAround(size, near.x, near.y, near.sideMm) : viewAround(size, x, y, sideMm);

/** An upright area at a place. */
const flatArea = (
  key: string,
  variant: Variant,
  on: number,
  left: number,
  top: number,
  widthMm: number,
  heightMm: number,
): DrawnArea => ({
  key,
  variant,
  on,
  widthMm,
  heightMm,
  at: (x, y) => [x - left, y - top],
  flatAt: [left, top],
});

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
