import sharp from 'sharp';
import type { Geometry } from '@/core/geometry/area';
import { rasterizeMap } from '@/core/shot/area-map';
import { mapOfMarks, scaleMarks, type Marks } from '@/core/shot/marks';
import { coverageOfPart, scalePart, type Part } from '@/core/shot/part';
import { passesOfPhoto, type Photo } from '@/core/shot/photo';
import type { ReadBytes } from '../images/compose';
import { MAX_PIXELS } from '../images/limits';
import { openRaster } from '../images/open-raster';

/** Longest side of a shot that is made of a photograph, px. */
export const WORKING_PX = 1600;

/** A photograph with its marks, in px of it, and the geometry that they mean. */
export interface PhotoShotOrder {
  readonly sha256: string;
  readonly widthPx: number;
  readonly marks: Marks;
  readonly part: Part | null;
  readonly geometry: Geometry;
}

/** A shot made of a photograph: its map, and its passes as PNG by file name. */
export interface PhotoShot {
  readonly widthPx: number;
  readonly heightPx: number;
  readonly map: ReturnType<typeof mapOfMarks>;
  readonly restScale: number;
  readonly shadeScale: number;
  readonly passes: ReadonlyMap<string, Uint8Array>;
}

/** The photograph at the size at which shots are made of it, and how much smaller that is. */
async function openPhoto(
  read: ReadBytes,
  { sha256, widthPx }: PhotoShotOrder,
): Promise<{ photo: Photo; scale: number }> {
  const { data, info } = await openRaster(await read(sha256), { limitInputPixels: MAX_PIXELS })
    .flatten({ background: '#ffffff' })
    .resize(WORKING_PX, WORKING_PX, { fit: 'inside', withoutEnlargement: true })
    .raw()
    .toBuffer({ resolveWithObject: true });
  const rgb = new Uint8Array(data.buffer, data.byteOffset, data.byteLength);
  return { photo: { widthPx: info.width, heightPx: info.height, rgb }, scale: info.width / widthPx };
}

const png16 = (values: Uint16Array, widthPx: number, heightPx: number, channels: 1 | 3): Promise<Buffer> =>
  sharp(values, { raw: { width: widthPx, height: heightPx, channels } })
    .toColourspace(channels === 3 ? 'rgb16' : 'grey16')
    .png({ compressionLevel: 6 })
    .toBuffer();

/** Makes the passes of a shot out of a photograph. Throws `marks-…` and `photo-…` with what is wrong. */
export async function makePhotoShot(read: ReadBytes, order: PhotoShotOrder): Promise<PhotoShot> {
  const { photo, scale } = await openPhoto(read, order);
  const { widthPx, heightPx } = photo;
  const map = mapOfMarks(scaleMarks(order.marks, scale), photo, order.geometry);
  const seen = rasterizeMap(map, widthPx, heightPx);
  const fabric = order.part && coverageOfPart(photo, scalePart(order.part, scale));
  const made = passesOfPhoto(photo, seen, fabric);
  const passes = new Map<string, Uint8Array>([
    ['rest.png', await png16(made.rest, widthPx, heightPx, 3)],
    ['shade.png', await png16(made.shade, widthPx, heightPx, 1)],
  ]);
  if (fabric)
    passes.set(
      'fabric.png',
      await sharp(fabric, { raw: { width: widthPx, height: heightPx, channels: 1 } })
        .toColourspace('b-w')
        .png({ compressionLevel: 6 })
        .toBuffer(),
    );
  return { widthPx, heightPx, map, restScale: made.restScale, shadeScale: made.shadeScale, passes };
}
