import { printSizePx, sheetMatrix } from '@/core/geometry/area';
import { axisLengths } from '@/core/geometry/matrix';
import { cutToOutline } from '@/core/print/cut';
import type { SheetPlan } from '@/core/print/plan';
import { mmToPx } from '@/core/units/length';
import { composeSheet, LARGE_PIXELS, openSheet, type OpenSheet, type ReadBytes } from '../images/compose';
import { encodePng, isOpaque, rowsOf } from '../images/png';

/** Sources that are held at a time while a sheet is drawn strip by strip; with more it is drawn layer by layer. */
const HELD_BYTES = 300e6;

/** Bytes that the pixels of each artwork take as it is drawn. */
const sourceBytes = (sheet: SheetPlan): number[] =>
  sheet.layers.flatMap((layer) => {
    if (layer.kind !== 'artwork') return [];
    const sides = axisLengths(layer.unitToMm);
    const drawn = mmToPx(sides.x, sheet.geometry.dpi) * mmToPx(sides.y, sheet.geometry.dpi);
    const own = layer.artwork.widthPx * layer.artwork.heightPx;
    return 4 * (layer.artwork.vector ? drawn : own > LARGE_PIXELS ? Math.min(own, drawn) : own);
  });

const held = (sheet: SheetPlan): number => sourceBytes(sheet).reduce((sum, bytes) => sum + bytes, 0);
const inStrips = (sheet: SheetPlan): boolean =>
  !sheet.threads && (sourceBytes(sheet).length <= 1 || held(sheet) <= HELD_BYTES);

/** Bytes that printing a sheet takes at its highest, about. */
export function roomOf(sheet: SheetPlan): number {
  if (inStrips(sheet)) return held(sheet);
  const { widthPx, heightPx } = printSizePx(sheet.geometry);
  return widthPx * heightPx * 4 + Math.max(0, ...sourceBytes(sheet));
}

const STRIP_ROWS = 256;

/** Whether every pixel of a sheet is opaque. */
function coversAll(open: OpenSheet): boolean {
  for (let y = 0; y < open.heightPx; y += STRIP_ROWS)
    if (!isOpaque(open.strip(y, Math.min(open.heightPx, y + STRIP_ROWS)))) return false;
  return true;
}

/** Hashes of the files that a sheet is drawn from. */
export const sourcesOf = (sheet: SheetPlan): Set<string> =>
  new Set(sheet.layers.flatMap((layer) => (layer.kind === 'artwork' ? [layer.artwork.sha256] : [])));

/**
 * The PNG of a sheet at its own density: strip by strip where its sources fit beside each other, so that a poster is never in memory as a
 * whole. A good with bleed that is covered all over has no alpha channel; everything else has one.
 */
export async function printSheet(read: ReadBytes, sheet: SheetPlan): Promise<Buffer> {
  const { dpi, bleedMm } = sheet.geometry;
  if (inStrips(sheet)) {
    const open = await openSheet(read, sheet, dpi);
    if (bleedMm === 0) return encodePng(open, dpi, 'rgba');
    // Whether a sheet with bleed has holes is for its pixels to say, where its layers do not: they are drawn twice rather than held.
    return encodePng(open, dpi, open.opaque || coversAll(open) ? 'rgb' : 'rgba');
  }
  const raster = await composeSheet(read, sheet, dpi);
  cutToOutline(raster, sheet.geometry, sheetMatrix(sheet.geometry, raster.widthPx, raster.heightPx));
  return encodePng(rowsOf(raster), dpi, bleedMm > 0 && isOpaque(raster) ? 'rgb' : 'rgba');
}
