import { scaling, chain, translation } from '@/core/geometry/matrix';
import type { Box } from '@/core/geometry/box';
import { pathBox, type InkedPath } from '@/core/paths/path';
import { drawInks } from '@/core/paths/scan';
import { newRaster, type Raster } from '@/core/print/pixels';
import { unpremultiply } from '@/core/print/pixels';

/** A picture of inks and where it lies in their own space. */
export interface InkPicture {
  /** Straight alpha, as a browser's canvas takes it. */
  readonly raster: Raster;
  readonly box: Box;
}

/** Longest side of a picture, px: what is seen on a screen, and no more. */
const MAX_SIDE_PX = 1600;

/**
 * Inks as pixels, drawn by the code that draws print files, `pxPerUnit` px to a unit of their space (less where that would be very large).
 * Null when they draw nothing.
 */
export function pictureOfInks(inks: readonly InkedPath[], pxPerUnit: { x: number; y: number }): InkPicture | null {
  const boxes = inks.flatMap((ink) => pathBox(ink.path) ?? []);
  if (boxes.length === 0) return null;
  const box = {
    left: Math.min(...boxes.map((b) => b.left)),
    top: Math.min(...boxes.map((b) => b.top)),
    right: Math.max(...boxes.map((b) => b.right)),
    bottom: Math.max(...boxes.map((b) => b.bottom)),
  };
  const [wide, high] = [(box.right - box.left) * pxPerUnit.x, (box.bottom - box.top) * pxPerUnit.y];
  const shrink = Math.min(1, MAX_SIDE_PX / Math.max(wide, high, 1));
  const widthPx = Math.max(1, Math.ceil(wide * shrink));
  const heightPx = Math.max(1, Math.ceil(high * shrink));
  const raster = newRaster(widthPx, heightPx);
  const toPx = chain(
    translation(-box.left, -box.top),
    scaling(widthPx / (box.right - box.left || 1), heightPx / (box.bottom - box.top || 1)),
  );
  drawInks(raster, inks, toPx);
  unpremultiply(raster.data);
  return { raster, box };
}
