import type { Matrix } from '../geometry/matrix';
import type { Raster } from './pixels';
import { PHASES, WEIGHTS } from './weights';

const BLOCK = 16;

/** Blocks of 16×16 source pixels that hold one color only: 1, else 0. Blocks that reach over the edge count as mixed. */
function uniformBlocks(
  words: Uint32Array,
  widthPx: number,
  heightPx: number,
): { blocks: Uint8Array; across: number; down: number } {
  const across = widthPx >> 4;
  const down = heightPx >> 4;
  const blocks = new Uint8Array(across * down).fill(1);
  for (let y = 0; y < down << 4; y += 1) {
    const blockRow = (y >> 4) * across;
    const firstRow = (y & ~15) * widthPx;
    for (let bx = 0; bx < across; bx += 1) {
      if (blocks[blockRow + bx] === 0) continue;
      const color = words[firstRow + (bx << 4)]!;
      for (let i = y * widthPx + (bx << 4), end = i + BLOCK; i < end; i += 1) {
        if (words[i] !== color) {
          blocks[blockRow + bx] = 0;
          break;
        }
      }
    }
  }
  return { blocks, across, down };
}

/**
 * The affine sampler in TypeScript: what `wasm/affine.c` does, pixel for pixel. It is the kernel's oracle in tests, and what draws where
 * WebAssembly SIMD is not to be had. `inverse` maps target to source pixels.
 *
 * The target is drawn in tiles: where all source blocks under a tile hold one and the same color, which is most of most artwork,
 * the tile is filled without arithmetic.
 */
export function drawAffineReference(target: Raster, source: Raster, inverse: Matrix, fromY: number, toY: number): void {
  const { widthPx: sw, heightPx: sh, data } = source;
  const words = new Uint32Array(data.buffer, data.byteOffset, data.byteLength >> 2);
  const out = new Uint32Array(target.data.buffer, target.data.byteOffset, target.data.byteLength >> 2);
  const tw = target.widthPx;
  const { blocks, across, down } = uniformBlocks(words, sw, sh);
  const bottom = Math.min(target.heightPx, toY);

  for (let ty = Math.max(0, fromY); ty < bottom; ty += BLOCK) {
    const yEnd = Math.min(bottom, ty + BLOCK);
    for (let tx = 0; tx < tw; tx += BLOCK) {
      const xEnd = Math.min(tw, tx + BLOCK);
      // The source box under the tile, with the two pixels that the cubic reaches further.
      let uMin = Infinity;
      let uMax = -Infinity;
      let vMin = Infinity;
      let vMax = -Infinity;
      for (let corner = 0; corner < 4; corner += 1) {
        const x = corner & 1 ? xEnd - 0.5 : tx + 0.5;
        const y = corner & 2 ? yEnd - 0.5 : ty + 0.5;
        const u = inverse.a * x + inverse.c * y + inverse.e - 0.5;
        const v = inverse.b * x + inverse.d * y + inverse.f - 0.5;
        uMin = Math.min(uMin, u);
        uMax = Math.max(uMax, u);
        vMin = Math.min(vMin, v);
        vMax = Math.max(vMax, v);
      }
      if (uMax < -2 || vMax < -2 || uMin >= sw + 1 || vMin >= sh + 1) continue;
      const bu0 = (Math.floor(uMin) - 1) >> 4;
      const bu1 = (Math.floor(uMax) + 2) >> 4;
      const bv0 = (Math.floor(vMin) - 1) >> 4;
      const bv1 = (Math.floor(vMax) + 2) >> 4;
      if (bu0 >= 0 && bv0 >= 0 && bu1 < across && bv1 < down) {
        const color = words[(bv0 << 4) * sw + (bu0 << 4)]!;
        let flat = true;
        for (let bv = bv0; flat && bv <= bv1; bv += 1) {
          for (let bu = bu0; flat && bu <= bu1; bu += 1)
            flat = blocks[bv * across + bu] === 1 && words[(bv << 4) * sw + (bu << 4)] === color;
        }
        if (flat) {
          fillTile(out, tw, tx, ty, xEnd, yEnd, color);
          continue;
        }
      }
      for (let y = ty; y < yEnd; y += 1) {
        // Source position of the first pixel's center, moved so that whole numbers are source pixel centers.
        const u = inverse.a * (tx + 0.5) + inverse.c * (y + 0.5) + inverse.e - 0.5;
        const v = inverse.b * (tx + 0.5) + inverse.d * (y + 0.5) + inverse.f - 0.5;
        drawRun(out, y * tw + tx, xEnd - tx, data, words, sw, sh, u, v, inverse.a, inverse.b);
      }
    }
  }
}

