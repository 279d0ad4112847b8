import sharp, { type Sharp } from 'sharp';

export interface SeenPicture {
  readonly type: 'image/jpeg' | 'image/png' | 'image/webp';
  readonly widthPx: number;
  readonly heightPx: number;
  /** Its whole border is white; false where nobody asked. */
  readonly onWhite: boolean;
}

/** JPEG leaves traces of what is near: a border counts as white from here on, of 255. */
const WHITE = 250;

/** Enough of a picture to find that the file is broken. */
const SMALL_PX = 64;

/** What a shop sees in an uploaded file; null for what is no picture. Only who looks at its border opens all of its pixels. */
export async function seePicture(bytes: Buffer, { looksAtGround = false } = {}): Promise<SeenPicture | null> {
  try {
    const image = sharp(bytes, { limitInputPixels: 60_000_000 });
    const { format, width, height } = await image.metadata();
    if (format !== 'jpeg' && format !== 'png' && format !== 'webp') return null;
    if (looksAtGround)
      return { type: `image/${format}`, widthPx: width!, heightPx: height!, onWhite: await isOnWhite(image) };
    await image.resize(SMALL_PX, SMALL_PX, { fit: 'inside' }).raw().toBuffer();
    return { type: `image/${format}`, widthPx: width!, heightPx: height!, onWhite: false };
  } catch {
    return null;
  }
}

/** Whether its four corners, and what lies evenly between them, are white. */
async function isOnWhite(image: Sharp): Promise<boolean> {
  const { data, info } = await image
    .flatten({ background: '#808080' })
    .toColorspace('srgb')
    .raw()
    .toBuffer({ resolveWithObject: true });
  const at = (x: number, y: number) => (y * info.width + x) * info.channels;
  const [right, bottom] = [info.width - 1, info.height - 1];
  const places = [0, 0.25, 0.5, 0.75, 1].flatMap((t) => [
    at(Math.round(t * right), 0),
    at(Math.round(t * right), bottom),
    at(0, Math.round(t * bottom)),
    at(right, Math.round(t * bottom)),
  ]);
  return places.every((i) => [0, 1, 2].every((c) => data[i + c]! >= WHITE));
}
