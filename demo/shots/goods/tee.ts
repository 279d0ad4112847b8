import { drawnShot, viewAround, type DrawnArea, type Piece } from '../drawn';
import { noise, ridge, smoothstep } from '../noise';
import type { Passes } from '../passes';

/** A shirt of size M from the front or back, hanging. Outline and folds in mm, x from its middle, y from its shoulder line. */
const body = (back: boolean) =>
  `M -86 0 C -120 8 -190 22 -214 34 C -262 74 -318 168 -344 226 C -318 244 -288 256 -258 262 C -246 236 -232 210 -222 194
   C -228 330 -232 470 -238 628 C -160 640 160 640 238 628 C 232 470 228 330 222 194 C 232 210 246 236 258 262
   C 288 256 318 244 344 226 C 318 168 262 74 214 34 C 190 22 120 8 86 0 ${back ? 'C 60 14 -60 14 -86 0' : 'C 66 84 -66 84 -86 0'} Z`;
const collar = (back: boolean) =>
  back
    ? 'M -92 -2 C -60 18 60 18 92 -2 L 86 -14 C 60 0 -60 0 -86 -14 Z'
    : 'M -98 2 C -74 104 74 104 98 2 L 82 -8 C 62 80 -62 80 -82 -8 Z';
const inside = 'M -86 -8 C -58 8 58 8 86 -8 C 66 84 -66 84 -86 -8 Z';

/** Height of the cloth in mm toward the viewer: the body's bulge, then folds that hang from the shoulders and pull from the armpits. */
function height(x: number, y: number, back: boolean): number {
  const seed = back ? 40 : 0;
  let z = 62 * Math.cos((Math.min(1, Math.abs(x) / 380) * Math.PI) / 2) + 9 * ridge(y - 150, 130) * (back ? 0.5 : 1);
  const wander = 26 * noise(x / 160, y / 190, seed + 1);
  for (const [x0, lean, w, from, depth] of [
    [-150, 0.1, 26, 250, 4.2],
    [-78, 0.05, 34, 330, 3.2],
    [12, -0.03, 40, 400, 2.6],
    [104, -0.07, 30, 300, 3.8],
    [176, -0.1, 24, 260, 4.4],
  ] as const) {
    z += depth * smoothstep(from, 640, y) * ridge(x - x0 - lean * (y - 400) - wander, w);
  }
  for (const side of [-1, 1]) {
    for (const [slope, w, depth, off] of [
      [0.42, 15, 3.4, 0],
      [0.78, 18, 3.0, 26],
      [0.16, 12, 2.2, -18],
    ] as const) {
      const dx = side * x;
      const line = y - (205 + off) - slope * (222 - dx) - 0.4 * wander;
      z += depth * ridge(line, w) * smoothstep(20, 180, dx) * smoothstep(330, 215, dx);
    }
    // Sleeves fold where they leave the shoulder.
    const sx = side * x;
    if (sx > 210)
      z +=
        3.2 * ridge(y - 60 - 1.05 * (sx - 225) - 9 * noise(x / 50, y / 60, seed + 3), 15) +
        2.2 * ridge(y - 120 - 0.9 * (sx - 235), 12);
  }
  z += 1.7 * noise(x / 62, y / 95, seed + 5) + 0.55 * noise(x / 24, y / 34, seed + 6);
  return z;
}

/** Seams and hems: what makes a shirt out of cloth. */
function sewn(x: number, y: number): number {
  let tone = 1;
  const hem = y - (628 + 12 * (1 - (x / 238) ** 2) - 22);
  if (Math.abs(x) < 240) tone *= 1 - 0.16 * ridge(hem, 1.1) - 0.05 * ridge(hem - 6, 4);
  for (const side of [-1, 1]) {
    const cuff = (side * x - 258) * 0.9 + (y - 262) * 0.42;
    if (side * x > 225 && y > 190) tone *= 1 - 0.14 * ridge(cuff - (y - 262) * 0.55 + 22, 1.4);
    tone *=
      1 -
      0.13 *
        ridge(side * x - 214 - 0.052 * (y - 34) + 0.0002 * (y - 34) ** 2, 1.5) *
        smoothstep(24, 50, y) *
        smoothstep(205, 180, y);
  }
  return tone;
}

