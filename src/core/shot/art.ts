import { alphaBounds } from '../artwork/analysis';
import { stitch } from '../embroidery/stitches';
import { printedBox, printSizePx, type Geometry } from '../geometry/area';
import type { Box } from '../geometry/box';
import { chain, scaling, translation } from '../geometry/matrix';
import { cutToOutline } from '../print/cut';
import { newRaster, type Raster } from '../print/pixels';
import type { AreaView } from './area-view';
import type { Finish } from './finish';
import type { AreaArt } from './kernel';
import { LEVELS } from './kernel-memory';
import { MM_PER_INCH } from '../units/length';
import { raiseEdges } from './relief';

/** Embroidery is drawn at this density or finer: at a coarser one its threads could not be told. Px a mm. */
const STITCH_PX_PER_MM = 6;

/** How a sheet is drawn for a picture. */
export interface ArtPlan {
  readonly dpi: number;
  /** What of it is drawn, in whole pixels of the whole sheet. */
  readonly window: Box;
}

/** Copies are halved this often; room that is left around a piece is a pixel of the smallest, so that its rim is empty too. */
const RIM_PX = 2 ** (LEVELS - 1);

/**
 * Plans a sheet for a picture: no more of it is drawn than is seen, and no finer. What is
 * stitched is drawn whole: how a shape is sewn depends on all of it.
 */
export function planArt(geometry: Geometry, finish: Finish, { pxPerMm, seenMm }: AreaView): ArtPlan {
  const density = finish.stitched ? Math.max(STITCH_PX_PER_MM, pxPerMm) : pxPerMm;
  const dpi = density * MM_PER_INCH;
  const { widthPx, heightPx } = printSizePx(geometry, dpi);
  if (finish.stitched) return { dpi, window: { left: 0, top: 0, right: widthPx, bottom: heightPx } };
  const all = printedBox(geometry);
  const [x, y] = [widthPx / (all.right - all.left), heightPx / (all.bottom - all.top)];
  const rim = RIM_PX + Math.ceil(finish.reliefMm * density);
  const seen = {
    left: (seenMm.left - all.left) * x,
    top: (seenMm.top - all.top) * y,
    right: (seenMm.right - all.left) * x,
    bottom: (seenMm.bottom - all.top) * y,
  };
  return { dpi, window: around(seen, rim, widthPx, heightPx) };
}

/** A box with a rim about it, as far as there is a sheet, on the grid of the smallest copy: so a design that is moved is halved alike at every place. */
function around(box: Box, rimPx: number, widthPx: number, heightPx: number): Box {
  const down = (v: number, most: number) => Math.max(0, Math.min(most - 1, Math.floor((v - rimPx) / RIM_PX) * RIM_PX));
  const up = (v: number, from: number, most: number) =>
    Math.max(from + 1, Math.min(most, Math.ceil((v + rimPx) / RIM_PX) * RIM_PX));
  const [left, top] = [down(box.left, widthPx), down(box.top, heightPx)];
  return { left, top, right: up(box.right, left, widthPx), bottom: up(box.bottom, top, heightPx) };
}

/** The drawn window of a sheet as the technique leaves it on the good: stitched, raised, cut to the area's outline. The raster is changed. */
export function finishSheet(raster: Raster, geometry: Geometry, finish: Finish, { dpi, window }: ArtPlan): AreaArt {
  const box = printedBox(geometry);
  const pxPerMm = printSizePx(geometry, dpi).widthPx / (box.right - box.left);
  const [leftMm, topMm] = [box.left + window.left / pxPerMm, box.top + window.top / pxPerMm];
  if (finish.stitched) stitch(raster, pxPerMm);
  if (finish.reliefMm > 0) raiseEdges(raster, finish.reliefMm * pxPerMm);
  // On the good the bleed is gone too.
  cutToOutline(raster, { ...geometry, bleedMm: 0 }, chain(translation(-leftMm, -topMm), scaling(pxPerMm)));
  return withoutEmpty({ raster, leftMm, topMm, pxPerMm });
}

/** A piece is cut out of a sheet when it is less than this share of it: cutting costs too. */
const WORTH = 0.7;

/** What is inked of a piece, without the empty part around it, which would cost as much as the rest. */
function withoutEmpty(art: AreaArt): AreaArt {
  const { widthPx, heightPx, data } = art.raster;
  const ink = alphaBounds({ widthPx, heightPx, rgba: data }, 0) ?? { left: 1, top: 1, right: 1, bottom: 1 };
  const bare = ink.left > 0 && ink.top > 0 && ink.right < widthPx && ink.bottom < heightPx;
  const { left, top, right, bottom } = around(ink, RIM_PX, widthPx, heightPx);
  if ((right - left) * (bottom - top) > widthPx * heightPx * WORTH) return { ...art, bare };
  const raster = newRaster(right - left, bottom - top);
  for (let y = top; y < bottom; y += 1) {
    const row = y * widthPx;
    raster.data.set(data.subarray((row + left) * 4, (row + right) * 4), (y - top) * raster.widthPx * 4);
  }
  return {
    raster,
    leftMm: art.leftMm + left / art.pxPerMm,
    topMm: art.topMm + top / art.pxPerMm,
    pxPerMm: art.pxPerMm,
    bare,
  };
}
