import { UNDO } from './png-filter-reference';

/** Premultiplied RGBA, 8 bit, rows from the top. Everything in the print and mock-up paths is premultiplied exactly once. */
export interface Raster {
  readonly widthPx: number;
  readonly heightPx: number;
  readonly data: Uint8Array;
}

export const newRaster = (widthPx: number, heightPx: number): Raster => ({
  widthPx,
  heightPx,
  data: new Uint8Array(widthPx * heightPx * 4),
});

/** Straight to premultiplied alpha, in place; rounded to nearest. */
export function premultiply(rgba: Uint8Array): void {
  const words = new Uint32Array(rgba.buffer, rgba.byteOffset, rgba.byteLength >> 2);
  for (let w = 0; w < words.length; w += 1) {
    const alpha = words[w]! >>> 24;
    if (alpha === 255) continue;
    if (alpha === 0) {
      words[w] = 0;
      continue;
    }
    const i = (w << 2) + 3;
    for (let c = i - 3; c < i; c += 1) {
      const product = rgba[c]! * alpha + 128;
      rgba[c] = (product + (product >> 8)) >> 8;
    }
  }
}

/** Premultiplied to straight alpha, in place. */
export function unpremultiply(rgba: Uint8Array): void {
  const words = new Uint32Array(rgba.buffer, rgba.byteOffset, rgba.byteLength >> 2);
  for (let w = 0; w < words.length; w += 1) {
    const alpha = words[w]! >>> 24;
    if (alpha === 255 || alpha === 0) continue;
    const i = w << 2;
    const factor = UNDO[alpha]!;
    for (let c = i; c < i + 3; c += 1) rgba[c] = Math.min(255, (rgba[c]! * factor + 32768) / 65536);
  }
}
