// The row filters of ../png-filter-reference.ts in WebAssembly SIMD: the same bytes; that file is its oracle and explains it. Built by
// build.sh beside this; the built bytes are in ../png.wasm.ts.
#include <stdint.h>
#include <wasm_simd128.h>
#include "deflate.h"

// Premultiplied RGBA to straight alpha, to RGB without it, or to alpha alone. `undo` holds 255 × 2^16 ÷ alpha.
static void straighten(const uint32_t *from, uint8_t *to, int32_t width, int32_t bytes, const uint32_t *undo) {
  if (bytes == 4) {
    uint32_t *out = (uint32_t *)to;
    for (int32_t x = 0; x < width; x += 1) {
      if (x + 4 <= width) {
        const v128_t four = wasm_v128_load(from + x), alphas = wasm_u32x4_shr(four, 24);
        if (wasm_i32x4_all_true(wasm_v128_or(wasm_i32x4_eq(alphas, wasm_i32x4_splat(255)), wasm_i32x4_eq(alphas, wasm_i32x4_splat(0))))) {
          wasm_v128_store(out + x, four);
          x += 3;
          continue;
        }
      }
      const uint32_t pixel = from[x], alpha = pixel >> 24;
      if (alpha == 255 || alpha == 0) {
        out[x] = pixel;
        continue;
      }
      const uint32_t factor = undo[alpha];
      uint32_t r = ((pixel & 255) * factor + 32768) >> 16, g = (((pixel >> 8) & 255) * factor + 32768) >> 16, b = (((pixel >> 16) & 255) * factor + 32768) >> 16;
      if (r > 255) r = 255;
      if (g > 255) g = 255;
      if (b > 255) b = 255;
      out[x] = r | (g << 8) | (b << 16) | (alpha << 24);
    }
    return;
  }
  if (bytes == 1) {
    for (int32_t x = 0; x < width; x += 1) to[x] = (uint8_t)(from[x] >> 24);
    return;
  }
  for (int32_t x = 0; x < width; x += 1, to += 3) {
    const uint32_t pixel = from[x];
    to[0] = (uint8_t)pixel;
    to[1] = (uint8_t)(pixel >> 8);
    to[2] = (uint8_t)(pixel >> 16);
  }
}

static inline v128_t pairs(v128_t residue) { return wasm_u16x8_extadd_pairwise_u8x16(wasm_i8x16_abs(residue)); }

static inline v128_t sums(v128_t bytes) { return wasm_u32x4_extadd_pairwise_u16x8(wasm_u16x8_extadd_pairwise_u8x16(bytes)); }

static inline uint32_t total(v128_t four) {
  return (uint32_t)wasm_i32x4_extract_lane(four, 0) + (uint32_t)wasm_i32x4_extract_lane(four, 1) + (uint32_t)wasm_i32x4_extract_lane(four, 2) +
         (uint32_t)wasm_i32x4_extract_lane(four, 3);
}

// (a + b) >> 1, rounded down
static inline v128_t mean(v128_t a, v128_t b) {
  return wasm_i8x16_sub(wasm_u8x16_avgr(a, b), wasm_v128_and(wasm_v128_xor(a, b), wasm_i8x16_splat(1)));
}

static inline v128_t apart(v128_t a, v128_t b) { return wasm_v128_or(wasm_u8x16_sub_sat(a, b), wasm_u8x16_sub_sat(b, a)); }

// Paeth's predictor in bytes: where a and b lie on one side of c, |a + b - 2c| is the sum of their distances to it (and never the least), else
// the difference of these.
static inline v128_t paeth(v128_t a, v128_t b, v128_t c) {
  const v128_t pa = apart(b, c), pb = apart(a, c);
  const v128_t sides = wasm_v128_xor(wasm_u8x16_ge(a, c), wasm_u8x16_ge(b, c));
  const v128_t pc = wasm_v128_bitselect(apart(pa, pb), wasm_u8x16_add_sat(pa, pb), sides);
  const v128_t least = wasm_u8x16_min(pa, wasm_u8x16_min(pb, pc));
  return wasm_v128_bitselect(a, wasm_v128_bitselect(b, c, wasm_i8x16_eq(pb, least)), wasm_i8x16_eq(pa, least));
}

static void fill(uint8_t *at, int32_t count) {
  for (int32_t i = 0; i < count; i += 1) at[i] = 0;
}

