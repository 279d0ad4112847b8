import sharp from 'sharp';
import { contains, inset, type Box } from '@/core/geometry/box';
import { apply, axisLengths, chain, invert, translation, type Matrix } from '@/core/geometry/matrix';
import { thinShare } from '@/core/embroidery/strokes';
import { THREADS_DPI, type ThreadPlan } from '@/core/embroidery/choose';
import { sew, type UsedThread } from '@/core/embroidery/sew';
import type { InkedPath } from '@/core/paths/path';
import { drawInks } from '@/core/paths/scan';
import { cutToOutline } from '@/core/print/cut';
import type { ArtworkSource, PlannedLayer, SheetPlan } from '@/core/print/plan';
import { drawFaded } from '@/core/print/faded';
import { newRaster, type Raster } from '@/core/print/pixels';
import { premultiply } from '@/core/print/pixels';
import { AffinePainter } from '@/core/print/raster';
import { fromSource, letteringInks, ornamentInks, sheetFrame, threadPlan, tinted } from '@/core/print/sheet-drawing';
import { setLettering } from '../lettering/fonts';
import { renderSvg } from './render-svg';
import { MAX_PIXELS } from './limits';
import { openRaster } from './open-raster';

/** Bytes under a hash. */
export type ReadBytes = (sha256: string) => Promise<Buffer>;

/** An artwork's pixels, premultiplied, and whether they are known to be opaque. */
export interface Decoded {
  readonly source: Raster;
  readonly opaque: boolean;
}

/** Gives an artwork's pixels, about so fine; what it gives is not to be changed. */
export type OpenArtwork = (artwork: ArtworkSource, longPx: number) => Promise<Decoded>;

/** Reads artworks as they come, keeping none. */
export const artworksFrom =
  (read: ReadBytes, tooFine = TOO_FINE): OpenArtwork =>
  (artwork, longPx) =>
    decodeArtwork(read, artwork, longPx, tooFine);

/** A picture that is more times too fine is reduced by libvips, which filters better than halving when it is drawn. */
const TOO_FINE = 1.5;

/** From here on a picture is never held finer than it is drawn: each of its pixels takes four bytes of a room that others share. */
export const LARGE_PIXELS = 50e6;

/** An artwork's pixels, premultiplied, about as fine as they will be drawn: vectors are drawn at that size. */
async function decodeArtwork(
  read: ReadBytes,
  artwork: ArtworkSource,
  longPx: number,
  tooFine: number,
): Promise<Decoded> {
  const bytes = await read(artwork.sha256);
  const own = Math.max(artwork.widthPx, artwork.heightPx);
  let image = artwork.vector
    ? renderSvg(
        bytes.toString('utf8'),
        artwork.widthPx,
        artwork.heightPx,
        Math.min(12_000, Math.max(1, Math.ceil(longPx))),
      )
    : openRaster(bytes, { limitInputPixels: MAX_PIXELS });
  if (!artwork.vector && own > longPx * (artwork.widthPx * artwork.heightPx > LARGE_PIXELS ? 1 : tooFine)) {
    const scale = longPx / own;
    image = image.resize(
      Math.max(1, Math.round(artwork.widthPx * scale)),
      Math.max(1, Math.round(artwork.heightPx * scale)),
      { fit: 'fill' },
    );
  }
  const opaque = !artwork.vector && !(await sharp(bytes, { limitInputPixels: false }).metadata()).hasAlpha;
  const { data, info } = await image.ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  const raster = {
    widthPx: info.width,
    heightPx: info.height,
    data: new Uint8Array(data.buffer, data.byteOffset, data.byteLength),
  };
  if (!opaque) premultiply(raster.data);
  return { source: raster, opaque };
}

/** What a text or an ornament draws, in its unit square. */
const inksOf = async (layer: Exclude<PlannedLayer, { kind: 'artwork' }>): Promise<readonly InkedPath[]> =>
  layer.kind === 'ornament' ? ornamentInks(layer) : letteringInks(layer, (await setLettering(layer.lettering)).inks);

/** What an embroidered sheet is sewn in, and how much of it is too thin to be sewn; none for other sheets. */
export async function sewnOf(
  read: ReadBytes,
  sheet: SheetPlan,
): Promise<{ plan: ThreadPlan; threads: UsedThread[]; thinShare: number }> {
  if (!sheet.threads) return { plan: [], threads: [], thinShare: 0 };
  const raster = await drawSheet(read, sheet, THREADS_DPI);
  const plan = threadPlan(raster, sheet.threads);
  const threads = sew(raster, plan, sheet.threads.swaps);
  return { plan, threads, thinShare: thinShare(raster, THREADS_DPI) };
}

