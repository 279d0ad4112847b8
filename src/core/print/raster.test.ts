import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { chain, invert, rotation, scaling, translation } from '../geometry/matrix';
import { drawAffineReference } from './affine-reference';
import { AffineKernel } from './affine-wasm';
import { newRaster, type Raster } from './pixels';
import { premultiply, unpremultiply } from './pixels';
import { drawAffine, halve } from './raster';

const paint = (w: number, h: number, color: (x: number, y: number) => [number, number, number, number]): Raster => {
  const raster = newRaster(w, h);
  for (let y = 0; y < h; y += 1) for (let x = 0; x < w; x += 1) raster.data.set(color(x, y), (y * w + x) * 4);
  return raster;
};

/** Center of alpha, in pixels with centers at +½. */
function centroid(r: Raster): [number, number] {
  let [sum, sx, sy] = [0, 0, 0];
  for (let i = 0; i < r.widthPx * r.heightPx; i += 1) {
    const a = r.data[i * 4 + 3]!;
    sum += a;
    sx += a * ((i % r.widthPx) + 0.5);
    sy += a * (Math.floor(i / r.widthPx) + 0.5);
  }
  return [sx / sum, sy / sum];
}

describe('affine raster', () => {
  it('copies exactly under the identity and whole steps', () => {
    const source = paint(50, 40, (x, y) => [x * 5, y * 6, 100, 255]);
    const target = newRaster(60, 60);
    drawAffine(target, source, translation(7, 9));
    for (const [x, y] of [
      [0, 0],
      [49, 39],
      [20, 30],
    ] as const) {
      expect([...target.data.slice(((y + 9) * 60 + x + 7) * 4).slice(0, 4)]).toEqual([x * 5, y * 6, 100, 255]);
    }
  });

  it('turns a quarter exactly', () => {
    const source = paint(20, 20, (x, y) => [x * 10, y * 10, 0, 255]);
    const target = newRaster(20, 20);
    drawAffine(target, source, chain(translation(-10, -10), rotation(90), translation(10, 10)));
    // source (x, y) goes to (19 − y, x)
    expect([...target.data.slice((3 * 20 + 19 - 5) * 4).slice(0, 2)]).toEqual([30, 50]);
  });

  it('keeps the place under any turn and size, to a twentieth of a pixel', () => {
    const source = paint(64, 64, (x, y) => (Math.hypot(x - 31.5, y - 31.5) < 20 ? [200, 100, 50, 255] : [0, 0, 0, 0]));
    for (const [angle, scale] of [
      [13, 1.7],
      [45, 0.8],
      [200, 0.31],
      [-77, 3],
    ] as const) {
      const target = newRaster(240, 240);
      drawAffine(
        target,
        source,
        chain(translation(-32, -32), scaling(scale), rotation(angle), translation(120.25, 119.6)),
      );
      const [x, y] = centroid(target);
      expect(Math.abs(x - 120.25)).toBeLessThan(0.05);
      expect(Math.abs(y - 119.6)).toBeLessThan(0.05);
    }
  });

  it('fills tiles of one color to the same pixels as sampling does', () => {
    const source = paint(200, 200, () => [120, 60, 30, 255]);
    const target = newRaster(200, 200);
    drawAffine(target, source, chain(translation(-100, -100), rotation(30), scaling(1.5), translation(100, 100)));
    expect(target.data.every((value, i) => value === [120, 60, 30, 255][i % 4])).toBe(true);
  });

  it('agrees with the picture’s own formula within 0.6 of 255, and with sharp (libvips) within 2.5, on average', async () => {
    const formula = (x: number, y: number) => [128 + 100 * Math.sin(x / 9), 128 + 100 * Math.cos(y / 13)];
    const source = paint(
      300,
      300,
      (x, y) => [...formula(x, y).map(Math.round), (x * y) % 256, 255] as [number, number, number, number],
    );
    const target = newRaster(450, 450);
    drawAffine(target, source, scaling(1.5));
    const theirs = await sharp(source.data, { raw: { width: 300, height: 300, channels: 4 } })
      .resize(450, 450, { kernel: 'cubic' })
      .raw()
      .toBuffer();
    const mean = (want: (x: number, y: number, c: number) => number) => {
      let sum = 0;
      for (let y = 4; y < 446; y += 1)
        for (let x = 4; x < 446; x += 1)
          for (let c = 0; c < 2; c += 1) sum += Math.abs(want(x, y, c) - target.data[(y * 450 + x) * 4 + c]!);
      return sum / (442 * 442 * 2);
    };
    expect(mean((x, y, c) => formula((x + 0.5) / 1.5 - 0.5, (y + 0.5) / 1.5 - 0.5)[c]!)).toBeLessThan(0.6);
    // Its enlargement lies a little beside the formula on these slopes; ours is held to the formula above.
    expect(mean((x, y, c) => theirs[(y * 450 + x) * 4 + c]!)).toBeLessThan(2.5);
  });

  it('lays half-transparent color over what is there', () => {
    const target = paint(4, 4, () => [0, 0, 255, 255]);
    const source = paint(40, 40, () => [128, 0, 0, 128]);
    drawAffine(target, source, translation(-10, -10));
    expect([...target.data.slice(0, 4)]).toEqual([128, 0, 127, 255]);
  });

  it('premultiplies and undoes it within one step where alpha carries it', () => {
    const rgba = new Uint8Array([200, 100, 50, 255, 200, 100, 50, 128, 9, 9, 9, 0]);
    premultiply(rgba);
    expect([...rgba]).toEqual([200, 100, 50, 255, 100, 50, 25, 128, 0, 0, 0, 0]);
    unpremultiply(rgba);
    expect(Math.abs(rgba[4]! - 200)).toBeLessThanOrEqual(1);
  });

  it('halves by means', () => {
    expect([...halve(paint(2, 2, (x, y) => [x * 100, y * 100, 0, 255])).data]).toEqual([50, 50, 0, 255]);
    expect(halve(newRaster(5, 3)).widthPx).toBe(3);
  });

  it('draws by WebAssembly what the TypeScript reference draws, pixel for pixel', () => {
    let seed = 1;
    const random = () => (seed = (Math.imul(seed, 1103515245) + 12345) >>> 0) / 2 ** 32;
    for (let round = 0; round < 24; round += 1) {
      const [w, h] = [5 + Math.floor(random() * 150), 5 + Math.floor(random() * 150)];
      const source = paint(w, h, (x, y) => {
        if (round % 3 === 0 && (x >> 5) % 2 === (y >> 5) % 2) return [90, 20, 60, 200];
        const alpha = Math.floor(random() * 256);
        return [
          Math.floor(random() * (alpha + 1)),
          Math.floor(random() * (alpha + 1)),
          Math.floor(random() * (alpha + 1)),
          alpha,
        ];
      });
      const inverse = invert(
        chain(
          translation(-w / 2, -h / 2),
          scaling(0.7 + random() * 3, 0.7 + random() * 3),
          rotation(round % 4 === 1 ? 0 : round % 4 === 3 ? 180 : random() * 360),
          translation(100 + random() * 20, 90),
        ),
      );
      const [ours, reference] = [paint(200, 190, () => [10, 20, 30, 60]), paint(200, 190, () => [10, 20, 30, 60])];
      // With a window of a few rows too, which then follows the strips.
      AffineKernel.open(source, inverse, round % 2 === 0 ? 4000 : undefined)!.draw(ours, 0);
      drawAffineReference(reference, source, inverse, 0, 190);
      expect(Buffer.compare(ours.data, reference.data)).toBe(0);
    }
  });

  it('draws a strip of rows as it draws the whole', () => {
    const source = paint(60, 60, (x, y) => [x * 4, y * 4, 80, 255]);
    const map = chain(translation(-30, -30), scaling(2.1), rotation(33), translation(80, 80));
    const [whole, strips] = [newRaster(160, 160), newRaster(160, 160)];
    drawAffine(whole, source, map);
    for (let y = 0; y < 160; y += 37) drawAffine(strips, source, map, y, y + 37);
    const worst = whole.data.reduce((most, value, i) => Math.max(most, Math.abs(value - strips.data[i]!)), 0);
    // The map is moved along for a strip, which can round the last bit of a position another way.
    expect(worst).toBeLessThanOrEqual(1);
  });
});
