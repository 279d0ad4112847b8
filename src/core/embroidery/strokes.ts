import type { Raster } from '../print/pixels';

/** Strokes thinner than this cannot be sewn (common practice, no source). */
export const MIN_STROKE_MM = 1;

/** Alpha from which a pixel is sewn. */
const SEWN = 128;

/**
 * Share of the sewn surface, 0 to 1, that is thinner than `leastMm`: where no disc of that diameter fits inside the shape. Corners that a
 * disc does not fill count too, so that a share of a few hundredths means nothing; 0 when nothing is sewn.
 */
export function thinShare(raster: Raster, dpi: number, leastMm: number = MIN_STROKE_MM): number {
  const { widthPx: width, heightPx: height, data } = raster;
  const radius = ((leastMm / 25.4) * dpi) / 2;
  const reach = Math.max(0, Math.round(radius - 0.5));
  const disc: [number, number][] = [];
  for (let dy = -reach; dy <= reach; dy += 1)
    for (let dx = -reach; dx <= reach; dx += 1) if (dx * dx + dy * dy <= radius * radius) disc.push([dx, dy]);
  const sewn = new Uint8Array(width * height);
  let total = 0;
  for (let i = 0; i < sewn.length; i += 1)
    if (data[4 * i + 3]! >= SEWN) {
      sewn[i] = 1;
      total += 1;
    }
  if (total === 0) return 0;
  // What is left after shaving off the disc, and that grown again by it.
  const opened = new Uint8Array(width * height);
  for (let y = 0; y < height; y += 1)
    for (let x = 0; x < width; x += 1) {
      const fits = disc.every(([dx, dy]) => {
        const [px, py] = [x + dx, y + dy];
        return px >= 0 && py >= 0 && px < width && py < height && sewn[py * width + px] === 1;
      });
      if (fits) for (const [dx, dy] of disc) opened[(y + dy) * width + x + dx] = 1;
    }
  let kept = 0;
  for (let i = 0; i < sewn.length; i += 1) kept += opened[i]!;
  return (total - kept) / total;
}
