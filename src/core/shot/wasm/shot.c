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
      dst[0] = lin[src[0]];
      dst[1] = lin[src[1]];
      dst[2] = lin[src[2]];
      dst[3] = 65535;
    } else if (a == 0) {
      *(uint64_t *)dst = 0;
    } else {
      for (int32_t c = 0; c < 3; c += 1) {
        uint32_t v = (src[c] * undo[a] + 32768) >> 16;
        if (v > 255) v = 255;
        dst[c] = (uint16_t)((lin[v] * a + 127) / 255);
      }
      dst[3] = (uint16_t)(a * 257);
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
  int32_t w, h;
  double inverse;
} Level;

static inline int32_t floor_to_int(double v) {
  int32_t i = (int32_t)v;
  return i - (v < (double)i);
}

static inline int32_t clamp(int32_t v, int32_t most) { return v < 0 ? 0 : v > most ? most : v; }

static inline v128_t sample(const Level *level, double x, double y) {
  const int32_t ax = floor_to_int((x * level->inverse - 0.5) * 256.0);
  const int32_t ay = floor_to_int((y * level->inverse - 0.5) * 256.0);
  const int32_t ix = ax >> 8, iy = ay >> 8;
  const uint32_t fx = ax & 255, fy = ay & 255;
  const int32_t xa = clamp(ix, level->w - 1) * 4, xb = clamp(ix + 1, level->w - 1) * 4;
  const uint16_t *ra = level->values + (int64_t)clamp(iy, level->h - 1) * level->w * 4;
  const uint16_t *rb = level->values + (int64_t)clamp(iy + 1, level->h - 1) * level->w * 4;
  const v128_t wx = wasm_u32x4_splat(fx), vx = wasm_u32x4_splat(256 - fx);
  const v128_t top = wasm_i32x4_add(wasm_i32x4_mul(wasm_u32x4_load16x4(ra + xa), vx),
                                    wasm_i32x4_mul(wasm_u32x4_load16x4(ra + xb), wx));
  const v128_t low = wasm_i32x4_add(wasm_i32x4_mul(wasm_u32x4_load16x4(rb + xa), vx),
                                    wasm_i32x4_mul(wasm_u32x4_load16x4(rb + xb), wx));
  return wasm_u32x4_shr(wasm_i32x4_add(wasm_i32x4_mul(top, wasm_u32x4_splat(256 - fy)),
                                       wasm_i32x4_mul(low, wasm_u32x4_splat(fy))),
                        16);
}

EXPORT(warp)
void warp(const uint8_t *share, const uint16_t *u, const uint16_t *v, const uint8_t *scale, const uint8_t *weave,
          int32_t n, const Level *levels, int32_t count, double u0, double us, double v0, double vs, int32_t lod,
          int32_t depth, uint16_t *ink) {
  const v128_t half = wasm_i32x4_splat(32768);
  for (int32_t i = 0; i < n; i += 1, ink += 4) {
    uint32_t covered = share[i];
    if (covered == 0) {
      *(uint64_t *)ink = 0;
      continue;
    }
    const int32_t at = clamp(scale[i] + lod, (count - 1) << 4);
    const double x = u0 + u[i] * us, y = v0 + v[i] * vs;
    v128_t color = sample(levels + (at >> 4), x, y);
    const uint32_t f = at & 15;
    if (f) {
      const v128_t next = sample(levels + (at >> 4) + 1, x, y);
      color = wasm_u32x4_shr(wasm_i32x4_add(wasm_i32x4_mul(color, wasm_u32x4_splat(16 - f)),
                                            wasm_i32x4_mul(next, wasm_u32x4_splat(f))),
                             4);
    }
    uint32_t part = covered * 257;
    if (weave) part = (part * (uint32_t)(65536 - weave[i] * depth)) >> 16;
    if (part < 65535) color = wasm_u32x4_shr(wasm_i32x4_add(wasm_i32x4_mul(color, wasm_u32x4_splat(part)), half), 16);
    wasm_v128_store64_lane(ink, wasm_u16x8_narrow_i32x4(color, color), 0);
  }
}

EXPORT(relight)
void relight(const uint16_t *light, const uint16_t *direct, const uint8_t *cover, const uint8_t *heather,
             const uint16_t *table, int32_t n, int32_t bounce, int32_t depth, uint16_t *out) {
  for (int32_t i = 0; i < n; i += 1) {
    uint32_t l = light[i];
    if (l && table) {
      const uint32_t c = cover[i] ? cover[i] : 1;
      // Nearly everywhere fabric is whole, and dividing is slow.
      uint32_t s = c == 255 ? l : l * 255 / c;
      if (direct) {
        const uint32_t d = c == 255 ? direct[i] : direct[i] * 255u / c;
        if (s > d) s = d + (((s - d) * (uint32_t)bounce) >> 8);
      }
      if (s > 65535) s = 65535;
      l = c == 255 ? table[s >> 2] : table[s >> 2] * c / 255;
    }
    if (l && heather) {
      l = (l * (uint32_t)(16384 + ((int32_t)heather[i] - 128) * depth)) >> 14;
      if (l > 65535) l = 65535;
    }
    out[i] = (uint16_t)l;
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
