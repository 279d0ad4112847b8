import { describe, expect, it } from 'vitest';
import { chain, scaling, translation } from '../geometry/matrix';
import { cutToOutline } from './cut';
import { newRaster, type Raster } from './pixels';

const white = (widthPx: number, heightPx: number): Raster => {
  const raster = newRaster(widthPx, heightPx);
  raster.data.fill(255);
  return raster;
};
const inkMm2 = ({ data }: Raster, pxPerMm: number) => {
  let sum = 0;
  for (let i = 3; i < data.length; i += 4) sum += data[i]! / 255;
  return sum / pxPerMm ** 2;
};

describe('a sheet that is no rectangle', () => {
  // A triangle of 60 × 40 mm: 1,200 mm².
  const outline = 'M 0 0 L 60 20 L 0 40 Z';

  it('is printed within its outline alone', () => {
    const raster = white(600, 400);
    cutToOutline(raster, { outline, bleedMm: 0 }, scaling(10));
    expect(inkMm2(raster, 10)).toBeCloseTo(1200, 0);
    const alpha = (x: number, y: number) => raster.data[4 * (y * 600 + x) + 3];
    expect([alpha(100, 200), alpha(590, 10), alpha(590, 390)]).toEqual([255, 0, 0]);
  });

  it('and its bleed around it: sides × bleed, and at each corner what a disc leaves between them', () => {
    const raster = white(720, 520);
    cutToOutline(raster, { outline, bleedMm: 3 }, chain(scaling(10), translation(60, 60)));
    // Sides 40 and twice √(60² + 20²) = 63.246; the three corners of a triangle make one whole disc (Steiner’s formula), rounded.
    const steiner = 1200 + 3 * (40 + 2 * 63.2456) + Math.PI * 9;
    expect(inkMm2(raster, 10)).toBeGreaterThan(steiner - 3);
    // Corners that are pointed reach further than round ones.
    expect(inkMm2(raster, 10)).toBeLessThan(steiner + 45);
  });

  it('is left as it is without an outline, and the same strip by strip', () => {
    const plain = white(10, 10);
    cutToOutline(plain, { outline: null, bleedMm: 0 }, scaling(1));
    expect(plain.data.every((value) => value === 255)).toBe(true);
    const whole = white(600, 400);
    cutToOutline(whole, { outline, bleedMm: 0 }, scaling(10));
    const strip = white(600, 100);
    cutToOutline(strip, { outline, bleedMm: 0 }, chain(scaling(10), translation(0, -150)));
    expect(Buffer.from(strip.data).equals(Buffer.from(whole.data.subarray(600 * 150 * 4, 600 * 250 * 4)))).toBe(true);
  });
});
