import { describe, expect, it } from 'vitest';
import sharp from 'sharp';
import { drawFaded } from './faded';
import { newRaster, type Raster } from './pixels';

const filled = (...rgba: number[]): Raster => {
  const raster = newRaster(2, 1);
  for (let i = 0; i < raster.data.length; i += 1) raster.data[i] = rgba[i % 4]!;
  return raster;
};
const paint = (rgba: readonly number[]) => (target: Raster) => {
  for (let i = 0; i < target.data.length; i += 1) target.data[i] = rgba[i % 4]!;
};

describe('a layer with opacity', () => {
  it('lies over what is there as libvips composes it (sharp, within one step)', async () => {
    for (const opacity of [0.05, 0.3, 0.5, 0.85]) {
      const target = filled(200, 40, 10, 255);
      drawFaded(target, opacity, paint([0, 90, 250, 255]));
      const ground = {
        create: { width: 2, height: 1, channels: 4 as const, background: { r: 200, g: 40, b: 10, alpha: 1 } },
      };
      const over = {
        create: { width: 2, height: 1, channels: 4 as const, background: { r: 0, g: 90, b: 250, alpha: opacity } },
      };
      const input = await sharp(over).png().toBuffer();
      const theirs = await sharp(ground).composite([{ input }]).raw().toBuffer();
      for (let i = 0; i < 8; i += 1) expect(Math.abs(target.data[i]! - theirs[i]!)).toBeLessThanOrEqual(1);
    }
  });

  it('on nothing keeps its color: only its alpha is less', () => {
    const target = newRaster(2, 1);
    drawFaded(target, 0.5, paint([100, 50, 0, 255]));
    expect([...target.data.slice(0, 4)]).toEqual([50, 25, 0, 128]);
  });

  it('of 1 is drawn as it is', () => {
    const target = filled(9, 9, 9, 9);
    drawFaded(target, 1, paint([1, 2, 3, 4]));
    expect([...target.data.slice(0, 4)]).toEqual([1, 2, 3, 4]);
  });
});
