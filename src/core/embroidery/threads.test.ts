import { describe, expect, it } from 'vitest';
import { colorDifference, labOf } from '../catalog/families';
import { newRaster, type Raster } from '../print/raster';
import { thinShare } from './strokes';
import { chooseThreads, MAX_THREADS, sew, THREADS } from './threads';

const painted = (...runs: readonly (readonly [hex: string, count: number])[]): Raster => {
  const raster = newRaster(
    runs.reduce((sum, [, n]) => sum + n, 0),
    1,
  );
  let at = 0;
  for (const [hex, count] of runs)
    for (let i = 0; i < count; i += 1, at += 4) {
      const value = Number.parseInt(hex.slice(1), 16);
      raster.data.set([value >> 16, (value >> 8) & 255, value & 255, 255], at);
    }
  return raster;
};
const none = { pinned: [], swaps: {} };
const codes = (raster: Raster, choice: Parameters<typeof sew>[1] = none) =>
  sew(raster, choice).map((used) => used.thread.code);

describe('threads', () => {
  it('are six at most (common practice, no source), whatever the colors', () => {
    const many = painted(
      ...Array.from(
        { length: 60 },
        (_, i) => [`#${((i * 277_933) % 0xffffff).toString(16).padStart(6, '0')}`, 10] as const,
      ),
    );
    expect(chooseThreads(many)).toHaveLength(MAX_THREADS);
    expect(new Set(codes(many)).size).toBeLessThanOrEqual(6);
  });

  it('are the nearest by CIEDE2000: no other of the palette is nearer to a single color', () => {
    for (const hex of ['#2b4850', '#cc3333', '#e8c030', '#101418', '#8fb0c8']) {
      const [thread] = chooseThreads(painted([hex, 100]));
      const own = colorDifference(labOf(hex), labOf(thread!.hex));
      // Colors are counted in 32 steps of each channel: that is what may be lost.
      for (const other of THREADS)
        expect(colorDifference(labOf(hex), labOf(other.hex))).toBeGreaterThanOrEqual(own - 2.5);
    }
  });

  it('of a design in palette colors are just those, with their shares', () => {
    const used = sew(painted(['#182a4a', 60], ['#d2342a', 30], ['#ffffff', 10]), none);
    expect(used.map(({ thread, share }) => [thread.name, Math.round(share * 100)])).toEqual([
      ['Deep channel', 60],
      ['Lifebuoy', 30],
      ['Chalk', 10],
    ]);
  });

  it('are sewn fully or not at all', () => {
    const raster = painted(['#ffffff', 3]);
    raster.data.set([100, 100, 100, 100], 4);
    raster.data.set([200, 200, 200, 200], 8);
    sew(raster, none);
    expect([...raster.data]).toEqual([255, 255, 255, 255, 0, 0, 0, 0, 255, 255, 255, 255]);
  });

  it('can be pinned and swapped', () => {
    const raster = () => painted(['#182a4a', 50], ['#ffffff', 50]);
    expect(chooseThreads(raster(), ['t12']).map((one) => one.code)).toContain('t12');
    expect(codes(raster(), { pinned: [], swaps: { t30: 't11' } }).sort()).toEqual(['t01', 't11']);
    expect(codes(raster(), { pinned: [], swaps: { t30: 'none' } }).sort()).toEqual(['t01', 't30']);
  });

  it('of nothing are none', () => {
    expect(sew(newRaster(4, 4), none)).toEqual([]);
    expect(codes(newRaster(4, 4), { pinned: ['t01'], swaps: {} })).toEqual([]);
  });
});

describe('strokes', () => {
  const bar = (thicknessPx: number): Raster => {
    const raster = newRaster(200, 60);
    for (let y = 20; y < 20 + thicknessPx; y += 1)
      for (let x = 10; x < 190; x += 1) raster.data.set([0, 0, 0, 255], (y * 200 + x) * 4);
    return raster;
  };

  it('thinner than a millimeter are found, wider ones are not', () => {
    // 254 DPI: ten pixels to the millimeter
    expect(thinShare(bar(5), 254)).toBe(1);
    expect(thinShare(bar(9), 254)).toBeGreaterThan(0.9);
    expect(thinShare(bar(12), 254)).toBeLessThan(0.03);
    expect(thinShare(bar(30), 254)).toBeLessThan(0.03);
    expect(thinShare(newRaster(10, 10), 254)).toBe(0);
  });
});
