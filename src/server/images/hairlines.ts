import type { Sharp } from 'sharp';
import { parseHex } from '@/core/artwork/color';
import { hairInk } from '@/core/artwork/hairlines';
import type { Alpha, ThinInk } from '@/core/artwork/strokes';

/** Draws a picture at a size: its longer side, px; one of pixels no larger than it is. */
export type Draw = (longPx: number) => Sharp;

/** Longer side of the picture in which hairlines are looked for. On a ground more is wanted: the color of a line has to be seen by itself somewhere. */
const FINE_PX = 2400;
const FINE_ON_GROUND_PX = 3600;
/** Distance in RGB under which a color is that of the ground, and the alpha under which there is none. */
const GROUND = 24;
const CLEAR = 8;
/** Directions that are told apart, along each of red, green and blue. */
const DIRECTIONS = 7;

/** How much of a picture is thinner than the finest widths: of all that is there, or of what stands on a flat ground of one color. */
export async function hairlines(draw: Draw, ground: string | null): Promise<ThinInk[]> {
  return hairInk(ground === null ? await alphaOf(draw(FINE_PX)) : await inkOn(draw(FINE_ON_GROUND_PX), ground));
}

async function alphaOf(image: Sharp): Promise<Alpha> {
  const { data, info } = await image.ensureAlpha().extractChannel(3).raw().toBuffer({ resolveWithObject: true });
  return { widthPx: info.width, heightPx: info.height, alpha: data };
}

/**
 * What differs from a ground, as alpha: how far a color is from it, of the farthest that there is in its direction. So a pixel that a dark line covers by half is half
 * ink, and a pale color by itself is all ink. Clear places are none.
 */
async function inkOn(image: Sharp, ground: string): Promise<Alpha> {
  const { data, info } = await image.ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  const [r, g, b] = parseHex(ground);
  const farthest = new Float64Array(DIRECTIONS ** 3);
  let [length, bin] = [0, 0];
  const read = (i: number): boolean => {
    const x = data[i]! - r;
    const y = data[i + 1]! - g;
    const z = data[i + 2]! - b;
    length = Math.sqrt(x * x + y * y + z * z);
    if (length < GROUND || data[i + 3]! < CLEAR) return false;
    const half = (DIRECTIONS - 1) / 2;
    bin =
      (Math.round((x / length + 1) * half) * DIRECTIONS + Math.round((y / length + 1) * half)) * DIRECTIONS +
      Math.round((z / length + 1) * half);
    return true;
  };
  for (let i = 0; i < data.length; i += 4) if (read(i) && length > farthest[bin]!) farthest[bin] = length;
  const alpha = new Uint8Array(info.width * info.height);
  for (let p = 0; p < alpha.length; p += 1) if (read(4 * p)) alpha[p] = Math.round((255 * length) / farthest[bin]!);
  return { widthPx: info.width, heightPx: info.height, alpha };
}
