import { parseHex } from '../artwork/color';
import { IDENTITY, type Matrix } from '../geometry/matrix';
import type { Raster } from '../print/pixels';
import { flatten, mapPath, type InkedPath, type Path } from './path';

/** How far a polygon may be from its curve, px: a twentieth of a pixel changes coverage by less than one in 255 where it matters. */
const TOLERANCE_PX = 0.05;

/** Share of each pixel that is inside a path: 0 to 1, row by row, for the part of the target that it touches. */
export interface Coverage {
  readonly left: number;
  readonly top: number;
  readonly width: number;
  readonly height: number;
  readonly data: Float32Array;
}

/**
 * Exact coverage of pixels by polygons under the nonzero rule, by signed areas: every edge adds to its pixel the area to its right, and to
 * the pixels after it its height; a sum along the row gives the winding-weighted area. Exact where contours do not cross inside one pixel;
 * where two that turn the same way overlap there, the pixel counts as full sooner. `clip` is in px of the target.
 */
export function coverageOf(
  polygons: readonly Float64Array[],
  clip: { readonly width: number; readonly height: number },
): Coverage | null {
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const points of polygons)
    for (let i = 0; i < points.length; i += 2) {
      minX = Math.min(minX, points[i]!);
      maxX = Math.max(maxX, points[i]!);
      minY = Math.min(minY, points[i + 1]!);
      maxY = Math.max(maxY, points[i + 1]!);
    }
  const left = Math.max(0, Math.floor(minX));
  const top = Math.max(0, Math.floor(minY));
  const right = Math.min(clip.width, Math.ceil(maxX));
  const bottom = Math.min(clip.height, Math.ceil(maxY));
  if (!(right > left && bottom > top)) return null;
  const [width, height] = [right - left, bottom - top];
  // One column more than pixels: what lies right of the last pixel is summed there and not seen.
  const stride = width + 1;
  const sums = new Float64Array(stride * height);
  for (const points of polygons) {
    const n = points.length;
    for (let i = 0; i < n; i += 2) {
      const j = i + 2 === n ? 0 : i + 2;
      addEdge(
        sums,
        stride,
        width,
        height,
        points[i]! - left,
        points[i + 1]! - top,
        points[j]! - left,
        points[j + 1]! - top,
      );
    }
  }
  const data = new Float32Array(width * height);
  for (let y = 0; y < height; y += 1) {
    let sum = 0;
    for (let x = 0; x < width; x += 1) {
      sum += sums[y * stride + x]!;
      const inside = Math.abs(sum);
      data[y * width + x] = inside > 1 ? 1 : inside;
    }
  }
  return { left, top, width, height, data };
}

function addEdge(
  sums: Float64Array,
  stride: number,
  width: number,
  height: number,
  ax: number,
  ay: number,
  bx: number,
  by: number,
): void {
  if (ay === by) return;
  const down = by > ay;
  const sign = down ? 1 : -1;
  let [x0, y0, x1, y1] = down ? [ax, ay, bx, by] : [bx, by, ax, ay];
  if (y1 <= 0 || y0 >= height) return;
  const slope = (x1 - x0) / (y1 - y0);
  if (y0 < 0) {
    x0 -= y0 * slope;
    y0 = 0;
  }
  if (y1 > height) {
    x1 -= (y1 - height) * slope;
    y1 = height;
  }
  for (let row = Math.floor(y0); row < y1; row += 1) {
    const from = Math.max(y0, row);
    const to = Math.min(y1, row + 1);
    if (to <= from) continue;
    const xa = x0 + (from - y0) * slope;
    const xb = x0 + (to - y0) * slope;
    addSpan(sums, row * stride, width, sign * (to - from), Math.min(xa, xb), Math.max(xa, xb));
  }
}

/** One edge within one row: `h` its signed height there, from `xa` to `xb`. */
function addSpan(sums: Float64Array, row: number, width: number, h: number, xa: number, xb: number): void {
  // What is left of the picture fills the whole row; what is right of it is not seen.
  if (xb <= 0) {
    sums[row]! += h;
    return;
  }
  if (xa >= width) {
    sums[row + width]! += h;
    return;
  }
  if (xa < 0 || xb > width) {
    const whole = xb - xa;
    let rest = h;
    if (xa < 0) {
      const share = (h * -xa) / whole;
      sums[row]! += share;
      rest -= share;
    }
    if (xb > width) {
      const share = (h * (xb - width)) / whole;
      sums[row + width]! += share;
      rest -= share;
    }
    addSpan(sums, row, width, rest, Math.max(0, xa), Math.min(width, xb));
    return;
  }
  const first = Math.min(width - 1, Math.floor(xa));
  const last = Math.min(width - 1, Math.max(first, Math.ceil(xb) - 1));
  if (first === last) {
    // The mean of where it enters and leaves says how much of the pixel lies to its right.
    const covered = 1 - ((xa + xb) / 2 - first);
    sums[row + first]! += h * covered;
    sums[row + first + 1]! += h * (1 - covered);
    return;
  }
  const perPx = h / (xb - xa);
  const enter = first + 1 - xa;
  let before = 0.5 * perPx * enter * enter;
  sums[row + first]! += before;
  for (let x = first + 1; x < last; x += 1) {
    const upTo = perPx * (x + 0.5 - xa);
    sums[row + x]! += upTo - before;
    before = upTo;
  }
  const leave = xb - last;
  const covered = (perPx * leave * (xb - xa + (last - xa))) / 2 + h * (1 - leave);
  sums[row + last]! += covered - before;
  sums[row + last + 1]! += h - covered;
}

/** Fills a path in one color over a premultiplied raster. `toPx` maps the path's space to px of the target. */
export function fillPath(target: Raster, { path, color }: InkedPath, toPx: Matrix = IDENTITY): void {
  const coverage = coverPath(path, toPx, { width: target.widthPx, height: target.heightPx });
  if (coverage) layInk(target, coverage, color);
}

/** Coverage of a path under a map to px. */
export const coverPath = (
  path: Path,
  toPx: Matrix,
  clip: { readonly width: number; readonly height: number },
): Coverage | null => coverageOf(flatten(mapPath(path, toPx), TOLERANCE_PX), clip);

/** Lays a color over a premultiplied raster where there is coverage. */
export function layInk(target: Raster, coverage: Coverage, color: string): void {
  const [r, g, b] = parseHex(color);
  const { left, top, width, height, data } = coverage;
  for (let y = 0; y < height; y += 1) {
    let o = ((top + y) * target.widthPx + left) * 4;
    for (let x = 0; x < width; x += 1, o += 4) {
      const share = data[y * width + x]!;
      if (share === 0) continue;
      const keep = 1 - share;
      target.data[o] = r * share + target.data[o]! * keep + 0.5;
      target.data[o + 1] = g * share + target.data[o + 1]! * keep + 0.5;
      target.data[o + 2] = b * share + target.data[o + 2]! * keep + 0.5;
      target.data[o + 3] = 255 * share + target.data[o + 3]! * keep + 0.5;
    }
  }
}

/** Paths in the unit square, drawn under a map to px. */
export const drawInks = (target: Raster, inks: readonly InkedPath[], unitToPx: Matrix): void => {
  for (const ink of inks) fillPath(target, ink, unitToPx);
};
