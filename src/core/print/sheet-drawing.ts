import { parseHex } from '../artwork/color';
import { chooseThreads, type ThreadPlan } from '../embroidery/choose';
import { sewnPixels } from '../embroidery/colors';
import { printSizePx, sheetMatrix } from '../geometry/area';
import type { Geometry } from '../geometry/area';
import type { Box } from '../geometry/box';
import { chain, scaling, translation, type Matrix } from '../geometry/matrix';
import { ornamentByCode } from '../ornaments/ornaments';
import { mapPath, type InkedPath } from '../paths/path';
import type { PlannedLayer, SheetPlan } from './plan';
import type { Raster } from './pixels';

/**
 * What print files and the proof in the browser share when they draw a sheet. Where pixels come from, and what is kept between two
 * pictures, is each one's own matter: one draws strip by strip from files, the other again and again from what it holds.
 */

/** A sheet at a density, or the `window` of it in its pixels: its size, and where a place on the area (mm) lies in it. */
export function sheetFrame(geometry: Geometry, dpi: number, window: Box | null) {
  const { widthPx, heightPx } = printSizePx(geometry, dpi);
  const { left, top, right, bottom } = window ?? { left: 0, top: 0, right: widthPx, bottom: heightPx };
  const mmToPx: Matrix = chain(sheetMatrix(geometry, widthPx, heightPx), translation(-left, -top));
  return { left, top, right, bottom, widthPx: right - left, heightPx: bottom - top, mmToPx };
}

/** From an artwork's own pixels to those that it is drawn into. */
export const fromSource = (source: Raster, unitToPx: Matrix): Matrix =>
  chain(scaling(1 / source.widthPx, 1 / source.heightPx), unitToPx);

/** All ink of a raster in one color; its alpha stays. Premultiplied RGBA, 8 bits; the raster that is given stays as it is. */
export function tinted(raster: Raster, color: string): Raster {
  const [r, g, b] = parseHex(color);
  const data = raster.data.slice();
  for (let i = 0; i < data.length; i += 4) {
    const alpha = data[i + 3]! / 255;
    data[i] = r * alpha + 0.5;
    data[i + 1] = g * alpha + 0.5;
    data[i + 2] = b * alpha + 0.5;
  }
  return { ...raster, data };
}

type LayerOf<K extends PlannedLayer['kind']> = Extract<PlannedLayer, { readonly kind: K }>;

/** What an ornament draws in its unit square; nothing for one that is not known. */
export function ornamentInks({ ornament: code, color }: LayerOf<'ornament'>): readonly InkedPath[] {
  const ornament = ornamentByCode(code);
  return ornament ? [{ path: mapPath(ornament.path, scaling(1, 1 / ornament.aspect)), color }] : [];
}

/** What a text draws in its unit square. `set` are its letters as they are set in the box, mm. */
export function letteringInks({ lettering }: LayerOf<'text'>, set: readonly InkedPath[]): readonly InkedPath[] {
  const toUnit = scaling(1 / lettering.boxWidthMm, 1 / lettering.boxHeightMm);
  return set.map(({ path, color }) => ({ path: mapPath(path, toUnit), color }));
}

/** The threads of a sheet. `drawn` is the sheet at `THREADS_DPI`, so that a proof and a print file are sewn in the same. */
export const threadPlan = (drawn: Raster, { pinned }: NonNullable<SheetPlan['threads']>): ThreadPlan =>
  chooseThreads(sewnPixels(drawn), pinned);