/** Loops of a knit at a distance from which they can be told. */
const knit = (mm: number) => (x: number, y: number) =>
  mm > 0.45
    ? 1
    : 1 -
      0.09 *
        Math.min(1, 0.45 / mm - 1) *
        (0.5 + 0.5 * Math.cos((2 * Math.PI * x) / 0.95)) *
        (0.6 + 0.4 * Math.cos((2 * Math.PI * (y + 0.3 * Math.abs(((x / 0.95) % 1) - 0.5))) / 0.72));

export interface TeeSpec {
  readonly back: boolean;
  /** 1 for an adult's size M; a child's is smaller. */
  readonly scale: number;
  readonly print: {
    readonly topMm: number;
    readonly widthMm: number;
    readonly heightMm: number;
    readonly variant: Record<string, string>;
  };
  /** On the wearer's left sleeve, seen from the front. */
  readonly sleeve?: { readonly widthMm: number; readonly heightMm: number };
  /** Inside of the neck, seen from the front. */
  readonly label?: { readonly widthMm: number; readonly heightMm: number };
  /** What is looked at, mm of the shirt; the whole of it when absent. */
  readonly near?: { readonly x: number; readonly y: number; readonly sideMm: number };
}

/** The shot of a tee. */
export function teeShot(size: number, { back, scale, print, sleeve, label, near }: TeeSpec): Promise<Passes> {
  const view = near ? viewAround(size, near.x, near.y, near.sideMm) : viewAround(size, 0, 308 * scale, 800 * scale);
  const stitchedUp = (path: string) =>
    path.replace(/-?\d+(\.\d+)?/g, (number) => String(Math.round(Number(number) * scale * 1000) / 1000));
  const z = (x: number, y: number) => scale * height(x / scale, y / scale, back);
  const loops = knit(view.mmPerPx);
  const pieces: Piece[] = [
    ...(back
      ? []
      : [
          {
            path: stitchedUp(inside),
            role: 'fabric' as const,
            tone: (x: number, y: number) => 0.56 * loops(x, y),
            liftMm: 0,
          },
        ]),
    {
      path: stitchedUp(body(back)),
      role: 'fabric',
      height: z,
      tone: (x, y) =>
        sewn(x / scale, y / scale) *
        loops(x, y) *
        (1 + 0.012 * noise(x * 1.1, y * 1.1, 9) + 0.01 * noise(x * 0.33, y * 0.33, 10)),
      liftMm: 10 * scale,
      rim: { depth: 0.2, widthMm: 7 * scale },
    },
    {
      path: stitchedUp(collar(back)),
      role: 'fabric',
      height: z,
      tone: (x, y) => 0.97 - 0.09 * (0.5 + 0.5 * Math.sin((Math.atan2(y + 20 * scale, x) * 520) / Math.PI)) ** 2,
      liftMm: 1.6,
      rim: { depth: 0.12, widthMm: 3 },
    },
  ];
  const on = back ? 0 : 1;
  const left = -print.widthMm / 2;
  // The map follows the cloth: folds take up a little length.
  const drift = (x: number, y: number) =>
    [0.77 * ((z(x + 1.5, y) - z(x - 1.5, y)) / 3), 0.77 * ((z(x, y + 1.5) - z(x, y - 1.5)) / 3)] as const;
  const areas: DrawnArea[] = [
    {
      key: back ? 'main.back' : 'main.front',
      variant: print.variant,
      on,
      widthMm: print.widthMm,
      heightMm: print.heightMm,
      at: (x, y) => {
        const [dx, dy] = drift(x, y);
        return [x - left - dx, y - print.topMm - dy];
      },
      flatAt: [left, print.topMm],
    },
  ];
  if (label && !back)
    areas.push({
      key: 'main.label',
      variant: print.variant,
      on: 0,
      widthMm: label.widthMm,
      heightMm: label.heightMm,
      at: (x, y) => [x + label.widthMm / 2, y - 7 * scale],
    });
  if (sleeve && !back) {
    // Along the middle of the sleeve, from the shoulder's seam to the cuff.
    const [x0, y0] = [238 * scale, 62 * scale];
    const axis = [0.432, 0.902] as const;
    areas.push({
      key: 'main.sleeve',
      variant: print.variant,
      on,
      widthMm: sleeve.widthMm,
      heightMm: sleeve.heightMm,
      at: (x, y) => {
        const [along, across] = [(x - x0) * axis[0] + (y - y0) * axis[1], (x - x0) * axis[1] - (y - y0) * axis[0]];
        return [across + sleeve.widthMm / 2, along - 34 * scale];
      },
    });
  }
  return drawnShot(view, pieces, areas, { heather: true });
}