/** One color over a tile. */
function fillTile(out: Uint32Array, tw: number, x0: number, y0: number, x1: number, y1: number, color: number): void {
  const alpha = color >>> 24;
  if (alpha === 0) return;
  for (let y = y0; y < y1; y += 1) {
    // A loop: measured over a whole sheet, `fill` on runs of 16 took about twice the time.
    if (alpha === 255) for (let o = y * tw + x0, end = y * tw + x1; o < end; o += 1) out[o] = color;
    else
      for (let o = y * tw + x0; o < y * tw + x1; o += 1)
        over(out, o, color & 255, (color >>> 8) & 255, (color >>> 16) & 255, alpha);
  }
}

/** One premultiplied color over a pixel. */
function over(out: Uint32Array, o: number, r: number, g: number, b: number, a: number): void {
  const below = out[o]!;
  if (a < 255 && below !== 0) {
    const rest = 255 - a;
    r += scaled(below & 255, rest);
    g += scaled((below >>> 8) & 255, rest);
    b += scaled((below >>> 16) & 255, rest);
    a += scaled(below >>> 24, rest);
  }
  out[o] = r | (g << 8) | (b << 16) | (a << 24);
}

const edge = new Uint32Array(16);
const edgeBytes = new Uint8Array(edge.buffer);

/** `count` target pixels from index `o` on, sampled from (u, v) in steps of (du, dv). */
function drawRun(
  out: Uint32Array,
  o: number,
  count: number,
  data: Uint8Array,
  words: Uint32Array,
  sw: number,
  sh: number,
  u: number,
  v: number,
  du: number,
  dv: number,
): void {
  for (let end = o + count; o < end; o += 1, u += du, v += dv) {
    const iu = Math.floor(u);
    const iv = Math.floor(v);
    let bytes = data;
    let base: number;
    let stride: number;
    if (iu >= 1 && iv >= 1 && iu < sw - 2 && iv < sh - 2) {
      base = ((iv - 1) * sw + iu - 1) << 2;
      stride = sw << 2;
    } else {
      if (iu < -2 || iv < -2 || iu > sw || iv > sh) continue;
      // Near the border the neighborhood is gathered with transparent pixels beyond it.
      for (let j = 0; j < 4; j += 1) {
        const yy = iv - 1 + j;
        for (let i = 0; i < 4; i += 1) {
          const xx = iu - 1 + i;
          edge[j * 4 + i] = xx >= 0 && yy >= 0 && xx < sw && yy < sh ? words[yy * sw + xx]! : 0;
        }
      }
      bytes = edgeBytes;
      base = 0;
      stride = 16;
    }
    const pu = (((u - iu) * PHASES) | 0) << 2;
    const pv = (((v - iv) * PHASES) | 0) << 2;
    const w0 = WEIGHTS[pu]!;
    const w1 = WEIGHTS[pu + 1]!;
    const w2 = WEIGHTS[pu + 2]!;
    const w3 = WEIGHTS[pu + 3]!;
    let r = 0;
    let g = 0;
    let b = 0;
    let a = 0;
    for (let j = 0; j < 4; j += 1, base += stride) {
      const wj = WEIGHTS[pv + j]!;
      r += ((bytes[base]! * w0 + bytes[base + 4]! * w1 + bytes[base + 8]! * w2 + bytes[base + 12]! * w3) >> 4) * wj;
      g += ((bytes[base + 1]! * w0 + bytes[base + 5]! * w1 + bytes[base + 9]! * w2 + bytes[base + 13]! * w3) >> 4) * wj;
      b +=
        ((bytes[base + 2]! * w0 + bytes[base + 6]! * w1 + bytes[base + 10]! * w2 + bytes[base + 14]! * w3) >> 4) * wj;
      a +=
        ((bytes[base + 3]! * w0 + bytes[base + 7]! * w1 + bytes[base + 11]! * w2 + bytes[base + 15]! * w3) >> 4) * wj;
    }
    // Each sum is in 1/2²⁰; the cubic can overshoot: alpha is cut to 0…255, colors to 0…alpha.
    a = (a + 524288) >> 20;
    if (a <= 0) continue;
    if (a > 255) a = 255;
    r = (r + 524288) >> 20;
    g = (g + 524288) >> 20;
    b = (b + 524288) >> 20;
    over(out, o, r < 0 ? 0 : r > a ? a : r, g < 0 ? 0 : g > a ? a : g, b < 0 ? 0 : b > a ? a : b, a);
  }
}

/** value × share ÷ 255, rounded. */
function scaled(value: number, share: number): number {
  const product = value * share + 128;
  return (product + (product >> 8)) >> 8;
}
