import { invert, type Matrix } from '../geometry/matrix';
import { drawAffineReference } from './affine-reference';
import { AffineKernel } from './affine-wasm';
import { newRaster, type Raster } from './pixels';

/** Half the size, each pixel the mean of 2×2; odd edges repeat their last pixel. */
export function halve(from: Raster): Raster {
  const to = newRaster((from.widthPx + 1) >> 1, (from.heightPx + 1) >> 1);
  const [src, dst, stride] = [from.data, to.data, from.widthPx * 4];
  for (let y = 0; y < to.heightPx; y += 1) {
    const row = 2 * y * stride;
    const below = 2 * y + 1 < from.heightPx ? stride : 0;
    for (let x = 0; x < to.widthPx; x += 1) {
      const i = row + x * 8;
      const right = 2 * x + 1 < from.widthPx ? 4 : 0;
      const o = (y * to.widthPx + x) * 4;
      for (let c = 0; c < 4; c += 1)
        dst[o + c] = (src[i + c]! + src[i + right + c]! + src[i + below + c]! + src[i + below + right + c]! + 2) >> 2;
    }
  }
  return to;
}

/** A source that is drawn over a target, all at once or strip by strip. */
export class AffinePainter {
  private readonly source: Raster;
  private readonly inverse: Matrix;
  private readonly kernel: AffineKernel | null;

  /**
   * `sourceToTarget` maps source pixels to target pixels (both with their corner at 0,0; pixel centers at +½). Bicubic, one pass, from
   * premultiplied alpha; beyond its edges the source is transparent, which gives its border soft edges. A source more than 1.5 times too
   * fine is halved first, so that fine lines do not break up.
   */
  constructor(source: Raster, sourceToTarget: Matrix) {
    let src = source;
    let map = sourceToTarget;
    while (
      Math.min(Math.hypot(map.a, map.b), Math.hypot(map.c, map.d)) < 1 / 1.5 &&
      Math.min(src.widthPx, src.heightPx) > 1
    ) {
      src = halve(src);
      map = { a: map.a * 2, b: map.b * 2, c: map.c * 2, d: map.d * 2, e: map.e, f: map.f };
    }
    this.source = src;
    this.inverse = invert(map);
    this.kernel = AffineKernel.open(src, this.inverse);
  }

  /** Draws over `strip`, whose first row is row `fromY` of the target. */
  paint(strip: Raster, fromY = 0): void {
    if (this.kernel) return this.kernel.draw(strip, fromY);
    const { a, b, c, d, e, f } = this.inverse;
    const moved = { a, b, c, d, e: e + c * fromY, f: f + d * fromY };
    drawAffineReference(strip, this.source, moved, 0, strip.heightPx);
  }
}

/** The rows `fromY` ≤ y < `toY` of a raster, as a raster over the same bytes. */
export const stripOf = ({ widthPx, data }: Raster, fromY: number, toY: number): Raster => ({
  widthPx,
  heightPx: toY - fromY,
  data: data.subarray(fromY * widthPx * 4, toY * widthPx * 4),
});

/** Draws `source` over `target` as AffinePainter does; only the rows `fromY` ≤ y < `toY`. */
export function drawAffine(
  target: Raster,
  source: Raster,
  sourceToTarget: Matrix,
  fromY = 0,
  toY = target.heightPx,
): void {
  const [from, to] = [Math.max(0, fromY), Math.min(target.heightPx, toY)];
  if (to > from) new AffinePainter(source, sourceToTarget).paint(stripOf(target, from, to), from);
}
