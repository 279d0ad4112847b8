import { alphaBounds, type Pixels } from './analysis';
import { formatHex, parseHex, type Rgb } from './color';

/** Most by which a channel of the border may differ from its color: what JPEG does to white. */
const SLACK = 14;
/** How much of the border must be of that one color, and how much of the picture may be (else it is all there is). */
const BORDER = 0.96;
const WHOLE = 0.985;

export const nearColor = (rgba: ArrayLike<number>, i: number, [r, g, b]: Rgb, slack: number): boolean =>
  Math.abs(rgba[i]! - r) <= slack && Math.abs(rgba[i + 1]! - g) <= slack && Math.abs(rgba[i + 2]! - b) <= slack;

/** Indices (of the first byte) of the pixels along the border of a picture. */
export function borderOf(widthPx: number, heightPx: number): number[] {
  const at = (x: number, y: number) => (y * widthPx + x) * 4;
  const border: number[] = [];
  for (let x = 0; x < widthPx; x += 1) border.push(at(x, 0), at(x, heightPx - 1));
  for (let y = 1; y < heightPx - 1; y += 1) border.push(at(0, y), at(widthPx - 1, y));
  return border;
}

/**
 * The one opaque color that runs around a picture: a white or flat box around the art, as a logo without transparency has it. Null where the
 * border is transparent or of many colors, and where nothing but that color is there.
 */
export function flatBox(pixels: Pixels): string | null {
  const box = flatGround(pixels);
  if (box === null) return null;
  const inner = withinMargin(pixels);
  const color = parseHex(box);
  let whole = 0;
  for (let i = 0; i < inner.rgba.length; i += 4)
    if (inner.rgba[i + 3]! >= 250 && nearColor(inner.rgba, i, color, SLACK)) whole += 1;
  return whole > (inner.rgba.length / 4) * WHOLE ? null : box;
}

/** The same, however little stands on it: hairlines can be all there is. */
export const flatGround = (pixels: Pixels): string | null => boxOf(withinMargin(pixels));

/** A picture without the transparent margin around it: a box can stand in that. */
function withinMargin(pixels: Pixels): Pixels {
  const { widthPx, rgba } = pixels;
  const bounds = alphaBounds(pixels, 128);
  if (!bounds || (bounds.right - bounds.left) * (bounds.bottom - bounds.top) === widthPx * pixels.heightPx)
    return pixels;
  const { left, top, right, bottom } = bounds;
  const inner = {
    widthPx: right - left,
    heightPx: bottom - top,
    rgba: new Uint8Array(4 * (right - left) * (bottom - top)),
  };
  for (let y = top; y < bottom; y += 1)
    inner.rgba.set(rgba.slice(4 * (y * widthPx + left), 4 * (y * widthPx + right)), 4 * (y - top) * inner.widthPx);
  return inner;
}

function boxOf({ widthPx, heightPx, rgba }: Pixels): string | null {
  const border = borderOf(widthPx, heightPx);
  const counts = new Map<number, number>();
  for (const i of border) {
    if (rgba[i + 3]! < 250) continue;
    const bucket = ((rgba[i]! >> 3) << 10) | ((rgba[i + 1]! >> 3) << 5) | (rgba[i + 2]! >> 3);
    counts.set(bucket, (counts.get(bucket) ?? 0) + 1);
  }
  const [most] = [...counts].sort(([, a], [, b]) => b - a);
  if (!most) return null;
  // The commonest color of the commonest bucket: a bucket's middle is nobody's color.
  const exact = new Map<number, number>();
  for (const i of border) {
    const bucket = ((rgba[i]! >> 3) << 10) | ((rgba[i + 1]! >> 3) << 5) | (rgba[i + 2]! >> 3);
    if (bucket === most[0] && rgba[i + 3]! >= 250) {
      const color = (rgba[i]! << 16) | (rgba[i + 1]! << 8) | rgba[i + 2]!;
      exact.set(color, (exact.get(color) ?? 0) + 1);
    }
  }
  const value = [...exact].sort(([, a], [, b]) => b - a)[0]![0];
  const color: Rgb = [value >> 16, (value >> 8) & 255, value & 255];
  const same = (i: number) => rgba[i + 3]! >= 250 && nearColor(rgba, i, color, SLACK);
  return border.filter(same).length < border.length * BORDER ? null : formatHex(color);
}
