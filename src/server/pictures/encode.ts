import sharp from 'sharp';
import { parseHex } from '@/core/artwork/color';
import { longSideInForm, MEDIA_TYPES, type PictureFormat } from '@/core/listing/picture-format';

export interface EncodedPicture {
  readonly bytes: Buffer;
  readonly mediaType: string;
  readonly widthPx: number;
  readonly heightPx: number;
}

/** Opaque RGB, rows from the top. */
export interface RgbPicture {
  readonly widthPx: number;
  readonly heightPx: number;
  readonly rgb: Uint8Array;
}

const QUALITY = 85;
/** Qualities that are tried when a picture is too heavy; then it is made smaller. */
const LOWER = [78, 70, 60, 50, 42];
const SMALLER = 0.8;
const MIN_PX = 200;

/** A picture in a form. A weight limit that cannot be kept at any bearable size is kept as nearly as it can be. */
export async function encodePicture(
  { widthPx, heightPx, rgb }: RgbPicture,
  form: PictureFormat,
): Promise<EncodedPicture> {
  const raw = () => sharp(rgb, { raw: { width: widthPx, height: heightPx, channels: 3 } });
  const own = Math.max(widthPx, heightPx);
  let longSide = longSideInForm({ widthPx, heightPx }, form);
  const shape = (side: number) => {
    let image = raw();
    if (side < own) image = image.resize(side, side, { fit: 'inside', kernel: 'lanczos3' });
    if (!form.squareOn || widthPx === heightPx) return image;
    if (form.cropped) return raw().resize(side, side, { fit: 'cover', kernel: 'lanczos3' });
    const [r, g, b] = parseHex(form.squareOn);
    return image.resize(side, side, { fit: 'contain', background: { r, g, b } });
  };
  const encode = async (side: number, quality: number) => {
    const image = shape(side);
    const packed =
      form.format === 'png'
        ? image.png({ compressionLevel: 6, adaptiveFiltering: true })
        : form.format === 'webp'
          ? image.webp({ quality, effort: 2 })
          : image.jpeg({ quality });
    const { data, info } = await packed.toBuffer({ resolveWithObject: true });
    return { bytes: data, mediaType: MEDIA_TYPES[form.format], widthPx: info.width, heightPx: info.height };
  };
  let made = await encode(longSide, QUALITY);
  const most = form.maxBytes ?? Infinity;
  if (form.format !== 'png')
    for (const quality of LOWER) if (made.bytes.length > most) made = await encode(longSide, quality);
  while (made.bytes.length > most && longSide * SMALLER >= MIN_PX) {
    longSide = Math.floor(longSide * SMALLER);
    made = await encode(longSide, form.format === 'png' ? QUALITY : LOWER.at(-1)!);
  }
  return made;
}
