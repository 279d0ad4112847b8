// The mock-up kernel of ../ops-reference.ts in WebAssembly SIMD: the same arithmetic, bit for bit; that file is its oracle and explains
// it. Built by core/print/wasm/build.sh; the built bytes are in ../shot.wasm.ts.
#include <stdint.h>
#include <wasm_simd128.h>

#define EXPORT(name) __attribute__((export_name(#name)))

EXPORT(linear)
void linear(const uint8_t *src, uint16_t *dst, int32_t n, const uint16_t *lin, const uint32_t *undo) {
  for (int32_t i = 0; i < n; i += 1, src += 4, dst += 4) {
    const uint32_t a = src[3];
    if (a == 255) {
      *(uint64_t *)dst = (uint64_t)lin[src[0]] | ((uint64_t)lin[src[1]] << 16) | ((uint64_t)lin[src[2]] << 32) |
                         ((uint64_t)32767 << 48);
    } else if (a == 0) {
      *(uint64_t *)dst = 0;
    } else {
      for (int32_t c = 0; c < 3; c += 1) {
        uint32_t v = (src[c] * undo[a] + 32768) >> 16;
        if (v > 255) v = 255;
        dst[c] = (uint16_t)((lin[v] * a + 127) / 255);
      }
      dst[3] = (uint16_t)((a * 32767 + 127) / 255);
    }
  }
}

EXPORT(halve)
void halve(const uint16_t *src, int32_t w, int32_t h, uint16_t *dst) {
  const int32_t tw = (w + 1) >> 1, th = (h + 1) >> 1;
  const v128_t two = wasm_i32x4_splat(2);
  for (int32_t y = 0; y < th; y += 1) {
    const uint16_t *row = src + (int64_t)2 * y * w * 4;
    const int32_t below = 2 * y + 1 < h ? w * 4 : 0;
    for (int32_t x = 0; x < tw; x += 1, dst += 4) {
      const uint16_t *p = row + x * 8;
      const int32_t right = 2 * x + 1 < w ? 4 : 0;
      v128_t sum = wasm_i32x4_add(wasm_u32x4_load16x4(p), wasm_u32x4_load16x4(p + right));
      sum = wasm_i32x4_add(sum, wasm_i32x4_add(wasm_u32x4_load16x4(p + below), wasm_u32x4_load16x4(p + below + right)));
      sum = wasm_u32x4_shr(wasm_i32x4_add(sum, two), 2);
      const v128_t packed = wasm_u16x8_narrow_i32x4(sum, sum);
      wasm_v128_store64_lane(dst, packed, 0);
    }
  }
}

typedef struct {
  const uint16_t *values;
  int32_t w, h, gap;
} Level;

static inline int32_t clamp(int32_t v, int32_t most) { return v < 0 ? 0 : v > most ? most : v; }

// Two pixels as pairs of their channels, so that one instruction weighs and adds them.
static inline v128_t pairs(const uint16_t *a, const uint16_t *b) {
  const v128_t left = wasm_v128_load64_zero(a), right = wasm_v128_load64_zero(b);
  return wasm_i16x8_shuffle(left, right, 0, 8, 1, 9, 2, 10, 3, 11);
}

static inline v128_t weights(int32_t f, int32_t one) { return wasm_i32x4_splat((one - f) | (f << 16)); }

// Whether a place is more than a pixel beside a copy.
static inline int32_t beside(const Level *level, int64_t x, int64_t y, int32_t shift) {
  const int64_t ix = x >> (24 + shift), iy = y >> (24 + shift);
  return ix < -1 || iy < -1 || ix > level->w || iy > level->h;
}

static inline v128_t sample(const Level *level, int64_t x, int64_t y, int32_t shift) {
  const int32_t ax = (int32_t)(x >> (16 + shift)) - 128, ay = (int32_t)(y >> (16 + shift)) - 128;
  const int32_t ix = ax >> 8, iy = ay >> 8, w = level->w, h = level->h;
  const uint16_t *top, *low;
  int32_t xa, xb;
  if (ix >= 0 && iy >= 0 && ix < w - 1 && iy < h - 1) {
    xa = ix * 4;
    xb = xa + 4;
    top = level->values + iy * w * 4;
    low = top + w * 4;
  } else {
    xa = clamp(ix, w - 1) * 4;
    xb = clamp(ix + 1, w - 1) * 4;
    top = level->values + clamp(iy, h - 1) * w * 4;
    low = level->values + clamp(iy + 1, h - 1) * w * 4;
  }
  const v128_t wx = weights(ax & 255, 256);
  const v128_t a = wasm_i32x4_shr(wasm_i32x4_dot_i16x8(pairs(top + xa, top + xb), wx), 8);
  const v128_t b = wasm_i32x4_shr(wasm_i32x4_dot_i16x8(pairs(low + xa, low + xb), wx), 8);
  const v128_t both = wasm_v128_or(a, wasm_i32x4_shl(b, 16));
  return wasm_i32x4_shr(wasm_i32x4_dot_i16x8(both, weights(ay & 255, 256)), 8);
}

