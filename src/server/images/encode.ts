import sharp from 'sharp';
import { unpremultiply, type Raster } from '@/core/print/raster';

/**
 * PNG of a premultiplied raster with its density written (pHYs), straight alpha. The raster's bytes are changed in place: encoding is
 * the last thing that is done with it. The same raster gives the same bytes.
 */
export async function encodePrintPng(raster: Raster, dpi: number): Promise<Buffer> {
  unpremultiply(raster.data);
  return sharp(raster.data, { raw: { width: raster.widthPx, height: raster.heightPx, channels: 4 } })
    .withMetadata({ density: dpi })
    .png()
    .toBuffer();
}

export const encodeJpeg = (rgb: Uint8Array, widthPx: number, heightPx: number, quality = 85): Promise<Buffer> =>
  sharp(rgb, { raw: { width: widthPx, height: heightPx, channels: 3 } })
    .jpeg({ quality })
    .toBuffer();
