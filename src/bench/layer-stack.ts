import { newRaster, type Raster } from '@/core/print/pixels';

interface Size {
  readonly widthPx: number;
  readonly heightPx: number;
}

/** Some layers of a stack, as they are drawn over each other on nothing. */
interface Part {
  readonly of: string;
  readonly raster: Raster;
}

/**
 * Layers drawn over each other, again and again while one of them is moved: those below it and those above it are kept drawn. What lies
 * above is laid over as one picture, which may differ by a rounding from laying each over.
 */
export class LayerStack {
  private last: { readonly of: string; readonly keys: readonly string[] } | null = null;
  private below: Part | null = null;
  private above: Part | null = null;

  /**
   * `keys`: for each layer, from the lowest up, all that it is drawn from; `of`: what else decides its pixels. `paint` draws a layer over a
   * raster. The raster that is given back is the caller's.
   */
  draw(of: string, keys: readonly string[], size: Size, paint: (layer: number, target: Raster) => void): Raster {
    const drawn = (from: number, to: number, target = newRaster(size.widthPx, size.heightPx)) => {
      for (let i = from; i < to; i += 1) paint(i, target);
      return target;
    };
    const { last } = this;
    this.last = { of, keys };
    if (last?.of !== of || last.keys.length !== keys.length) return drawn(0, keys.length);
    const first = keys.findIndex((key, i) => key !== last.keys[i]);
    const end = keys.findLastIndex((key, i) => key !== last.keys[i]) + 1;
    if (first < 0) return drawn(0, keys.length);
    const part = (have: Part | null, from: number, to: number): Part | null => {
      if (from === to) return null;
      const own = `${of}\n${keys.slice(from, to).join('\n')}`;
      return have?.of === own ? have : { of: own, raster: drawn(from, to) };
    };
    this.below = part(this.below, 0, first);
    this.above = part(this.above, end, keys.length);
    const target = newRaster(size.widthPx, size.heightPx);
    if (this.below) target.data.set(this.below.raster.data);
    drawn(first, end, target);
    if (this.above) layOver(target, this.above.raster);
    return target;
  }
}

/** Lays a premultiplied raster over another of its size. */
function layOver(target: Raster, over: Raster): void {
  const to = new Uint32Array(target.data.buffer, target.data.byteOffset, target.data.byteLength >> 2);
  const from = new Uint32Array(over.data.buffer, over.data.byteOffset, over.data.byteLength >> 2);
  for (let i = 0; i < from.length; i += 1) {
    const color = from[i]!;
    if (color === 0) continue;
    const bare = 255 - (color >>> 24);
    if (bare === 0 || to[i] === 0) {
      to[i] = color;
      continue;
    }
    for (let c = i * 4; c < i * 4 + 4; c += 1)
      target.data[c] = over.data[c]! + Math.floor((target.data[c]! * bare + 127) / 255);
  }
}
