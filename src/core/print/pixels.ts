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