/** Draws a sheet, bleed included, at a density; of it only the `window`, in its pixels, where one is given. The one way from a design to pixels: print files and mock-ups both go through it. */
export async function composeSheet(
  read: ReadBytes,
  sheet: SheetPlan,
  dpi: number,
  artworks: OpenArtwork = artworksFrom(read),
  window: Box | null = null,
): Promise<Raster> {
  const raster = await drawSheet(read, sheet, dpi, artworks, window);
  // Threads are chosen at one density for all: a proof and a print file are sewn in the same.
  if (sheet.threads) sew(raster, (await sewnOf(read, sheet)).plan, sheet.threads.swaps);
  return raster;
}

/** A layer, ready to be drawn. */
interface OpenLayer {
  /** Draws over a strip of the sheet, whose first row is row `fromY` of the sheet. */
  paint(strip: Raster, fromY: number): void;
  /** Whether it covers all of a sheet of this size with opaque color. */
  covers(widthPx: number, heightPx: number): boolean;
}

/** Pixels at the edge of a source that fade out when it is drawn. */
const SOFT_EDGE_PX = 3;

async function openLayer(artworks: OpenArtwork, layer: PlannedLayer, mmToSheet: Matrix): Promise<OpenLayer> {
  const unitToPx = chain(layer.unitToMm, mmToSheet);
  const { opacity = 1 } = layer;
  if (layer.kind !== 'artwork') {
    const inks = await inksOf(layer);
    return {
      paint: (strip, fromY) =>
        drawFaded(strip, opacity, (target) => drawInks(target, inks, chain(unitToPx, translation(0, -fromY)))),
      covers: () => false,
    };
  }
  const sides = axisLengths(unitToPx);
  const { source: own, opaque } = await artworks(layer.artwork, Math.max(sides.x, sides.y));
  const source = layer.tint ? tinted(own, layer.tint) : own;
  const sourceToPx = fromSource(source, unitToPx);
  const painter = new AffinePainter(source, sourceToPx);
  const { widthPx, heightPx } = source;
  const inner = inset({ left: 0, top: 0, right: widthPx, bottom: heightPx }, SOFT_EDGE_PX);
  const inverse = invert(sourceToPx);
  return {
    paint: (strip, fromY) => drawFaded(strip, opacity, (target) => painter.paint(target, fromY)),
    covers: (w, h) =>
      opaque &&
      opacity === 1 &&
      [0, w].every((x) => [0, h].every((y) => contains(inner, boxAt(apply(inverse, { x, y })), 0))),
  };
}

const boxAt = ({ x, y }: { readonly x: number; readonly y: number }) => ({ left: x, top: y, right: x, bottom: y });

/** A sheet that is drawn strip by strip, from the top: a poster is never in memory as a whole. */
export interface OpenSheet {
  readonly widthPx: number;
  readonly heightPx: number;
  /** Whether it is known to be opaque all over; false where only its pixels could tell. */
  readonly opaque: boolean;
  /** Rows `fromY` ≤ y < `toY`, premultiplied. The pixels are good until the next call. */
  strip(fromY: number, toY: number): Raster;
}

/** Opens a sheet in its own colors, bleed included, at `dpi`, from the bytes that `read` gives. All its sources are in memory then. */
export async function openSheet(read: ReadBytes, sheet: SheetPlan, dpi: number): Promise<OpenSheet> {
  const { widthPx, heightPx, mmToPx: mmToSheet } = sheetFrame(sheet.geometry, dpi, null);
  const layers: OpenLayer[] = [];
  for (const layer of sheet.layers) layers.push(await openLayer(artworksFrom(read), layer, mmToSheet));
  let room = new Uint8Array(0);
  return {
    widthPx,
    heightPx,
    opaque: sheet.geometry.outline === null && layers.some((layer) => layer.covers(widthPx, heightPx)),
    strip(fromY, toY) {
      const bytes = (toY - fromY) * widthPx * 4;
      if (room.length < bytes) room = new Uint8Array(bytes);
      const strip = { widthPx, heightPx: toY - fromY, data: room.subarray(0, bytes) };
      strip.data.fill(0);
      for (const layer of layers) layer.paint(strip, fromY);
      cutToOutline(strip, sheet.geometry, chain(mmToSheet, translation(0, -fromY)));
      return strip;
    },
  };
}

/** Draws a sheet in its own colors, one layer after the other, so that only one source is in memory beside it. */
export async function drawSheet(
  read: ReadBytes,
  sheet: SheetPlan,
  dpi: number,
  artworks: OpenArtwork = artworksFrom(read),
  window: Box | null = null,
): Promise<Raster> {
  const { widthPx, heightPx, mmToPx } = sheetFrame(sheet.geometry, dpi, window);
  const target = newRaster(widthPx, heightPx);
  for (const layer of sheet.layers) (await openLayer(artworks, layer, mmToPx)).paint(target, 0);
  return target;
}