// Sixteenths of an octave by which art may be finer than the picture before the next copy is mixed in, and more of it the finer it is.
#define NEAR 8

EXPORT(warp)
void warp(const uint8_t *share, const uint16_t *u, const uint16_t *v, const uint8_t *scale, const uint8_t *weave,
          int32_t n, const Level *levels, int32_t count, double u0, double us, double v0, double vs, int32_t lod,
          int32_t depth, int32_t bare, uint16_t *ink) {
  const v128_t half = wasm_i32x4_splat(32768);
  const int64_t x0 = (int64_t)u0, xs = (int64_t)us, y0 = (int64_t)v0, ys = (int64_t)vs;
  for (int32_t i = 0; i < n; i += 1, ink += 4) {
    const uint32_t covered = share[i];
    if (covered == 0) {
      *(uint64_t *)ink = 0;
      continue;
    }
    const int32_t at = clamp(scale[i] + lod, (count - 1) << 4);
    const int64_t x = x0 + u[i] * xs, y = y0 + v[i] * ys;
    const int32_t shift = at >> 4, f = (at & 15) <= NEAR ? 0 : ((at & 15) - NEAR) * (16 / NEAR);
    if (bare && beside(levels + shift, x, y, shift)) {
      *(uint64_t *)ink = 0;
      continue;
    }
    v128_t color = sample(levels + shift, x, y, shift);
    if (f) {
      const v128_t next = sample(levels + shift + 1, x, y, shift + 1);
      const v128_t both = wasm_v128_or(color, wasm_i32x4_shl(next, 16));
      color = wasm_i32x4_shr(wasm_i32x4_dot_i16x8(both, weights(f, 16)), 4);
    }
    // From 15 bits to 16, so that all stays all.
    color = wasm_v128_or(wasm_i32x4_shl(color, 1), wasm_u32x4_shr(color, 14));
    uint32_t part = covered * 257;
    if (weave) part = (part * (uint32_t)(65536 - weave[i] * depth)) >> 16;
    if (part < 65535) color = wasm_u32x4_shr(wasm_i32x4_add(wasm_i32x4_mul(color, wasm_u32x4_splat(part)), half), 16);
    wasm_v128_store64_lane(ink, wasm_u16x8_narrow_i32x4(color, color), 0);
  }
}

static inline uint32_t dark(uint32_t l, uint32_t c, uint32_t d, const uint16_t *table, int32_t bounce) {
  if (l == 0) return 0;
  uint32_t s = l * 255 / c;
  d = d * 255 / c;
  if (s > d) s = d + (((s - d) * (uint32_t)bounce) >> 8);
  if (s > 65535) s = 65535;
  return table[s >> 2] * c / 255;
}

// Eight lights on whole fabric, of which what comes from other folds is dimmed.
static inline v128_t dimmed(v128_t l, v128_t d, v128_t bounce) {
  const v128_t more = wasm_u16x8_sub_sat(l, d);
  const v128_t low = wasm_u32x4_shr(wasm_u32x4_extmul_low_u16x8(more, bounce), 8);
  const v128_t high = wasm_u32x4_shr(wasm_u32x4_extmul_high_u16x8(more, bounce), 8);
  return wasm_i16x8_add(wasm_u16x8_min(l, d), wasm_u16x8_narrow_i32x4(low, high));
}

static inline v128_t fibers(v128_t l, const uint8_t *heather, v128_t depth) {
  const v128_t way = wasm_i16x8_sub(wasm_u16x8_load8x8(heather), wasm_i16x8_splat(128));
  const v128_t by = wasm_i16x8_add(wasm_i16x8_mul(way, depth), wasm_i16x8_splat(16384));
  const v128_t low = wasm_u32x4_shr(wasm_u32x4_extmul_low_u16x8(l, by), 14);
  const v128_t high = wasm_u32x4_shr(wasm_u32x4_extmul_high_u16x8(l, by), 14);
  return wasm_u16x8_narrow_i32x4(low, high);
}

static inline uint16_t fiber(uint32_t l, uint8_t heather, int32_t depth) {
  l = (l * (uint32_t)(16384 + ((int32_t)heather - 128) * depth)) >> 14;
  return l > 65535 ? 65535 : (uint16_t)l;
}

