import fs from 'node:fs';
import path from 'node:path';
import sharp from 'sharp';
import { describe, expect, it, vi } from 'vitest';
import { linearOf8 } from '@/core/artwork/color';
import { newRaster, type Raster } from '@/core/print/pixels';
import { finishOf } from '@/core/shot/finish';
import { ShotKernel } from '@/core/shot/kernel';
import { planesOf } from '@/core/shot/planes';
import type { Shot, ShotDocument } from '@/core/shot/shot';
import { decodeShot } from '@/server/images/shots';

/**
 * The maps of traced shots against renderings of the same scenes with a grid as texture (lines of 2 mm, 10 mm apart): made by the studio's
 * tracer, which knows nothing of maps (`GRIDS=tests/golden/grids npm run shots CODE`). Common practice, no source.
 */
const grids = path.join(import.meta.dirname, 'grids');
const shots = path.resolve(import.meta.dirname, '../../demo/shots');
const golden = fs.readdirSync(grids).map((file) => {
  const [, code, key, left, top] = /^(.+?)\.(.+)\.(\d+)\.(\d+)\.png$/.exec(file)!;
  return { file, code: code!, key: key!, left: Number(left), top: Number(top) };
});
/** Px a mm: lines and their halved copies end on whole pixels then, so that it is maps that are held against each other and not ways of filtering. */
const PX_PER_MM = 8;
vi.setConfig({ testTimeout: 60_000 });

/** The grid as artwork, white on nothing. */
function gridArt(widthMm: number, heightMm: number): Raster {
  const raster = newRaster(Math.ceil(widthMm * PX_PER_MM), Math.ceil(heightMm * PX_PER_MM));
  const line = (px: number) => {
    const mm = (px + 0.5) / PX_PER_MM;
    return Math.abs(mm - 10 * Math.round(mm / 10)) < 1;
  };
  for (let y = 0, i = 0; y < raster.heightPx; y += 1)
    for (let x = 0; x < raster.widthPx; x += 1, i += 4) if (line(x) || line(y)) raster.data.fill(255, i, i + 4);
  return raster;
}

/** The shot with even light on nothing: a picture of it shows what is printed and no more. */
const evenly = (shot: Shot): Shot => ({
  ...shot,
  rest: { values: new Uint16Array(shot.rest.values.length), scale: 1 },
  shade: { values: new Uint16Array(shot.widthPx * shot.heightPx).fill(65535), scale: 1 },
  direct: null,
  specular: null,
  exposure: 1,
  straightTo: 0.9999,
});

/** Mean of 5×5 around each pixel that has all of them. */
function mean5(values: Float64Array, side: number): Float64Array {
  const out = new Float64Array((side - 4) ** 2);
  for (let y = 2; y < side - 2; y += 1)
    for (let x = 2; x < side - 2; x += 1) {
      let sum = 0;
      for (let j = -2; j <= 2; j += 1) for (let i = -2; i <= 2; i += 1) sum += values[(y + j) * side + x + i]!;
      out[(y - 2) * (side - 4) + x - 2] = sum / 25;
    }
  return out;
}

/** How far b lies from a, px: the shift that takes away most of the difference (one step of least squares). */
function shiftOf(a: Float64Array, b: Float64Array, side: number): { x: number; y: number } {
  let [xx, xy, yy, xd, yd] = [0, 0, 0, 0, 0];
  for (let y = 1; y < side - 1; y += 1)
    for (let x = 1; x < side - 1; x += 1) {
      const i = y * side + x;
      const [gx, gy, d] = [(a[i + 1]! - a[i - 1]!) / 2, (a[i + side]! - a[i - side]!) / 2, a[i]! - b[i]!];
      xx += gx * gx;
      xy += gx * gy;
      yy += gy * gy;
      xd += gx * d;
      yd += gy * d;
    }
  const det = xx * yy - xy * xy;
  return { x: (yy * xd - xy * yd) / det, y: (xx * yd - xy * xd) / det };
}

