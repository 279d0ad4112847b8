import { newRaster, type Raster } from './pixels';

/**
 * Draws onto a raster as `draw` does, but with all that it draws at `opacity` (0 to 1) as one: where two inks of a layer overlap, the upper
 * one still hides the lower. Premultiplied RGBA, 8 bits.
 */
export function drawFaded(target: Raster, opacity: number, draw: (target: Raster) => void): void {
  if (opacity >= 1) return draw(target);
  const over = newRaster(target.widthPx, target.heightPx);
  draw(over);
  for (let i = 0; i < over.data.length; i += 4) {
    const alpha = over.data[i + 3]!;
    if (alpha === 0) continue;
    const rest = 1 - (alpha * opacity) / 255;
    for (let channel = i; channel < i + 4; channel += 1)
      target.data[channel] = over.data[channel]! * opacity + target.data[channel]! * rest + 0.5;
  }
}
