import { stitch } from '../embroidery/stitches';
import { printedBox, type Geometry } from '../geometry/area';
import { chain, scaling, translation } from '../geometry/matrix';
import { coverPath } from '../paths/scan';
import { parsePath } from '../paths/parse';
import type { Raster } from '../print/raster';
import type { Finish } from './finish';
import type { AreaArt } from './kernel';
import { raiseEdges } from './relief';

/** Embroidery is drawn at this density or finer: at a coarser one its threads could not be told. Px a mm. */
const STITCH_PX_PER_MM = 6;

/** Density at which a sheet is drawn for a picture that needs `pxPerMm`. */
export const artDensity = (finish: Finish, pxPerMm: number): number =>
  finish.stitched ? Math.max(STITCH_PX_PER_MM, pxPerMm) : pxPerMm;

/** A drawn sheet as the technique leaves it on the good: stitched, raised, cut to the area's outline. The raster is changed. */
export function finishSheet(raster: Raster, geometry: Geometry, finish: Finish): AreaArt {
  const box = printedBox(geometry);
  const pxPerMm = raster.widthPx / (box.right - box.left);
  if (finish.stitched) stitch(raster, pxPerMm);
  if (finish.reliefMm > 0) raiseEdges(raster, finish.reliefMm * pxPerMm);
  if (geometry.outline) cutToOutline(raster, geometry, pxPerMm);
  return { raster, leftMm: box.left, topMm: box.top, pxPerMm };
}

/** What is outside of the outline is not printed. */
function cutToOutline({ widthPx, heightPx, data }: Raster, geometry: Geometry, pxPerMm: number): void {
  const box = printedBox(geometry);
  const toPx = chain(translation(-box.left, -box.top), scaling(pxPerMm));
  const cover = coverPath(parsePath(geometry.outline!), toPx, { width: widthPx, height: heightPx });
  for (let y = 0; y < heightPx; y += 1)
    for (let x = 0; x < widthPx; x += 1) {
      const [cx, cy] = [x - (cover?.left ?? 0), y - (cover?.top ?? 0)];
      const inside = cover && cx >= 0 && cy >= 0 && cx < cover.width && cy < cover.height;
      const share = inside ? cover.data[cy * cover.width + cx]! : 0;
      if (share === 1) continue;
      const i = (y * widthPx + x) * 4;
      for (let c = i; c < i + 4; c += 1) data[c] = Math.round(data[c]! * share);
    }
}
