import sharp from 'sharp';
import { printedBox } from '@/core/geometry/area';
import { axisLengths, chain, scaling, translation, type Matrix } from '@/core/geometry/matrix';
import type { ArtworkSource, SheetPlan } from '@/core/print/plan';
import { drawAffine, newRaster, premultiply, type Raster } from '@/core/print/raster';
import { mmToPx } from '@/core/units/length';
import { readBlob } from '../blobs/blobs';
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

/** Draws a sheet, bleed included, at a density. The one way from a design to pixels: print files and mock-ups both go through it. */
export async function composeSheet(ctx: Context, sheet: SheetPlan, dpi: number): Promise<Raster> {
  const { geometry } = sheet;
  const target = newRaster(
    mmToPx(geometry.widthMm + 2 * geometry.bleedMm, dpi),
    mmToPx(geometry.heightMm + 2 * geometry.bleedMm, dpi),
  );
  const mmToSheet = sheetMatrix(sheet, target.widthPx, target.heightPx);
  for (const { artwork, unitToMm } of sheet.layers) {
    const unitToPx = chain(unitToMm, mmToSheet);
    const sides = axisLengths(unitToPx);
    const source = await decodeArtwork(ctx, artwork, Math.max(sides.x, sides.y));
    drawAffine(target, source, chain(scaling(1 / source.widthPx, 1 / source.heightPx), unitToPx));
  }
  return target;
}
