import { drawnShot, ellipse, rect, viewAround, type DrawnArea, type Piece } from '../drawn';
import { noise, ridge, smoothstep } from '../noise';
import type { Passes } from '../passes';

/** A hoodie of size M, hanging. Mm, x from its middle, y from its shoulder line. */
const BODY = `M -92 -6 C -140 6 -206 24 -236 44 C -280 110 -318 330 -336 520 C -318 532 -282 536 -262 530 C -254 420 -246 330 -236 262
  C -240 400 -242 520 -244 628 C -160 640 160 640 244 628 C 242 520 240 400 236 262 C 246 330 254 420 262 530
  C 282 536 318 532 336 520 C 318 330 280 110 236 44 C 206 24 140 6 92 -6 C 60 60 -60 60 -92 -6 Z`;
const BACK_BODY = BODY.replace('C 60 60 -60 60 -92 -6 Z', 'C 60 26 -60 26 -92 -6 Z');
const HEM = 'M -246 628 C -160 640 160 640 246 628 L 240 690 C 150 702 -150 702 -240 690 Z';
const CUFFS =
  'M -336 520 C -318 532 -282 536 -262 530 L -268 590 C -288 596 -318 592 -332 584 Z M 336 520 C 318 532 282 536 262 530 L 268 590 C 288 596 318 592 332 584 Z';
const HOOD =
  'M -100 6 C -150 -40 -140 -128 -70 -150 C -30 -160 30 -160 70 -150 C 140 -128 150 -40 100 6 C 60 44 -60 44 -100 6 Z';
const HOLE = ellipse(0, -52, 70, 70);
const LAPELS =
  'M -104 2 C -120 -40 -100 -100 -66 -120 C -92 -70 -84 0 0 74 C 84 0 92 -70 66 -120 C 100 -100 120 -40 104 2 C 80 70 40 96 0 108 C -40 96 -80 70 -104 2 Z';
const POCKET = 'M -128 440 L 128 440 L 176 560 L 168 624 L -168 624 L -176 560 Z';
const cord = (side: 1 | -1) =>
  `M ${side * 33} 66 C ${side * 40} 120 ${side * 44} 180 ${side * 40} 252 L ${side * 46} 252 C ${side * 51} 180 ${side * 47} 118 ${side * 40} 64 Z`;
const tip = (side: 1 | -1) => rect(side * 43 - 3.6, 250, 7.2, 22, 2);

/** Height of the cloth: heavy, with few and round folds. */
function height(x: number, y: number): number {
  let z = 70 * Math.cos((Math.min(1, Math.abs(x) / 400) * Math.PI) / 2) + 10 * ridge(y - 160, 150);
  const wander = 30 * noise(x / 180, y / 210, 61);
  for (const [x0, lean, w, from, depth] of [
    [-170, 0.1, 36, 240, 6],
    [-60, 0.03, 46, 380, 4],
    [70, -0.04, 44, 360, 4.4],
    [176, -0.1, 34, 250, 6.2],
  ] as const)
    z += depth * smoothstep(from, 660, y) * ridge(x - x0 - lean * (y - 400) - wander, w);
  for (const side of [-1, 1]) {
    const dx = side * x;
    for (const [slope, w, depth, off] of [
      [0.5, 18, 5, 0],
      [0.95, 20, 4, 34],
      [0.2, 15, 3, -22],
    ] as const)
      z +=
        depth *
        ridge(y - (250 + off) - slope * (236 - dx) - 0.4 * wander, w) *
        smoothstep(30, 190, dx) *
        smoothstep(360, 230, dx);
    if (dx > 225)
      z +=
        5 * ridge(y - 380 - 0.5 * (dx - 260) - 12 * noise(x / 50, y / 60, 63), 18) +
        4 * ridge(y - 450 + 0.3 * (dx - 260), 16) +
        4 * ridge(y - 300 - 0.4 * (dx - 260), 15);
  }
  return z + 2 * noise(x / 70, y / 105, 65) + 0.7 * noise(x / 28, y / 38, 66);
}

