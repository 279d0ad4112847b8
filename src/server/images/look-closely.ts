import type { ArtworkFacts, ClosePicture } from './artwork-facts';
import sharp from 'sharp';
import { alphaBounds, type Pixels } from '@/core/artwork/analysis';
import { BLOCK_PX, jpegStep, tableStep } from '@/core/artwork/blocks';
import { detailShare } from '@/core/artwork/detail';
import { grayOf, type Gray } from '@/core/artwork/gray';
import type { PixelFacts } from '@/core/artwork/pixel-facts';
import { findWords } from '@/core/artwork/words';
import type { Box } from '@/core/geometry/box';
import { hairlines, type Drawing } from './hairlines';
import { openRaster } from './open-raster';
import { MAX_PIXELS } from './limits';

/** A picture of pixels, turned upright, in sRGB. */
export const openUpright = (bytes: Buffer) => openRaster(bytes, { limitInputPixels: MAX_PIXELS, failOn: 'truncated' });

/** The box of visible pixels as shares; of a large picture at the size of a preview, which finds it within a thousandth. */
export async function visibleBox(bytes: Buffer, pixels: number): Promise<Box | null> {
  let image = openUpright(bytes).ensureAlpha();
  if (pixels > 40_000_000) image = image.resize(3000, 3000, { fit: 'inside', withoutEnlargement: true });
  const { data, info } = await image.raw().toBuffer({ resolveWithObject: true });
  const box = alphaBounds({ widthPx: info.width, heightPx: info.height, rgba: data });
  return (
    box && {
      left: box.left / info.width,
      right: box.right / info.width,
      top: box.top / info.height,
      bottom: box.bottom / info.height,
    }
  );
}

/** The same picture, its longer side 128 px. */
export async function reduced({ widthPx, heightPx, rgba }: Pixels): Promise<Pixels> {
  const { data, info } = await sharp(rgba, { raw: { width: widthPx, height: heightPx, channels: 4 } })
    .resize(128, 128, { fit: 'inside' })
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { widthPx: info.width, heightPx: info.height, rgba: data };
}

/** Most pixels that are looked at one by one: rows in the middle of a picture that has more. */
const CLOSE_PIXELS = 2e6;

/** What a step leaves lying about is given back before the next begins: memory is counted as it is held (with `--expose-gc`). */
export async function inTurn<T>(step: () => Promise<T>): Promise<T> {
  (globalThis as { gc?: () => void }).gc?.();
  return step();
}

/** What the pixels say at their own size. */
export async function closeFacts(
  bytes: Buffer,
  widthPx: number,
  heightPx: number,
): Promise<Pick<ArtworkFacts, 'jpegStep' | 'detailShare'>> {
  const close = await middleOf(bytes, widthPx, heightPx);
  return {
    jpegStep: Math.max(tableStep(bytes) ?? 0, jpegStep(close) ?? 0) || null,
    detailShare: detailShare(close),
  };
}

/** The middle rows of a picture, at its own size, as gray. */
async function middleOf(bytes: Buffer, widthPx: number, heightPx: number): Promise<Gray> {
  const height = Math.min(heightPx, Math.max(1, Math.floor(CLOSE_PIXELS / widthPx)));
  // Rows that begin where blocks of a JPEG do.
  const top = Math.floor((heightPx - height) / 2 / BLOCK_PX) * BLOCK_PX;
  // Turned upright first, in a pipeline of its own: rows are those of the picture as it is seen.
  const { data, info } = await openUpright(bytes)
    .ensureAlpha()
    .extract({ left: 0, top, width: widthPx, height })
    .raw()
    .toBuffer({ resolveWithObject: true });
  return grayOf(info.width, info.height, data);
}

/** Longer side of the picture in which words are looked for. */
const WORDS_PX = 1000;

export async function wordsIn(preview: Buffer): Promise<Box[]> {
  const { data, info } = await sharp(preview)
    .resize(WORDS_PX, WORDS_PX, { fit: 'inside', withoutEnlargement: true })
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return findWords(grayOf(info.width, info.height, data));
}

/** What was seen of a picture with the hairlines in it, and on the ground in which it stands. */
export async function withHairlines(looks: PixelFacts, drawing: Drawing, hasAlpha: boolean): Promise<ClosePicture> {
  const { ground } = looks;
  const own = hasAlpha ? await inTurn(() => hairlines(drawing, null)) : [];
  const groundInk = ground === null ? [] : await inTurn(() => hairlines(drawing, ground));
  return {
    ...looks,
    thinInk: [...own, ...looks.thinInk],
    groundInk,
    unboxed: looks.unboxed && { ...looks.unboxed, thinInk: [...groundInk, ...looks.unboxed.thinInk] },
  };
}
