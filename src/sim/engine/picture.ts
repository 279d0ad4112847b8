import sharp from 'sharp';

export interface SeenPicture {
  readonly type: 'image/jpeg' | 'image/png' | 'image/webp';
  readonly widthPx: number;
  readonly heightPx: number;
  /** Its whole border is white. */
  readonly onWhite: boolean;
}

/** JPEG leaves traces of what is near: a border counts as white from here on, of 255. */
const WHITE = 250;

/** What a shop sees in an uploaded file; null for what is no picture. */
export async function seePicture(bytes: Buffer): Promise<SeenPicture | null> {
  try {
    const image = sharp(bytes, { limitInputPixels: 60_000_000 });
    const { format, width, height } = await image.metadata();
    if (format !== 'jpeg' && format !== 'png' && format !== 'webp') return null;
    // Its four corners and the middles of its sides.
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
    const onWhite = places.every((i) => [0, 1, 2].every((c) => data[i + c]! >= WHITE));
    return { type: `image/${format}`, widthPx: width!, heightPx: height!, onWhite };
  } catch {
    return null;
  }
}