EXPORT(relight)
void relight(const uint16_t *light, const uint16_t *direct, const uint8_t *cover, const uint8_t *heather,
             const uint16_t *table, const int32_t *runs, int32_t count, int32_t bounce, int32_t depth, uint16_t *out) {
  const v128_t dim = wasm_i16x8_splat((int16_t)bounce), deep = wasm_i16x8_splat((int16_t)depth);
  const v128_t whole = wasm_i8x16_splat(-1);
  for (int32_t k = 0; k < count; k += 1, runs += 3) {
    int32_t i = runs[0];
    const int32_t end = i + runs[1];
    while (i < end) {
      // Nearly everywhere fabric is whole, and dividing is slow.
      if (i + 8 <= end && (!table || wasm_i8x16_all_true(wasm_i8x16_eq(wasm_v128_load64_splat(cover + i), whole)))) {
        v128_t l = wasm_v128_load(light + i);
        if (table) {
          if (direct) l = dimmed(l, wasm_v128_load(direct + i), dim);
          wasm_v128_store(out + i, l);
          for (int32_t j = i; j < i + 8; j += 1) out[j] = table[out[j] >> 2];
          l = wasm_v128_load(out + i);
        }
        if (heather) l = fibers(l, heather + i, deep);
        wasm_v128_store(out + i, l);
        i += 8;
        continue;
      }
      const int32_t stop = i + 8 < end ? i + 8 : end;
      for (; i < stop; i += 1) {
        uint32_t l = light[i];
        const uint32_t c = cover[i];
        if (table) l = dark(l, c ? c : 1, direct ? direct[i] : 65535, table, bounce);
        out[i] = heather ? fiber(l, heather[i], depth) : (uint16_t)l;
      }
    }
  }
}

static inline v128_t most(v128_t value) { return wasm_u32x4_min(value, wasm_i32x4_splat(65535)); }

static inline void put(v128_t value, const uint8_t *tone, uint8_t *out, int32_t step) {
  const v128_t v = most(value);
  out[0] = tone[wasm_u32x4_extract_lane(v, 0)];
  out[1] = tone[wasm_u32x4_extract_lane(v, 1)];
  out[2] = tone[wasm_u32x4_extract_lane(v, 2)];
  if (step == 4) out[3] = 255;
}

EXPORT(shades)
void shades(uint32_t r, uint32_t g, uint32_t b, int32_t n, const uint8_t *tone, uint32_t *out) {
  for (int32_t l = 0; l < n; l += 1) {
    const uint32_t light = (uint32_t)l;
    out[l] = tone[(light * r) >> 16] | (tone[(light * g) >> 16] << 8) | (tone[(light * b) >> 16] << 16) | 0xff000000u;
  }
}

// Three bytes a pixel are written as four, the last of which the next pixel writes again; not so at the end of a run.
static inline void put_run(const uint16_t *light, int32_t n, const uint32_t *shades, uint8_t *out, int32_t step) {
  if (step == 4) {
    for (int32_t i = 0; i < n; i += 1) ((uint32_t *)out)[i] = shades[light[i]];
    return;
  }
  for (int32_t i = 0; i + 1 < n; i += 1, out += 3) {
    const uint32_t pixel = shades[light[i]];
    __builtin_memcpy(out, &pixel, 4);
  }
  const uint32_t last = shades[light[n - 1]];
  out[0] = (uint8_t)last;
  out[1] = (uint8_t)(last >> 8);
  out[2] = (uint8_t)(last >> 16);
}

EXPORT(fabric)
void fabric(const uint16_t *over, const uint16_t *light, const int32_t *runs, int32_t count, int32_t w, uint32_t r,
            uint32_t g, uint32_t b, const uint8_t *tone, const uint32_t *shades, uint8_t *out, int32_t stride, int32_t step) {
  const v128_t color = wasm_u32x4_make(r, g, b, 0);
  for (int32_t k = 0; k < count; k += 1, runs += 3) {
    const int32_t at = runs[0], n = runs[1], plain = runs[2];
    uint8_t *to = out + (at / w) * stride + (at % w) * step;
    if (plain) {
      put_run(light + at, n, shades, to, step);
      continue;
    }
    for (int32_t i = at; i < at + n; i += 1, to += step) {
      const v128_t lit = wasm_u32x4_shr(wasm_i32x4_mul(color, wasm_u32x4_splat(light[i])), 16);
      put(wasm_i32x4_add(wasm_u32x4_load16x4(over + (int64_t)i * 4), lit), tone, to, step);
    }
  }
}

