/** 255 × 2¹⁶ ÷ alpha, so that undoing premultiplication costs a multiplication. */
export const UNDO = Uint32Array.from({ length: 256 }, (_, alpha) =>
  alpha === 0 ? 0 : Math.round((255 * 65536) / alpha),
);

/** What becomes of a pixel: 4 bytes with straight alpha, 3 without, or 1 of alpha alone. */
export type BytesPerPixel = 1 | 3 | 4;

/** A strip of a picture. */
export interface FilterJob {
  /** Premultiplied RGBA. */
  readonly pixels: Uint32Array;
  readonly widthPx: number;
  readonly rows: number;
  readonly bytesPerPixel: BytesPerPixel;
  /** The row of pixels above the first one; null at the top of the picture. */
  readonly before: Uint32Array | null;
  /** Adler-32 (RFC 1950) of all rows before. */
  readonly adler: number;
}

export interface Filtered {
  /** Rows with their filter byte, as PNG packs them. */
  readonly bytes: Uint8Array;
  readonly adler: number;
}

function straighten(
  from: Uint32Array,
  offset: number,
  to: Uint8Array,
  widthPx: number,
  bytesPerPixel: BytesPerPixel,
): void {
  for (let x = 0; x < widthPx; x += 1) {
    const pixel = from[offset + x]!;
    const alpha = pixel >>> 24;
    const o = x * bytesPerPixel;
    if (bytesPerPixel === 1) {
      to[o] = alpha;
      continue;
    }
    const plain = bytesPerPixel === 3 || alpha === 255 || alpha === 0;
    for (let c = 0; c < 3; c += 1) {
      const value = (pixel >>> (8 * c)) & 255;
      to[o + c] = plain ? value : Math.min(255, Math.floor((value * UNDO[alpha]! + 32768) / 65536));
    }
    if (bytesPerPixel === 4) to[o + 3] = alpha;
  }
}

/** The five predictors of PNG (third edition, §9.2) from left, above and above left. */
const PREDICT: readonly ((a: number, b: number, c: number) => number)[] = [
  () => 0,
  (a) => a,
  (_, b) => b,
  (a, b) => (a + b) >> 1,
  (a, b, c) => {
    const [pa, pb, pc] = [Math.abs(b - c), Math.abs(a - c), Math.abs(a + b - 2 * c)];
    return pa <= pb && pa <= pc ? a : pb <= pc ? b : c;
  },
];

/**
 * Filters rows for PNG, each by the predictor whose residues have the least sum of absolute values (the specification's own advice,
 * §12.7). What `wasm/png.c` does, byte for byte: its oracle in tests, and what works where WebAssembly SIMD is not to be had.
 */
export function filterRowsReference({ pixels, widthPx, rows, bytesPerPixel, before, adler }: FilterJob): Filtered {
  const stride = widthPx * bytesPerPixel;
  const bytes = new Uint8Array((stride + 1) * rows);
  let [above, row] = [new Uint8Array(stride), new Uint8Array(stride)];
  if (before) straighten(before, 0, above, widthPx, bytesPerPixel);
  const tries = PREDICT.map(() => new Uint8Array(stride));
  for (let y = 0; y < rows; y += 1) {
    straighten(pixels, y * widthPx, row, widthPx, bytesPerPixel);
    const costs = PREDICT.map((predict, k) => {
      let cost = 0;
      for (let i = 0; i < stride; i += 1) {
        const left = i >= bytesPerPixel;
        const residue =
          (row[i]! - predict(left ? row[i - bytesPerPixel]! : 0, above[i]!, left ? above[i - bytesPerPixel]! : 0)) &
          255;
        tries[k]![i] = residue;
        cost += residue < 128 ? residue : 256 - residue;
      }
      return cost;
    });
    const best = costs.indexOf(Math.min(...costs));
    bytes[y * (stride + 1)] = best;
    bytes.set(tries[best]!, y * (stride + 1) + 1);
    [above, row] = [row, above];
  }
  let [a, b] = [adler & 0xffff, adler >>> 16];
  for (let i = 0; i < bytes.length; i += 1) {
    a = (a + bytes[i]!) % 65521;
    b = (b + a) % 65521;
  }
  return { bytes, adler: ((b << 16) | a) >>> 0 };
}

export const isOpaqueReference = (pixels: Uint32Array): boolean => pixels.every((pixel) => pixel >>> 24 === 255);
