import sharp from 'sharp';
import { noise, ridge, smoothstep } from './noise';
import { addArea, newPasses, type Passes } from './passes';

/** A shirt of size M from the front or back, hanging, 2 px a mm on a canvas of 800 mm. Outline and folds in mm, x from its middle, y from its shoulder line. */
const CANVAS_MM = 800;
const SHOULDER_Y = 92;

const body = (back: boolean) =>
  `M -86 0 C -120 8 -190 22 -214 34 C -262 74 -318 168 -344 226 C -318 244 -288 256 -258 262 C -246 236 -232 210 -222 194
   C -228 330 -232 470 -238 628 C -160 640 160 640 238 628 C 232 470 228 330 222 194 C 232 210 246 236 258 262
   C 288 256 318 244 344 226 C 318 168 262 74 214 34 C 190 22 120 8 86 0 ${back ? 'C 60 14 -60 14 -86 0' : 'C 66 84 -66 84 -86 0'} Z`;
const collar = (back: boolean) =>
  back
    ? 'M -92 -2 C -60 18 60 18 92 -2 L 86 -14 C 60 0 -60 0 -86 -14 Z'
    : 'M -98 2 C -74 104 74 104 98 2 L 82 -8 C 62 80 -62 80 -82 -8 Z';
const inside = 'M -86 -8 C -58 8 58 8 86 -8 C 66 84 -66 84 -86 -8 Z';

async function mask(size: number, paths: string, blurPx = 0): Promise<Float32Array> {
  const scale = size / CANVAS_MM;
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${size}" height="${size}"><rect width="100%" height="100%" fill="#000"/><g transform="scale(${scale}) translate(${CANVAS_MM / 2} ${SHOULDER_Y})" fill="#fff">${paths}</g></svg>`;
  let image = sharp(Buffer.from(svg)).toColourspace('b-w');
  if (blurPx > 0) image = image.blur(blurPx);
  const raw = await image.raw().toBuffer();
  return Float32Array.from(raw, (v) => v / 255);
}

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

/** The shot of a tee; `print` is the print area of size M: where its top left corner lies and how large it is, mm. */
export async function teeShot(
  size: number,
  back: boolean,
  print: { topMm: number; widthMm: number; heightMm: number },
): Promise<Passes> {
  const passes = newPasses(size);
  const mm = CANVAS_MM / size;
  const cover = await mask(size, `<path d="${body(back)}"/><path d="${collar(back)}"/>`);
  const rim = await mask(size, `<path d="${collar(back)}"/>`, 1);
  const hole = back ? new Float32Array(size * size) : await mask(size, `<path d="${inside}"/>`);
  const shadow = await mask(size, `<g transform="translate(10 16)"><path d="${body(back)}"/></g>`, 24);
  const soft = await mask(size, `<path d="${body(back)}"/>`, 14);
  const left = -print.widthMm / 2;
  const area = addArea(
    passes,
    back ? 'main.back' : 'main.front',
    { size: 'm' },
    { a: mm, b: 0, c: 0, d: mm, e: -CANVAS_MM / 2 - left, f: -SHOULDER_Y - print.topMm },
  );
  const light = normalize([-0.42, -0.55, 0.72]);
  for (let py = 0; py < size; py += 1) {
    for (let px = 0; px < size; px += 1) {
      const i = py * size + px;
      const x = (px + 0.5) * mm - CANVAS_MM / 2;
      const y = (py + 0.5) * mm - SHOULDER_Y;
      const wall = 0.9 - 0.05 * (py / size) - 0.3 * shadow[i]!;
      const inner = hole[i]! * (1 - rim[i]!);
      const covered = Math.max(cover[i]!, inner);
      passes.fabric[i] = covered;
      for (let c = 0; c < 3; c += 1) passes.rest[i * 3 + c] = wall * [0.985, 0.975, 0.95][c]! * (1 - covered);
      if (covered === 0) continue;
      const e = 1.5;
      const dzdx = (height(x + e, y, back) - height(x - e, y, back)) / (2 * e);
      const dzdy = (height(x, y + e, back) - height(x, y - e, back)) / (2 * e);
      const n = normalize([-dzdx, -dzdy, 1]);
      const key = Math.max(0, dot(n, light));
      let shade = 0.36 + 0.24 * n[2]! + 0.62 * key;
      // Light is lost toward the rim, where cloth turns away, and under the collar.
      shade *= 0.8 + 0.2 * smoothstep(0.45, 0.98, soft[i]!);
      shade *= 1 + 0.012 * noise(x * 1.1, y * 1.1, 9) + 0.01 * noise(x * 0.33, y * 0.33, 10);
      const hem = y - (628 + 12 * (1 - (x / 238) ** 2) - 22);
      if (Math.abs(x) < 240) shade *= 1 - 0.16 * ridge(hem, 1.1) - 0.05 * ridge(hem - 6, 4);
      for (const side of [-1, 1]) {
        const cuff = (side * x - 258) * 0.9 + (y - 262) * 0.42;
        if (side * x > 225 && y > 190) shade *= 1 - 0.14 * ridge(cuff - (y - 262) * 0.55 + 22, 1.4);
        shade *=
          1 -
          0.13 *
            ridge(side * x - 214 - 0.052 * (y - 34) + 0.0002 * (y - 34) ** 2, 1.5) *
            smoothstep(24, 50, y) *
            smoothstep(205, 180, y);
      }
      if (rim[i]! > 0.02)
        shade *= 1 - 0.1 * rim[i]! * (0.5 + 0.5 * Math.sin((Math.atan2(y + 20, x) * 520) / Math.PI)) ** 2;
      shade *= 1 - 0.52 * inner;
      if (!back) shade *= 1 - 0.1 * ridge(Math.hypot(x, (y + 22) * 0.94) - 104, 5) * smoothstep(10, 40, y);
      passes.shade[i] = shade;
      // The map follows the cloth: folds take up a little length.
      const u = x - left - 0.35 * dzdx * 2.2;
      const v = y - print.topMm - 0.35 * dzdy * 2.2;
      area.u[i] = u;
      area.v[i] = v;
      const edge = (d: number) => Math.min(1, Math.max(0, d / mm + 0.5));
      area.coverage[i] =
        Math.min(edge(u), edge(print.widthMm - u), edge(v), edge(print.heightMm - v), 1) * cover[i]! * (1 - rim[i]!);
    }
  }
  return passes;
}

function normalize(v: number[]): number[] {
  const length = Math.hypot(...v);
  return v.map((c) => c / length);
}
const dot = (a: number[], b: number[]) => a.reduce((sum, c, i) => sum + c * b[i]!, 0);