// Rows have 16 zero bytes before them and 16 behind, so that the left neighbors of the first pixel are 0, as PNG has it.
static void filter_row(const uint8_t *row, const uint8_t *above, int32_t stride, int32_t bytes, uint8_t *out) {
  // Equal to the row above, as most rows of most artwork are: `up` leaves nothing, and so does `none` of an empty row.
  v128_t differs = wasm_i32x4_splat(0), anything = differs;
  for (int32_t i = 0; i < stride; i += 16) {
    const v128_t x = wasm_v128_load(row + i);
    differs = wasm_v128_or(differs, wasm_v128_xor(x, wasm_v128_load(above + i)));
    anything = wasm_v128_or(anything, x);
    if ((i & 1023) == 1008 && wasm_v128_any_true(differs)) break;
  }
  if (!wasm_v128_any_true(differs)) {
    out[0] = wasm_v128_any_true(anything) ? 2 : 0;
    fill(out + 1, stride);
    return;
  }
  v128_t wide[5], narrow[5];
  for (int32_t k = 0; k < 5; k += 1) wide[k] = narrow[k] = wasm_i32x4_splat(0);
  const int32_t whole = stride & ~15;
  for (int32_t i = 0; i < stride; i += 16) {
    v128_t x = wasm_v128_load(row + i), a = wasm_v128_load(row + i - bytes), b = wasm_v128_load(above + i), c = wasm_v128_load(above + i - bytes);
    if (i >= whole) {
      // Beyond the row's end everything counts as 0.
      const v128_t lanes = wasm_i8x16_make(0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14, 15);
      const v128_t inside = wasm_i8x16_lt(lanes, wasm_i8x16_splat((int8_t)(stride - whole)));
      x = wasm_v128_and(x, inside), a = wasm_v128_and(a, inside), b = wasm_v128_and(b, inside), c = wasm_v128_and(c, inside);
    }
    narrow[0] = wasm_i16x8_add(narrow[0], pairs(x));
    narrow[1] = wasm_i16x8_add(narrow[1], pairs(wasm_i8x16_sub(x, a)));
    narrow[2] = wasm_i16x8_add(narrow[2], pairs(wasm_i8x16_sub(x, b)));
    narrow[3] = wasm_i16x8_add(narrow[3], pairs(wasm_i8x16_sub(x, mean(a, b))));
    narrow[4] = wasm_i16x8_add(narrow[4], pairs(wasm_i8x16_sub(x, paeth(a, b, c))));
    // A pair adds 256 at most: after 128 of them the sums are moved to where there is room.
    if ((i & 2047) == 2032)
      for (int32_t k = 0; k < 5; k += 1) wide[k] = wasm_i32x4_add(wide[k], wasm_u32x4_extadd_pairwise_u16x8(narrow[k])), narrow[k] = wasm_i32x4_splat(0);
  }
  uint32_t cost[5];
  for (int32_t k = 0; k < 5; k += 1) cost[k] = total(wasm_i32x4_add(wide[k], wasm_u32x4_extadd_pairwise_u16x8(narrow[k])));
  int32_t best = 0;
  for (int32_t k = 1; k < 5; k += 1)
    if (cost[k] < cost[best]) best = k;
  out[0] = (uint8_t)best;
  out += 1;
  for (int32_t i = 0; i < stride; i += 16) {
    const v128_t x = wasm_v128_load(row + i), a = wasm_v128_load(row + i - bytes), b = wasm_v128_load(above + i);
    v128_t y;
    if (best == 0) y = x;
    else if (best == 1) y = wasm_i8x16_sub(x, a);
    else if (best == 2) y = wasm_i8x16_sub(x, b);
    else if (best == 3) y = wasm_i8x16_sub(x, mean(a, b));
    else y = wasm_i8x16_sub(x, paeth(a, b, wasm_v128_load(above + i - bytes)));
    // What is written past the row's end is overwritten by the next row.
    wasm_v128_store(out + i, y);
  }
}

static uint32_t adler(uint32_t state, const uint8_t *at, int32_t count) {
  uint32_t a = state & 0xffff, b = state >> 16;
  const v128_t high = wasm_i16x8_make(16, 15, 14, 13, 12, 11, 10, 9), low = wasm_i16x8_make(8, 7, 6, 5, 4, 3, 2, 1);
  while (count > 0) {
    const int32_t run = count < 5552 ? count : 5552;
    const int32_t fast = run & ~15;
    v128_t va = wasm_i32x4_splat(0), vb = va, weighted = va;
    for (int32_t i = 0; i < fast; i += 16) {
      const v128_t x = wasm_v128_load(at + i);
      vb = wasm_i32x4_add(vb, va);
      va = wasm_i32x4_add(va, sums(x));
      weighted = wasm_i32x4_add(weighted, wasm_i32x4_add(wasm_i32x4_dot_i16x8(wasm_u16x8_extend_low_u8x16(x), high),
                                                         wasm_i32x4_dot_i16x8(wasm_u16x8_extend_high_u8x16(x), low)));
    }
    b += a * (uint32_t)fast + 16 * total(vb) + total(weighted);
    a += total(va);
    for (int32_t i = fast; i < run; i += 1) a += at[i], b += a;
    a %= 65521, b %= 65521;
    at += run, count -= run;
  }
  return (b << 16) | a;
}

// Filters `rows` rows of premultiplied RGBA to `bytes` a pixel. `two` has room for two padded rows; the row above the first one is taken
// from `before` (a row of pixels), or is empty when that is 0. Gives the Adler-32 going on from `state`.
__attribute__((export_name("filter"))) uint32_t filter(const uint32_t *pixels, int32_t width, int32_t rows, int32_t bytes, const uint32_t *undo,
                                                        const uint32_t *before, uint8_t *two, uint8_t *out, uint32_t state) {
  const int32_t stride = width * bytes, room = (stride + 48) & ~15;
  fill(two, 2 * room);
  uint8_t *above = two + 16, *row = two + room + 16;
  if (before) straighten(before, above, width, bytes, undo);
  for (int32_t y = 0; y < rows; y += 1) {
    straighten(pixels + y * width, row, width, bytes, undo);
    filter_row(row, above, stride, bytes, out + y * (stride + 1));
    uint8_t *swap = above;
    above = row, row = swap;
  }
  return adler(state, out, rows * (stride + 1));
}

// 1 when every pixel is opaque.
__attribute__((export_name("opaque"))) int32_t opaque(const uint32_t *pixels, int32_t count) {
  for (int32_t i = 0; i < count; i += 1)
    if (pixels[i] >> 24 != 255) return 0;
  return 1;
}