const STEP = 1 / 16;
/** What of each pixel lies on the grid's lines by the map: places between pixel centers by its slopes, what stands in front left out. */
function throughMap(
  shot: Shot,
  key: string,
  { left, top, side }: { left: number; top: number; side: number },
): Float64Array {
  const { u, v, uMm, vMm, coverage } = shot.areas[key]!;
  const w = shot.widthPx;
  const mm = (plane: Uint16Array, i: number, [from, to]: readonly [number, number]) =>
    from + (plane[i]! / 65535) * (to - from);
  const slope = (plane: Uint16Array, i: number, step: number, range: readonly [number, number]) => {
    const [a, b] = [coverage[i - step]! > 0 ? i - step : i, coverage[i + step]! > 0 ? i + step : i];
    return a === b ? 0 : (mm(plane, b, range) - mm(plane, a, range)) / ((b - a) / step);
  };
  const near = (x: number) => Math.abs(x - 10 * Math.round(x / 10)) < 1;
  const out = new Float64Array(side * side);
  for (let y = 0; y < side; y += 1)
    for (let x = 0; x < side; x += 1) {
      const i = (top + y) * w + left + x;
      if (coverage[i] === 0) continue;
      const [u0, v0] = [mm(u, i, uMm), mm(v, i, vMm)];
      const [ux, uy, vx, vy] = [slope(u, i, 1, uMm), slope(u, i, w, uMm), slope(v, i, 1, vMm), slope(v, i, w, vMm)];
      let on = 0;
      for (let sy = -0.5 + STEP / 2; sy < 0.5; sy += STEP)
        for (let sx = -0.5 + STEP / 2; sx < 0.5; sx += STEP)
          if (near(u0 + sx * ux + sy * uy) || near(v0 + sx * vx + sy * vy)) on += 1;
      out[y * side + x] = on * STEP ** 2 * (coverage[i]! / 255) * (1 - (shot.front?.[i] ?? 0) / 255);
    }
  return out;
}

describe('the maps of traced shots', () => {
  it('are held to a grid for several kinds of goods', () => {
    expect(golden.length).toBeGreaterThanOrEqual(5);
  });

  it.each(golden)(
    '$code: a grid through the map is where the tracer saw it',
    async ({ file, code, key, left, top }) => {
      const folder = path.join(shots, code);
      const document = JSON.parse(fs.readFileSync(path.join(folder, 'shot.json'), 'utf8')) as ShotDocument;
      const shot = evenly(await decodeShot(document, async (name) => fs.readFileSync(path.join(folder, name))));
      const { data, info } = await sharp(path.join(grids, file))
        .toColourspace('b-w')
        .raw()
        .toBuffer({ resolveWithObject: true });
      const side = info.width;
      const area = shot.areas[key]!;
      const kernel = new ShotKernel(planesOf(shot));
      const raster = gridArt(area.uMm[1], area.vMm[1]);
      kernel.print(key, { raster, leftMm: 0, topMm: 0, pxPerMm: PX_PER_MM }, finishOf('giclee', 'paper'));
      // Black cloth keeps a little light of its own: it is taken off.
      const black = { hex: '#000000', heather: false };
      const picture = kernel.picture(black).slice();
      kernel.print(key, null, finishOf('giclee', 'paper'));
      const bare = kernel.picture(black);
      const [ours, theirs] = [new Float64Array(side * side), new Float64Array(side * side)];
      for (let y = 0; y < side; y += 1)
        for (let x = 0; x < side; x += 1) {
          const o = ((top + y) * shot.widthPx + left + x) * 3;
          const ground = linearOf8[bare[o]!]!;
          ours[y * side + x] = (linearOf8[picture[o]!]! - ground) / (1 - ground);
          theirs[y * side + x] = data[y * side + x]! / 255;
        }
      // The map by itself, without the engine's copies: the grid at its places, 256 to a pixel.
      const own = mean5(throughMap(shot, key, { left, top, side }), side);
      const [a, b] = [mean5(theirs, side), mean5(ours, side)];
      const apart = a.reduce((sum, value, i) => sum + Math.abs(value - own[i]!), 0) / a.length;
      expect(apart * 255).toBeLessThan(1);
      const mean = a.reduce((sum, value, i) => sum + Math.abs(value - b[i]!), 0) / a.length;
      const shift = shiftOf(a, b, side - 4);
      // Measured: 0.1 to 1.7 of 255, 0.7 on average, most of it the engine's filtering; shifts below 0.03 px.
      expect(mean * 255).toBeLessThan(2);
      expect(Math.hypot(shift.x, shift.y)).toBeLessThan(0.1);
    },
  );
});
