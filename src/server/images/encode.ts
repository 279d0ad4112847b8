import sharp from 'sharp';

export const encodeJpeg = (rgb: Uint8Array, widthPx: number, heightPx: number, quality = 85): Promise<Buffer> =>
  sharp(rgb, { raw: { width: widthPx, height: heightPx, channels: 3 } })
    .jpeg({ quality })
    .toBuffer();
