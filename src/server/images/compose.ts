import sharp from 'sharp';
import { printedBox } from '@/core/geometry/area';
import { axisLengths, chain, scaling, translation, type Matrix } from '@/core/geometry/matrix';
import { parseHex } from '@/core/artwork/color';
import { thinShare } from '@/core/embroidery/strokes';
import { sew, type UsedThread } from '@/core/embroidery/threads';
import { ornamentByCode } from '@/core/ornaments/ornaments';
import { mapPath, type InkedPath } from '@/core/paths/path';
import { drawInks } from '@/core/paths/scan';
import type { ArtworkSource, PlannedLayer, SheetPlan } from '@/core/print/plan';
import { drawAffine, newRaster, premultiply, type Raster } from '@/core/print/raster';
import { mmToPx } from '@/core/units/length';
import { readBlob } from '../blobs/blobs';
import { setLettering } from '../lettering/fonts';
import type { Context } from '../context';
import { renderSvg } from './ingest';
import { MAX_PIXELS } from './limits';

/** Map from mm of the trim to pixels of the sheet, for a sheet of this many pixels. */
export function sheetMatrix(sheet: SheetPlan, widthPx: number, heightPx: number): Matrix {
  const box = printedBox(sheet.geometry);
  return chain(
    translation(-box.left, -box.top),
    scaling(widthPx / (box.right - box.left), heightPx / (box.bottom - box.top)),
  );
}

/**
 * An artwork's pixels, premultiplied, about as fine as they will be drawn: vectors are drawn at that size, and a picture more than 1.5
 * times too fine is reduced by libvips first, which filters better than halving.
 */
async function decodeArtwork(ctx: Context, artwork: ArtworkSource, longPx: number): Promise<Raster> {
  const bytes = await readBlob(ctx, artwork.sha256);
  const own = Math.max(artwork.widthPx, artwork.heightPx);
  let image = artwork.vector
    ? renderSvg(
        bytes.toString('utf8'),
        artwork.widthPx,
        artwork.heightPx,
        Math.min(12_000, Math.max(1, Math.ceil(longPx))),
      )
    : sharp(bytes, { limitInputPixels: MAX_PIXELS }).autoOrient().toColourspace('srgb');
  if (!artwork.vector && own > longPx * 1.5) {
    const scale = longPx / own;
    image = image.resize(
      Math.max(1, Math.round(artwork.widthPx * scale)),
      Math.max(1, Math.round(artwork.heightPx * scale)),
      { fit: 'fill' },
    );
  }
  const { data, info } = await image.ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  const raster = {
    widthPx: info.width,
    heightPx: info.height,
    data: new Uint8Array(data.buffer, data.byteOffset, data.byteLength),
  };
  premultiply(raster.data);
  return raster;
}

/** All ink of a raster in one color; its alpha stays. */
function tintRaster(raster: Raster, color: string): void {
  const [r, g, b] = parseHex(color);
  const { data } = raster;
  for (let i = 0; i < data.length; i += 4) {
    const alpha = data[i + 3]! / 255;
    data[i] = r * alpha + 0.5;
    data[i + 1] = g * alpha + 0.5;
    data[i + 2] = b * alpha + 0.5;
  }
}

/** What a text or an ornament draws, in its unit square. */
async function inksOf(layer: Exclude<PlannedLayer, { kind: 'artwork' }>): Promise<readonly InkedPath[]> {
  if (layer.kind === 'ornament') {
    const ornament = ornamentByCode(layer.ornament);
    const fit = scaling(1, 1 / (ornament?.aspect ?? 1));
    return ornament ? [{ path: mapPath(ornament.path, fit), color: layer.color }] : [];
  }
  const { boxWidthMm, boxHeightMm } = layer.lettering;
  const { inks } = await setLettering(layer.lettering);
  return inks.map(({ path, color }) => ({ path: mapPath(path, scaling(1 / boxWidthMm, 1 / boxHeightMm)), color }));
}

/** What an embroidered sheet is sewn in, and how much of it is too thin to be sewn; none for other sheets. */
export async function sewnOf(ctx: Context, sheet: SheetPlan): Promise<{ threads: UsedThread[]; thinShare: number }> {
  if (!sheet.threads) return { threads: [], thinShare: 0 };
  const raster = await drawSheet(ctx, sheet, THREADS_DPI);
  const threads = sew(raster, sheet.threads);
  return { threads, thinShare: thinShare(raster, THREADS_DPI) };
}

/** Fine enough to see what is sewn in which thread. */
const THREADS_DPI = 100;

/** Draws a sheet, bleed included, at a density. The one way from a design to pixels: print files and mock-ups both go through it. */
export async function composeSheet(ctx: Context, sheet: SheetPlan, dpi: number): Promise<Raster> {
  const raster = await drawSheet(ctx, sheet, dpi);
  // Threads are chosen at one density for all: a proof and a print file are sewn in the same.
  if (sheet.threads) {
    const chosen = (await sewnOf(ctx, sheet)).threads.map(({ from }) => from.code);
    sew(raster, { ...sheet.threads, pinned: chosen }, true);
  }
  return raster;
}

async function drawSheet(ctx: Context, sheet: SheetPlan, dpi: number): Promise<Raster> {
  const { geometry } = sheet;
  const target = newRaster(
    mmToPx(geometry.widthMm + 2 * geometry.bleedMm, dpi),
    mmToPx(geometry.heightMm + 2 * geometry.bleedMm, dpi),
  );
  const mmToSheet = sheetMatrix(sheet, target.widthPx, target.heightPx);
  for (const layer of sheet.layers) {
    const unitToPx = chain(layer.unitToMm, mmToSheet);
    if (layer.kind !== 'artwork') {
      drawInks(target, await inksOf(layer), unitToPx);
      continue;
    }
    const sides = axisLengths(unitToPx);
    const source = await decodeArtwork(ctx, layer.artwork, Math.max(sides.x, sides.y));
    if (layer.tint) tintRaster(source, layer.tint);
    drawAffine(target, source, chain(scaling(1 / source.widthPx, 1 / source.heightPx), unitToPx));
  }
  return target;
}
