import { linearOf8 } from '../artwork/color';
import { invalid } from '../errors';
import type { ShotArea } from './shot';

/** A photograph: sRGB, three bytes a pixel, rows from the top. */
export interface Photo {
  readonly widthPx: number;
  readonly heightPx: number;
  readonly rgb: Uint8Array;
}

/** What a shot is made of that comes out of a photograph, in linear light, 65535 being `scale`. */
export interface PhotoPasses {
  readonly rest: Uint16Array;
  readonly restScale: number;
  readonly shade: Uint16Array;
  readonly shadeScale: number;
}

/** Shade as stored goes up to this. */
const SHADE_SCALE = 2;
/** Share of the area's pixels that are darker than the light that counts as full. */
const FULL_LIGHT = 0.95;
/** Part of a percentile's pixels that is looked at. */
const STRIDE = 7;

const luminanceAt = (rgb: Uint8Array, i: number): number =>
  0.2126 * linearOf8[rgb[i * 3]!]! + 0.7152 * linearOf8[rgb[i * 3 + 1]!]! + 0.0722 * linearOf8[rgb[i * 3 + 2]!]!;

function percentile(values: number[], share: number): number {
  values.sort((a, b) => a - b);
  return values[Math.min(values.length - 1, Math.floor(values.length * share))] ?? 0;
}

/**
 * Light and shade as the photograph has them: its luminance, 1 where the print area is fully lit (95th percentile). With `fabric` (what takes
 * the fabric's color, 0 … 255) the rest is the photograph without it; without, the good keeps the color that it has. Throws `photo-dark` for an
 * area that is too dark to tell its shade.
 */
export function passesOfPhoto(
  { widthPx, heightPx, rgb }: Photo,
  area: ShotArea,
  fabric: Uint8Array | null,
): PhotoPasses {
  const n = widthPx * heightPx;
  const lit: number[] = [];
  for (let i = 0; i < n; i += STRIDE) {
    if (area.coverage[i]! > 250 && (!fabric || fabric[i]! > 250)) lit.push(luminanceAt(rgb, i));
  }
  if (lit.length === 0)
    throw invalid(
      'marks-no-fabric',
      fabric
        ? 'What takes the fabric’s color does not reach into the print area. Pick or paint the fabric under the print.'
        : 'The marked area shows nothing of the photograph. Mark a larger one.',
    );
  const full = percentile(lit, FULL_LIGHT);
  if (full < 0.004)
    throw invalid(
      'photo-dark',
      'The marked place is nearly black in the photograph: its folds cannot be told. Take a photograph of a lighter good, or a brighter one.',
    );
  const rest = new Uint16Array(n * 3);
  const shade = new Uint16Array(n);
  for (let i = 0; i < n; i += 1) {
    const bare = fabric ? 1 - fabric[i]! / 255 : 1;
    for (let c = i * 3; c < i * 3 + 3; c += 1) rest[c] = linearOf8[rgb[c]!]! * bare * 65535 + 0.5;
    shade[i] = Math.min(65535, (luminanceAt(rgb, i) / full / SHADE_SCALE) * 65535 + 0.5);
  }
  return { rest, restScale: 1, shade, shadeScale: SHADE_SCALE };
}

/** Steps of 8-bit color by which a picked part may differ from the picked place, by default. */
export const PICK_TOLERANCE = 36;

/** Shares of the tolerance by which hue and light may differ from the picked place, and neighbors from each other (by eye, no source). */
const HUE = 0.5;
const LIGHT = 1.8;
const EDGE = 1 / 6;

/**
 * The part of a photograph around a picked place that has its color, light and shade aside: 255 in it, softened over its edge. `tolerance`
 * is the largest difference, 8-bit steps.
 */
export function pickPart(
  { widthPx, heightPx, rgb }: Photo,
  xPx: number,
  yPx: number,
  tolerance = PICK_TOLERANCE,
): Uint8Array {
  const n = widthPx * heightPx;
  const mask = new Uint8Array(n);
  const start =
    Math.min(heightPx - 1, Math.max(0, Math.floor(yPx))) * widthPx +
    Math.min(widthPx - 1, Math.max(0, Math.floor(xPx)));
  const [r0, g0, b0] = [rgb[start * 3]!, rgb[start * 3 + 1]!, rgb[start * 3 + 2]!];
  const own = (r0 + g0 + b0) / 3;
  // Folds change how light a color is far more than its hue.
  const alike = (i: number) => {
    const [r, g, b] = [rgb[i * 3]!, rgb[i * 3 + 1]!, rgb[i * 3 + 2]!];
    const light = (r + g + b) / 3;
    const scale = own > 8 && light > 8 ? own / light : 1;
    const hue = Math.max(Math.abs(r * scale - r0), Math.abs(g * scale - g0), Math.abs(b * scale - b0));
    return hue <= tolerance * HUE && Math.abs(light - own) <= tolerance * LIGHT;
  };
  // Light changes from pixel to pixel a little; where it jumps, something else begins, however alike its color is.
  const jump = Math.max(4, tolerance * EDGE);
  const smooth = (i: number, j: number) =>
    Math.abs(rgb[i * 3]! - rgb[j * 3]!) <= jump &&
    Math.abs(rgb[i * 3 + 1]! - rgb[j * 3 + 1]!) <= jump &&
    Math.abs(rgb[i * 3 + 2]! - rgb[j * 3 + 2]!) <= jump;
  const queue = new Uint32Array(n);
  let [head, tail] = [0, 1];
  queue[0] = start;
  mask[start] = 255;
  while (head < tail) {
    const i = queue[head]!;
    head += 1;
    const x = i % widthPx;
    for (const j of [x > 0 ? i - 1 : -1, x + 1 < widthPx ? i + 1 : -1, i - widthPx, i + widthPx]) {
      if (j < 0 || j >= n || mask[j] !== 0 || !alike(j) || !smooth(i, j)) continue;
      mask[j] = 255;
      queue[tail] = j;
      tail += 1;
    }
  }
  return soften(mask, widthPx, heightPx);
}

/** Closes holes of a pixel and softens the edge: a mean of 3 × 3, twice. */
function soften(mask: Uint8Array, w: number, h: number): Uint8Array {
  let from = mask;
  for (let pass = 0; pass < 2; pass += 1) {
    const to = new Uint8Array(from.length);
    for (let y = 0; y < h; y += 1)
      for (let x = 0; x < w; x += 1) {
        let [sum, count] = [0, 0];
        for (let j = Math.max(0, y - 1); j <= Math.min(h - 1, y + 1); j += 1)
          for (let i = Math.max(0, x - 1); i <= Math.min(w - 1, x + 1); i += 1) {
            sum += from[j * w + i]!;
            count += 1;
          }
        to[y * w + x] = sum / count;
      }
    from = to;
  }
  return from;
}
