import { describe, expect, it } from 'vitest';
import { newRaster } from '../print/pixels';
import { raiseEdges } from '../shot/relief';
import { stitch } from './stitches';

/** A bar of one color, `wide` × 60 px, on nothing. */
function bar(wide: number) {
  const raster = newRaster(100, 100);
  for (let y = 20; y < 80; y += 1)
    for (let x = 50 - wide / 2; x < 50 + wide / 2; x += 1) raster.data.set([120, 60, 60, 255], (y * 100 + x) * 4);
  return raster;
}
const red = (raster: ReturnType<typeof bar>, x: number, y: number) => raster.data[(y * 100 + x) * 4]!;

describe('stitches', () => {
  it('run across a narrow shape: down its middle threads alternate, along one of them little changes', () => {
    const raster = bar(16);
    stitch(raster, 6);
    const down = Array.from({ length: 30 }, (_, i) => red(raster, 50, 35 + i));
    const across = Array.from({ length: 6 }, (_, i) => red(raster, 47 + i, 50));
    expect(Math.max(...down) - Math.min(...down)).toBeGreaterThan(25);
    expect(Math.max(...across) - Math.min(...across)).toBeLessThan(Math.max(...down) - Math.min(...down));
  });

  it('keep alpha as it is, and the color on average', () => {
    const raster = bar(40);
    const before = bar(40);
    stitch(raster, 6);
    let [sum, count] = [0, 0];
    for (let i = 0; i < raster.data.length; i += 4) {
      expect(raster.data[i + 3]).toBe(before.data[i + 3]);
      if (raster.data[i + 3] === 0) continue;
      sum += raster.data[i]!;
      count += 1;
    }
    expect(Math.abs(sum / count - 120)).toBeLessThan(18);
  });
});

describe('raised ink', () => {
  it('is lighter at the edges toward the light and darker at those away from it', () => {
    const raster = bar(40);
    raiseEdges(raster, 1);
    expect(red(raster, 31, 20)).toBeGreaterThan(120);
    expect(red(raster, 69, 79)).toBeLessThan(120);
    expect(red(raster, 50, 50)).toBe(120);
  });
});
