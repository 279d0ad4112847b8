import type { Raster } from '../print/pixels';

/**
 * Ink that stands up: its edges toward the light (from the top left) are lighter, those away from it darker. In place; `edgePx` is about
 * how wide the flank is seen.
 */
export function raiseEdges({ widthPx, heightPx, data }: Raster, edgePx: number): void {
  const step = Math.max(1, Math.round(edgePx));
  const alpha = new Uint8Array(widthPx * heightPx);
  for (let i = 0; i < alpha.length; i += 1) alpha[i] = data[i * 4 + 3]!;
  const at = (x: number, y: number) => (x < 0 || y < 0 || x >= widthPx || y >= heightPx ? 0 : alpha[y * widthPx + x]!);
  for (let y = 0; y < heightPx; y += 1)
    for (let x = 0; x < widthPx; x += 1) {
      const i = y * widthPx + x;
      if (alpha[i] === 0) continue;
      const slope = at(x + step, y + step) - at(x - step, y - step);
      if (slope === 0) continue;
      const gain = 1 + (slope / 255) * (slope > 0 ? 0.34 : 0.26);
      for (let c = i * 4; c < i * 4 + 3; c += 1) data[c] = Math.min(alpha[i]!, Math.round(data[c]! * gain));
    }
}
