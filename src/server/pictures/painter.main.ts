import sharp from 'sharp';
import { sewnOf } from '../images/compose';
import { MAX_PIXELS } from '../images/limits';
import { openRaster } from '../images/open-raster';
import { makePhotoShot } from '../shots/photo-shot';
import { serve } from '../studio/serve';
import { studioPlaces } from '../studio/folder';
import { encodePicture } from './encode';
import { packedHalf } from './half-planes';
import { likenessOf, Painter, type Painted } from './painter';
import type { StudioOrder, StudioResults } from './painters';

/** The process that paints mock-ups. Packing goes on beside in Node's own pool. */
sharp.concurrency(1);
// What is kept is kept as pixels, by the painter itself.
sharp.cache(false);
const { home, read } = studioPlaces();
const painter = new Painter(read, home);
const CLEAR_ABOVE_MB = 340;

async function photograph({ sha256, form, small }: Extract<StudioOrder, { kind: 'photograph' }>): Promise<Painted> {
  const { data, info } = await openRaster(await read(sha256), { limitInputPixels: MAX_PIXELS })
    .flatten({ background: '#ffffff' })
    .raw()
    .toBuffer({ resolveWithObject: true });
  const rgb = new Uint8Array(data.buffer, data.byteOffset, data.byteLength);
  const picture = { widthPx: info.width, heightPx: info.height, rgb };
  return {
    ...(await encodePicture(picture, form)),
    alike: small ? await likenessOf(rgb, info.width, info.height) : null,
  };
}

serve<StudioOrder, StudioResults[keyof StudioResults]>(async (asked) => {
  switch (asked.kind) {
    case 'paint':
      return painter.paint(asked.order);
    case 'photograph':
      return photograph(asked);
    case 'threads':
      return sewnOf(read, asked.sheet);
    case 'planes':
      await packedHalf(home, read, asked.shot);
      return null;
    case 'photo-shot':
      return makePhotoShot(read, asked.order);
  }
}, CLEAR_ABOVE_MB);
