import type { Geometry } from '../geometry/area';
import type { Matrix } from '../geometry/matrix';
import { parsePath } from '../paths/parse';
import { coverPath, type Coverage } from '../paths/scan';
import { strokePath } from '../paths/stroke';
import type { Raster } from './pixels';

/** Curves of a bleed around an outline are taken as straight within this, mm. */
const TOLERANCE_MM = 0.02;

/** How much of a pixel lies within a covered path, 0 to 1. */
function shareOf(cover: Coverage | null, x: number, y: number): number {
  const [cx, cy] = [x - (cover?.left ?? 0), y - (cover?.top ?? 0)];
  return cover && cx >= 0 && cy >= 0 && cx < cover.width && cy < cover.height ? cover.data[cy * cover.width + cx]! : 0;
}

/**
 * Cuts a premultiplied raster to an area's outline and its bleed around it, in place: what is outside is not printed. Areas that are rectangles are left as
 * they are. `toPx` leads from mm of the trim to the raster's pixels.
 */
export function cutToOutline(
  { widthPx, heightPx, data }: Raster,
  { outline, bleedMm }: Pick<Geometry, 'outline' | 'bleedMm'>,
  toPx: Matrix,
): void {
  if (outline === null) return;
  const size = { width: widthPx, height: heightPx };
  const path = parsePath(outline);
  const inner = coverPath(path, toPx, size);
  const rim = bleedMm > 0 ? coverPath(strokePath(path, 2 * bleedMm, TOLERANCE_MM), toPx, size) : null;
  for (let y = 0; y < heightPx; y += 1)
    for (let x = 0; x < widthPx; x += 1) {
      const share = Math.max(shareOf(inner, x, y), shareOf(rim, x, y));
      if (share === 1) continue;
      const i = (y * widthPx + x) * 4;
      for (let c = i; c < i + 4; c += 1) data[c] = Math.round(data[c]! * share);
    }
}
