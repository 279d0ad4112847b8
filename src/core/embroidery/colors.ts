import type { Lab65 } from 'culori';
import { formatHex, type Rgb } from '../artwork/color';
import { colorDifference, labOf } from '../catalog/families';
import type { Raster } from '../print/pixels';

/** Alpha from which a pixel is sewn: there is no half a thread. */
export const SEWN = 128;
/** Bits of each channel by which colors are counted: finer than threads differ. */
const BITS = 5;
/** Neighbors whose channels differ by no more are of one color. */
const ALIKE = 20;
/** Share of a pixel's sewn neighbors that are like it where a color has some width: on the rim between two colors fewer are. */
const BROAD = 0.6;
/** Where less of a picture than this has some width it is all texture, and every pixel counts. */
const MUCH_BROAD = 0.3;
/** Colors closer than this are one (CIEDE2000): what noise and soft edges make of a color. Two threads of the palette differ by 8 at the least. */
const ONE_COLOR = 4;

export const bucketOf = (r: number, g: number, b: number): number =>
  ((r >> (8 - BITS)) << (2 * BITS)) | ((g >> (8 - BITS)) << BITS) | (b >> (8 - BITS));
export const BUCKETS = 1 << (3 * BITS);

export const labOfRgb = ([r, g, b]: Rgb): Lab65 => labOf(formatHex([r, g, b]));

/** A premultiplied raster's straight colors, and which of its pixels are sewn. */
export interface SewnPixels {
  readonly widthPx: number;
  readonly heightPx: number;
  /** RGB of each pixel; 0 where nothing is sewn. */
  readonly rgb: Uint8Array;
  readonly sewn: Uint8Array;
  readonly count: number;
}

export function sewnPixels({ widthPx, heightPx, data }: Raster): SewnPixels {
  const size = widthPx * heightPx;
  const [rgb, sewn] = [new Uint8Array(3 * size), new Uint8Array(size)];
  let count = 0;
  for (let i = 0; i < size; i += 1) {
    const alpha = data[4 * i + 3]!;
    if (alpha < SEWN) continue;
    const undo = 255 / alpha;
    for (let c = 0; c < 3; c += 1) rgb[3 * i + c] = Math.min(255, Math.round(data[4 * i + c]! * undo));
    sewn[i] = 1;
    count += 1;
  }
  return { widthPx, heightPx, rgb, sewn, count };
}

/** Which sewn pixels belong to something broader than a line of one pixel: a soft rim between two colors does not. 1 where so. */
export function broadPixels({ widthPx, heightPx, rgb, sewn }: SewnPixels): Uint8Array {
  const broad = new Uint8Array(widthPx * heightPx);
  const alike = (i: number, j: number) =>
    Math.abs(rgb[3 * i]! - rgb[3 * j]!) <= ALIKE &&
    Math.abs(rgb[3 * i + 1]! - rgb[3 * j + 1]!) <= ALIKE &&
    Math.abs(rgb[3 * i + 2]! - rgb[3 * j + 2]!) <= ALIKE;
  for (let y = 0; y < heightPx; y += 1) {
    const [top, bottom] = [Math.max(0, y - 1), Math.min(heightPx - 1, y + 1)];
    for (let x = 0; x < widthPx; x += 1) {
      const i = y * widthPx + x;
      if (sewn[i] === 0) continue;
      let [like, all] = [0, 0];
      const [left, right] = [Math.max(0, x - 1), Math.min(widthPx - 1, x + 1)];
      for (let v = top; v <= bottom; v += 1)
        for (let u = left; u <= right; u += 1) {
          const j = v * widthPx + u;
          if (j === i || sewn[j] === 0) continue;
          all += 1;
          if (alike(i, j)) like += 1;
        }
      if (all > 0 && like >= BROAD * all) broad[i] = 1;
    }
  }
  return broad;
}

/** A color of a design with how much of it there is. */
export interface DesignColor {
  readonly rgb: Rgb;
  readonly lab: Lab65;
  /** Pixels of it. */
  readonly count: number;
}

interface Bucket {
  count: number;
  readonly sum: [number, number, number];
}

/** Pixels counted by color, most first, each with the mean of its pixels. */
function buckets(pixels: SewnPixels, mask: Uint8Array): DesignColor[] {
  const found = new Map<number, Bucket>();
  const { rgb } = pixels;
  for (let i = 0; i < mask.length; i += 1) {
    if (mask[i] === 0) continue;
    const [r, g, b] = [rgb[3 * i]!, rgb[3 * i + 1]!, rgb[3 * i + 2]!];
    const key = bucketOf(r, g, b);
    let bucket = found.get(key);
    if (!bucket) found.set(key, (bucket = { count: 0, sum: [0, 0, 0] }));
    bucket.count += 1;
    bucket.sum[0] += r;
    bucket.sum[1] += g;
    bucket.sum[2] += b;
  }
  return [...found]
    .sort(([a, one], [b, other]) => other.count - one.count || a - b)
    .map(([, { count, sum }]) => {
      const rgbMean: Rgb = [Math.round(sum[0] / count), Math.round(sum[1] / count), Math.round(sum[2] / count)];
      return { rgb: rgbMean, lab: labOfRgb(rgbMean), count };
    });
}

/**
 * The colors of a design, most first: pixels of rims between colors are left out, and what noise makes of a color counts with it. Colors with fewer than
 * `leastCount` pixels are left out too, unless there are no others.
 */
export function designColors(pixels: SewnPixels, leastCount = 1): DesignColor[] {
  const broad = broadPixels(pixels);
  const broadCount = broad.reduce((sum, one) => sum + one, 0);
  const mask = broadCount < MUCH_BROAD * pixels.count ? pixels.sewn : broad;
  const colors: { rgb: Rgb; lab: Lab65; count: number }[] = [];
  for (const bucket of buckets(pixels, mask)) {
    const near = colors.find(({ lab }) => colorDifference(lab, bucket.lab) < ONE_COLOR);
    if (near) near.count += bucket.count;
    else colors.push({ ...bucket });
  }
  colors.sort((a, b) => b.count - a.count);
  const large = colors.filter(({ count }) => count >= leastCount);
  return large.length > 0 ? large : colors.slice(0, 1);
}