// What of the pixels under ink does not depend on the fabric's color, worked out once for a design: the last value is the share of the color
// that is added to the others. All four 0 where there is no ink.
EXPORT(settle)
void settle(const uint16_t *ink, const uint16_t *over, const uint16_t *lightOfFabric, const uint16_t *lightOfInk,
            const uint16_t *gloss, int32_t planeStride, int32_t inkStride, int32_t w, int32_t h, int32_t fixed,
            int32_t glossShare, uint16_t *settled) {
  for (int32_t y = 0; y < h; y += 1)
    for (int32_t x = 0; x < w; x += 1, ink += 4, settled += 4) {
      const uint32_t a = ink[3];
      if (a == 0) {
        *(uint64_t *)settled = 0;
        continue;
      }
      const int32_t i = y * planeStride + x;
      const uint32_t bare = 65535 - a, light = lightOfInk[y * inkStride + x];
      const uint32_t shine = gloss ? (((gloss[i] * a) >> 16) * (uint32_t)glossShare) >> 8 : 0;
      for (int32_t c = 0; c < 3; c += 1) {
        const uint32_t under = fixed ? (over[(int64_t)i * 4 + c] * bare) >> 16 : over[(int64_t)i * 4 + c];
        const uint32_t value = under + ((ink[c] * light) >> 16) + shine;
        settled[c] = (uint16_t)(value > 65535 ? 65535 : value);
      }
      // Black ink in no light must not be taken for no ink.
      if (settled[0] == 0) settled[0] = 1;
      settled[3] = (uint16_t)(fixed ? 0 : (lightOfFabric[i] * bare) >> 16);
    }
}

EXPORT(inked)
void inked(const uint16_t *settled, int32_t w, int32_t h, uint32_t r, uint32_t g, uint32_t b, const uint8_t *tone,
           uint8_t *out, int32_t stride, int32_t step) {
  const v128_t color = wasm_u32x4_make(r, g, b, 0);
  for (int32_t y = 0; y < h; y += 1, out += stride) {
    uint8_t *to = out;
    for (int32_t x = 0; x < w; x += 1, to += step, settled += 4) {
      if (*(const uint64_t *)settled == 0) continue;
      const v128_t lit = wasm_u32x4_shr(wasm_i32x4_mul(color, wasm_u32x4_splat(settled[3])), 16);
      put(wasm_i32x4_add(wasm_u32x4_load16x4(settled), lit), tone, to, step);
    }
  }
}

EXPORT(ink)
void ink(const uint16_t *ink, const uint16_t *over, const uint16_t *lightOfFabric, const uint16_t *lightOfInk,
         const uint16_t *gloss, int32_t planeStride, int32_t inkStride, int32_t w, int32_t h, uint32_t r, uint32_t g, uint32_t b,
         int32_t mode, int32_t glossShare, const uint8_t *tone, uint8_t *out, int32_t stride, int32_t step) {
  const v128_t color = wasm_u32x4_make(r, g, b, 0);
  const v128_t full = wasm_i32x4_splat(65535);
  const int32_t dye = mode & 1, fixed = mode & 2;
  for (int32_t y = 0; y < h; y += 1, out += stride) {
    uint8_t *to = out;
    for (int32_t x = 0; x < w; x += 1, to += step, ink += 4) {
      const uint32_t a = ink[3];
      if (a == 0) continue;
      const int32_t i = y * planeStride + x;
      const v128_t own = wasm_u32x4_load16x4(ink);
      if (a == 65535 && !mode && !gloss) {
        const v128_t lit = wasm_u32x4_shr(wasm_i32x4_mul(own, wasm_u32x4_splat(lightOfInk[y * inkStride + x])), 16);
        put(wasm_i32x4_add(wasm_u32x4_load16x4(over + (int64_t)i * 4), lit), tone, to, step);
        continue;
      }
      v128_t bare = wasm_u32x4_splat(65535 - a);
      if (dye) bare = most(wasm_i32x4_add(bare, own));
      v128_t value = wasm_u32x4_load16x4(over + (int64_t)i * 4);
      if (fixed) value = wasm_u32x4_shr(wasm_i32x4_mul(value, bare), 16);
      else {
        const v128_t under = wasm_u32x4_shr(wasm_i32x4_mul(color, bare), 16);
        value = wasm_i32x4_add(value, wasm_u32x4_shr(wasm_i32x4_mul(under, wasm_u32x4_splat(lightOfFabric[i])), 16));
      }
      if (!dye) {
        const v128_t lit = wasm_i32x4_mul(wasm_v128_and(own, full), wasm_u32x4_splat(lightOfInk[y * inkStride + x]));
        value = wasm_i32x4_add(value, wasm_u32x4_shr(lit, 16));
      }
      if (gloss) value = wasm_i32x4_add(value, wasm_u32x4_splat((((gloss[i] * a) >> 16) * (uint32_t)glossShare) >> 8));
      put(value, tone, to, step);
    }
  }
}
