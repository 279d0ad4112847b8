import { describe, expect, it } from 'vitest';
import type { Geometry } from '../geometry/area';
import type { Box } from '../geometry/box';
import { newRaster, type Raster } from '../print/pixels';
import { finishSheet, planArt } from './art';
import { finishOf } from './finish';
import { ShotKernel } from './kernel';
import { planesOf } from './planes';
import { flatShot } from './sample';

const INK = finishOf('uv', 'paper');
const flat = { ...INK, reliefMm: 0 };
const geometry = (sideMm: number): Geometry => ({
  widthMm: sideMm,
  heightMm: sideMm,
  outline: null,
  anchor: { xMm: 0, yMm: 0 },
  bleedMm: 0,
  safeMm: 0,
  dpi: 300,
  technique: 'uv',
});

/** A square of yellow on a window of a sheet; both in pixels of the sheet. */
function sheet(window: Box, square: Box): Raster {
  const raster = newRaster(window.right - window.left, window.bottom - window.top);
  for (let y = window.top; y < window.bottom; y += 1)
    for (let x = window.left; x < window.right; x += 1) {
      const inside = x >= square.left && x < square.right && y >= square.top && y < square.bottom;
      if (inside) raster.data.set([250, 210, 20, 255], ((y - window.top) * raster.widthPx + x - window.left) * 4);
    }
  return raster;
}

/** Largest difference of two pictures of a square: of the whole sheet as it was drawn, and of what `planArt` and `finishSheet` leave of it. */
function difference(sideMm: number, pxPerMm: number, square: Box, plain: boolean) {
  const plan = planArt(geometry(sideMm), flat, { pxPerMm, seenMm: { left: 0, top: 0, right: 32, bottom: 32 } });
  const art = finishSheet(sheet(plan.window, square), geometry(sideMm), flat, plan);
  const all = { left: 0, top: 0, right: sideMm * pxPerMm, bottom: sideMm * pxPerMm };
  const [of, whole] = [0, 1].map(() => new ShotKernel(planesOf(flatShot()), { plain })) as [ShotKernel, ShotKernel];
  of.print('main.front', art, flat);
  whole.print('main.front', { raster: sheet(all, square), leftMm: 0, topMm: 0, pxPerMm }, flat);
  const [a, b] = [of, whole].map((kernel) => kernel.picture({ hex: '#2d4a53', heather: false })) as [
    Uint8Array,
    Uint8Array,
  ];
  const bare = new ShotKernel(planesOf(flatShot()), { plain }).picture({ hex: '#2d4a53', heather: false });
  return {
    art,
    most: a.reduce((most, value, i) => Math.max(most, Math.abs(value - b[i]!)), 0),
    seen: Buffer.compare(b, bare) !== 0,
  };
}

describe('what is drawn of a sheet for a picture', () => {
  it.each([
    ['in the middle', { left: 120, top: 110, right: 140, bottom: 150 }, true],
    ['at an edge', { left: 0, top: 110, right: 30, bottom: 150 }, false],
    ['in a corner', { left: 226, top: 240, right: 256, bottom: 256 }, false],
  ])('a small square %s is cut out, and the picture stays as it was', (_, square, bare) => {
    for (const plain of [false, true]) {
      const { art, most, seen } = difference(32, 8, square, plain);
      expect(seen).toBe(true);
      expect(most).toBeLessThanOrEqual(1);
      expect(art.bare).toBe(bare);
      expect(art.raster.widthPx * art.raster.heightPx).toBeLessThan(256 * 256 * 0.7);
    }
  });

  it('of a sheet that is seen in part, that part; the picture stays as it was', () => {
    // 400 mm at 2 px a mm, of which the shot sees 32 mm.
    const square = { left: 20, top: 10, right: 300, bottom: 200 };
    const { art, most, seen } = difference(400, 2, square, false);
    expect(seen).toBe(true);
    expect(most).toBeLessThanOrEqual(1);
    expect(art.raster.widthPx).toBeLessThanOrEqual(128);
  });

  it('an empty sheet prints nothing', () => {
    const { seen, most } = difference(32, 8, { left: 0, top: 0, right: 0, bottom: 0 }, false);
    expect([seen, most]).toEqual([false, 0]);
  });

  it('what is stitched is drawn whole and fine enough for its threads', () => {
    const sewn = finishOf('embroidery', 'cotton');
    const plan = planArt(geometry(100), sewn, { pxPerMm: 2, seenMm: { left: 0, top: 0, right: 10, bottom: 10 } });
    expect(plan.window).toEqual({ left: 0, top: 0, right: 600, bottom: 600 });
  });
});
