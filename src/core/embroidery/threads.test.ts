import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { colorDifference, labOf } from '../catalog/families';
import { newRaster, type Raster } from '../print/pixels';
import { chooseThreads } from './choose';
import { designColors, sewnPixels } from './colors';
import { MAX_THREADS } from './limits';
import { THREADS } from './palette';
import { sew } from './sew';
import { thinShare } from './strokes';

/** Bars side by side, each 8 px high and so many px wide. */
const painted = (...runs: readonly (readonly [hex: string, widthPx: number])[]): Raster => {
  const raster = newRaster(
    runs.reduce((sum, [, n]) => sum + n, 0),
    8,
  );
  let left = 0;
  for (const [hex, widthPx] of runs) {
    const value = Number.parseInt(hex.slice(1), 16);
    for (let y = 0; y < 8; y += 1)
      for (let x = left; x < left + widthPx; x += 1)
        raster.data.set([value >> 16, (value >> 8) & 255, value & 255, 255], (y * raster.widthPx + x) * 4);
    left += widthPx;
  }
  return raster;
};
const bars = (colors: readonly string[]) => painted(...colors.map((hex) => [hex, 20] as const));
const plan = (raster: Raster, pinned: readonly string[] = []) => chooseThreads(sewnPixels(raster), pinned);
const sewn = (raster: Raster, pinned: readonly string[] = [], swaps = {}) => sew(raster, plan(raster, pinned), swaps);
const codes = (...args: Parameters<typeof sewn>) => sewn(...args).map(({ thread }) => thread.code);
const names = (colors: readonly string[]) => plan(bars(colors)).map(({ thread }) => thread.name);
const hexes = THREADS.map(({ hex }) => hex);
/** An edge over four pixels between two colors, as a drawing program softens it. */
function softEdge(raster: Raster, x: number): void {
  for (let y = 0; y < raster.heightPx; y += 1)
    for (let c = 0; c < 3; c += 1) {
      const [a, b] = [
        raster.data[(y * raster.widthPx + x - 1) * 4 + c]!,
        raster.data[(y * raster.widthPx + x) * 4 + c]!,
      ];
      raster.data[(y * raster.widthPx + x - 1) * 4 + c] = Math.round(0.7 * a + 0.3 * b);
      raster.data[(y * raster.widthPx + x) * 4 + c] = Math.round(0.3 * a + 0.7 * b);
    }
}