const ribs = (x: number) => 0.93 + 0.07 * Math.cos((2 * Math.PI * x) / 5);
const fleece = (x: number, y: number) => 1 + 0.014 * noise(x * 0.9, y * 0.9, 67) + 0.01 * noise(x * 0.3, y * 0.3, 68);

export interface HoodieSpec {
  readonly back: boolean;
  readonly near?: { readonly x: number; readonly y: number; readonly sideMm: number };
}

/** The shot of a hoodie: from the front its drawstrings hang before the print. */
export function hoodieShot(size: number, { back, near }: HoodieSpec): Promise<Passes> {
  const view = near ? viewAround(size, near.x, near.y, near.sideMm) : viewAround(size, 0, 268, 960);
  const cloth = { role: 'fabric' as const, height, tone: fleece, rim: { depth: 0.2, widthMm: 9 } };
  const pieces: Piece[] = [
    {
      ...cloth,
      path: HOOD,
      height: (x, y) => 60 * Math.cos((Math.min(1, Math.hypot(x / 150, (y + 60) / 130)) * Math.PI) / 2),
      liftMm: 8,
    },
    ...(back
      ? []
      : [
          {
            ...cloth,
            path: HOLE,
            height: undefined,
            tone: (x: number, y: number) => 0.34 + 0.0018 * (y + 120),
            liftMm: 0,
            rim: undefined,
          },
        ]),
    { ...cloth, path: back ? BACK_BODY : BODY, liftMm: 12 },
    { ...cloth, path: HEM, tone: (x) => ribs(x) * 0.97, liftMm: 2 },
    { ...cloth, path: CUFFS, tone: (x) => ribs(x) * 0.97, liftMm: 2 },
  ];
  const on = back ? 1 : 2;
  if (back)
    pieces.push({
      ...cloth,
      path: 'M -104 4 C -140 -60 -100 -120 0 -126 C 100 -120 140 -60 104 4 C 70 60 40 96 0 100 C -40 96 -70 60 -104 4 Z',
      liftMm: 6,
      height: (x, y) => 46 * Math.cos((Math.min(1, Math.hypot(x / 140, y / 130)) * Math.PI) / 2) + 5 * ridge(x, 10),
    });
  else
    pieces.push(
      { ...cloth, path: POCKET, tone: (x, y) => fleece(x, y) * (1 - 0.12 * ridge(y - 446, 1.4)), liftMm: 2.5 },
      {
        ...cloth,
        path: LAPELS,
        liftMm: 5,
        height: (x, y) => 30 * Math.cos((Math.min(1, Math.abs(x) / 120) * Math.PI) / 2) + 6 * noise(x / 40, y / 50, 70),
      },
      ...([1, -1] as const).flatMap((side): Piece[] => [
        {
          path: cord(side),
          role: 'front',
          color: [0.82, 0.8, 0.75],
          liftMm: 2.2,
          tone: (x, y) => 0.9 + 0.1 * Math.cos((2 * Math.PI * (y + x)) / 4.5),
          rim: { depth: 0.4, widthMm: 1.6 },
        },
        { path: tip(side), role: 'front', color: [0.36, 0.37, 0.38], liftMm: 2.2, rim: { depth: 0.45, widthMm: 1.8 } },
      ]),
    );
  const drift = (x: number, y: number) =>
    [
      0.7 * ((height(x + 1.5, y) - height(x - 1.5, y)) / 3),
      0.7 * ((height(x, y + 1.5) - height(x, y - 1.5)) / 3),
    ] as const;
  const flat = (key: string, left: number, top: number, widthMm: number, heightMm: number): DrawnArea => ({
    key,
    variant: { size: 'm' },
    on,
    widthMm,
    heightMm,
    at: (x, y) => {
      const [dx, dy] = drift(x, y);
      return [x - left - dx, y - top - dy];
    },
    flatAt: [left, top],
  });
  const areas = back
    ? [flat('main.back', -152.5, 128, 305, 406)]
    : [flat('main.front', -150, 124, 300, 300), flat('main.chest', 46, 128, 100, 100)];
  return drawnShot(view, pieces, areas, { heather: true });
}
