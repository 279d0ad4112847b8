import type { Pixels } from './analysis';

const isHalf = (alpha: number): boolean => alpha > 24 && alpha < 231;

/**
 * Share of a picture's visible pixels, 0 to 1, that are half transparent: soft shadows, glows, fades. The soft edge of a shape, a pixel or two
 * wide, does not count: only pixels whose neighbors two away on all sides are half transparent too.
 */
export function halfTransparentShare({ widthPx, heightPx, rgba }: Pixels): number {
  const alphaAt = (x: number, y: number) =>
    x < 0 || y < 0 || x >= widthPx || y >= heightPx ? 0 : rgba[(y * widthPx + x) * 4 + 3]!;
  let [visible, half] = [0, 0];
  for (let y = 0; y < heightPx; y += 1)
    for (let x = 0; x < widthPx; x += 1) {
      const alpha = alphaAt(x, y);
      if (alpha <= 8) continue;
      visible += 1;
      if (
        isHalf(alpha) &&
        isHalf(alphaAt(x - 2, y)) &&
        isHalf(alphaAt(x + 2, y)) &&
        isHalf(alphaAt(x, y - 2)) &&
        isHalf(alphaAt(x, y + 2))
      )
        half += 1;
    }
  return visible === 0 ? 0 : half / visible;
}