describe('threads', () => {
  it('of up to six colors of the palette are just those, whichever and however much of each', () => {
    fc.assert(
      fc.property(fc.subarray(hexes, { minLength: 1, maxLength: MAX_THREADS }), fc.array(fc.nat(40)), (own, sizes) => {
        const raster = painted(...own.map((hex, i) => [hex, 6 + (sizes[i] ?? 0)] as const));
        expect(
          plan(raster)
            .map(({ color }) => color)
            .sort(),
        ).toEqual([...own].sort());
        const used = sewn(raster);
        expect(used.map(({ thread }) => thread.hex).sort()).toEqual([...own].sort());
        expect(used.every(({ difference }) => difference === 0)).toBe(true);
      }),
      { numRuns: 1000 },
    );
  });

  it('are chosen together: the six bars and the six pure colors that were sewn wrong one after the other', () => {
    expect(names(['#f6b73c', '#d2342a', '#f3ead6', '#182a4a', '#7b8288', '#ef7a24']).sort()).toEqual(
      ['Lamp', 'Lifebuoy', 'Sailcloth', 'Deep channel', 'Pewter', 'Buoy orange'].sort(),
    );
    const pure = ['#ff0000', '#00a651', '#0054a6', '#ffde00', '#000000', '#ffffff'];
    const threads = names(pure);
    expect(new Set(threads).size).toBe(6);
    expect(threads).toEqual(expect.arrayContaining(['Lifebuoy', 'Signal blue', 'Coal', 'Chalk']));
  });

  it('are the best of all ways to give each color its own: against trying every one', () => {
    const color = fc.integer({ min: 0, max: 0xffffff }).map((n) => `#${n.toString(16).padStart(6, '0')}`);
    fc.assert(
      fc.property(fc.array(color, { minLength: 2, maxLength: 3 }), (colors) => {
        const labs = colors.map(labOf);
        fc.pre(labs.every((a, i) => labs.every((b, j) => i === j || colorDifference(a, b) >= 9)));
        const costs = labs.map((lab) => THREADS.map(({ hex }) => colorDifference(lab, labOf(hex)) ** 2));
        let least = Infinity;
        const every = (i: number, sum: number, taken: readonly number[]) => {
          if (i === labs.length) least = Math.min(least, sum);
          else THREADS.forEach((_, t) => taken.includes(t) || every(i + 1, sum + costs[i]![t]!, [...taken, t]));
        };
        every(0, 0, []);
        const got = plan(bars(colors)).reduce(
          (sum, { color: own, thread }) => sum + colorDifference(labOf(own), labOf(thread.hex)) ** 2,
          0,
        );
        expect(got).toBeCloseTo(least, 6);
      }),
      { numRuns: 60 },
    );
  });

  it('are six at most (common practice, no source), whatever the colors; no exchange of one brings the whole nearer', () => {
    const many = painted(
      ...Array.from(
        { length: 60 },
        (_, i) => [`#${((i * 277_933) % 0xffffff).toString(16).padStart(6, '0')}`, 4] as const,
      ),
    );
    const chosen = plan(many).map(({ thread }) => thread);
    expect(chosen).toHaveLength(MAX_THREADS);
    const colors = designColors(sewnPixels(many), 12);
    const sum = (threads: readonly string[]) =>
      colors.reduce(
        (all, { lab, count }) => all + count * Math.min(...threads.map((hex) => colorDifference(lab, labOf(hex)))) ** 2,
        0,
      );
    const own = chosen.map(({ hex }) => hex);
    const least = sum(own);
    for (let at = 0; at < own.length; at += 1)
      for (const { hex } of THREADS) expect(sum(own.with(at, hex))).toBeGreaterThanOrEqual(least - 1e-6);
  });

  it('are not taken for soft rims between colors: these go to what lies beside them', () => {
    const raster = painted(['#182a4a', 40], ['#f3ead6', 40], ['#d2342a', 40], ['#f6b73c', 40]);
    for (const x of [40, 80, 120]) softEdge(raster, x);
    const used = sewn(raster);
    expect(used.map(({ thread }) => thread.name).sort()).toEqual(['Deep channel', 'Lamp', 'Lifebuoy', 'Sailcloth']);
    // Each edge lies where it was drawn.
    const row = Array.from({ length: 160 }, (_, x) => raster.data[x * 4]);
    expect(row.slice(38, 42)).toEqual([0x18, 0x18, 0xf3, 0xf3]);
  });

  it('are not taken for a speck of less than about a square millimeter', () => {
    const raster = painted(['#182a4a', 60], ['#ffffff', 60]);
    for (const [x, y] of [
      [30, 3],
      [31, 3],
      [30, 4],
      [31, 4],
    ] as const)
      raster.data.set([210, 52, 42, 255], (y * 120 + x) * 4);
    expect(names(['#182a4a', '#ffffff']).sort()).toEqual(['Chalk', 'Deep channel']);
    expect(codes(raster).sort()).toEqual(['t01', 't30']);
  });

  it('tell the color that each stands for, with its difference and its share', () => {
    const used = sewn(painted(['#182a4a', 60], ['#d0382c', 30], ['#ffffff', 10]));
    expect(used.map(({ thread, color, share }) => [thread.name, color, Math.round(share * 100)])).toEqual([
      ['Deep channel', '#182a4a', 60],
      ['Lifebuoy', '#d0382c', 30],
      ['Chalk', '#ffffff', 10],
    ]);
    expect(used[1]!.difference).toBeCloseTo(colorDifference(labOf('#d0382c'), labOf('#d2342a')), 6);
  });

  it('are sewn fully or not at all', () => {
    const raster = painted(['#ffffff', 3]);
    raster.data.set([100, 100, 100, 100], 4);
    raster.data.set([200, 200, 200, 200], 8);
    sewn(raster);
    expect([...raster.data.slice(0, 12)]).toEqual([255, 255, 255, 255, 0, 0, 0, 0, 255, 255, 255, 255]);
  });

  it('can be pinned and swapped', () => {
    const raster = () => painted(['#182a4a', 50], ['#ffffff', 50]);
    // A pinned thread is taken for what is nearly its color, though another is nearer still.
    expect(codes(painted(['#c9452c', 50]), ['t12'])).toEqual(['t12']);
    expect(codes(raster(), [], { t30: 't11' }).sort()).toEqual(['t01', 't11']);
    expect(codes(raster(), [], { t30: 'none' }).sort()).toEqual(['t01', 't30']);
    // Six that are pinned leave no room: each color in the nearest of them.
    expect(codes(bars(['#182a4a', '#d2342a']), ['t01', 't02', 't03', 't04', 't05', 't07']).length).toBeLessThanOrEqual(
      2,
    );
  });

  it('of nothing are none', () => {
    expect(sewn(newRaster(4, 4))).toEqual([]);
    expect(codes(newRaster(4, 4), ['t01'])).toEqual([]);
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
