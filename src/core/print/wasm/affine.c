// The affine sampler of ../affine-reference.ts in WebAssembly SIMD: the same arithmetic, bit for bit; that file is its oracle and
// explains it. Built by build.sh beside this; the built bytes are in ../affine.wasm.ts.
#include <stdint.h>
#include <wasm_simd128.h>

#define BLOCK 16
#define PHASES 256

typedef struct {
  const uint32_t *src;
  uint32_t *out;
  const int32_t *weights; // PHASES rows of 4, in 1/4096
  int32_t sw, sh, tw;
} Job;

static inline uint32_t scaled(uint32_t value, uint32_t share) {
  uint32_t product = value * share + 128;
  return (product + (product >> 8)) >> 8;
}

static inline uint32_t over(uint32_t below, uint32_t color) {
  uint32_t a = color >> 24;
  if (a == 255 || below == 0) return color;
  uint32_t rest = 255 - a;
  uint32_t r = (color & 255) + scaled(below & 255, rest);
  uint32_t g = ((color >> 8) & 255) + scaled((below >> 8) & 255, rest);
  uint32_t b = ((color >> 16) & 255) + scaled((below >> 16) & 255, rest);
  a += scaled(below >> 24, rest);
  return r | (g << 8) | (b << 16) | (a << 24);
}

static inline int32_t floor_to_int(double v) {
  int32_t i = (int32_t)v;
  return i - (v < (double)i);
}

static void draw_run(const Job *job, int32_t o, int32_t count, double u, double v, double du, double dv) {
  const int32_t sw = job->sw, sh = job->sh;
  uint32_t edge[16];
  for (int32_t end = o + count; o < end; o += 1, u += du, v += dv) {
    const int32_t iu = floor_to_int(u), iv = floor_to_int(v);
    const uint32_t *base;
    int32_t stride;
    if (iu >= 1 && iv >= 1 && iu < sw - 2 && iv < sh - 2) {
      base = job->src + (iv - 1) * sw + iu - 1;
      stride = sw;
    } else {
      if (iu < -2 || iv < -2 || iu > sw || iv > sh) continue;
      for (int32_t j = 0; j < 4; j += 1) {
        const int32_t y = iv - 1 + j;
        for (int32_t i = 0; i < 4; i += 1) {
          const int32_t x = iu - 1 + i;
          edge[j * 4 + i] = x >= 0 && y >= 0 && x < sw && y < sh ? job->src[y * sw + x] : 0;
        }
      }
      base = edge;
      stride = 4;
    }
    const int32_t *wu = job->weights + (((int32_t)((u - iu) * PHASES)) << 2);
    const int32_t *wv = job->weights + (((int32_t)((v - iv) * PHASES)) << 2);
    // Pairs of neighboring pixels side by side by channel, so that one dot product weighs both.
    const v128_t w01 = wasm_i32x4_splat((wu[0] & 0xffff) | (wu[1] << 16));
    const v128_t w23 = wasm_i32x4_splat((wu[2] & 0xffff) | (wu[3] << 16));
    v128_t sum = wasm_i32x4_splat(0);
    for (int32_t j = 0; j < 4; j += 1, base += stride) {
      const v128_t row = wasm_v128_load(base);
      const v128_t pairs = wasm_i8x16_shuffle(row, row, 0, 4, 1, 5, 2, 6, 3, 7, 8, 12, 9, 13, 10, 14, 11, 15);
      const v128_t across = wasm_i32x4_add(wasm_i32x4_dot_i16x8(wasm_u16x8_extend_low_u8x16(pairs), w01),
                                           wasm_i32x4_dot_i16x8(wasm_u16x8_extend_high_u8x16(pairs), w23));
      sum = wasm_i32x4_add(sum, wasm_i32x4_mul(wasm_i32x4_shr(across, 4), wasm_i32x4_splat(wv[j])));
    }
    sum = wasm_i32x4_shr(wasm_i32x4_add(sum, wasm_i32x4_splat(524288)), 20);
    int32_t a = wasm_i32x4_extract_lane(sum, 3);
    if (a <= 0) continue;
    if (a > 255) a = 255;
    sum = wasm_i32x4_min(wasm_i32x4_max(sum, wasm_i32x4_splat(0)), wasm_i32x4_splat(a));
    const v128_t half = wasm_u16x8_narrow_i32x4(sum, sum);
    const uint32_t color = (uint32_t)wasm_i32x4_extract_lane(wasm_u8x16_narrow_i16x8(half, half), 0);
    job->out[o] = over(job->out[o], color);
  }
}

// Most rows of source under a tile of an upright picture: it is at most 1.5 times too fine.
#define MOST_ROWS 32

// The same pixels as draw_run where source and target stand upright to each other: each source row is weighed across once for a tile, and not
// once for each of its rows. False when the tile needs more source rows than there is room for.
static int draw_upright(const Job *job, int32_t tx, int32_t xEnd, int32_t ty, int32_t yEnd, double u, double du, double d, double f) {
  const int32_t sw = job->sw, sh = job->sh, across = xEnd - tx, down = yEnd - ty;
  int32_t iu[BLOCK], iv[BLOCK], phase[BLOCK];
  for (int32_t i = 0; i < across; i += 1, u += du) {
    iu[i] = floor_to_int(u);
    phase[i] = ((int32_t)((u - iu[i]) * PHASES)) << 2;
  }
  const int32_t *wv[BLOCK];
  for (int32_t j = 0; j < down; j += 1) {
    const double at = d * (ty + j + 0.5) + f - 0.5;
    iv[j] = floor_to_int(at);
    wv[j] = job->weights + (((int32_t)((at - iv[j]) * PHASES)) << 2);
  }
  const int32_t first = iv[0] < iv[down - 1] ? iv[0] : iv[down - 1], last = iv[0] < iv[down - 1] ? iv[down - 1] : iv[0];
  const int32_t rows = last - first + 4;
  if (rows > MOST_ROWS) return 0;
  v128_t weighed[MOST_ROWS * BLOCK];
  uint32_t edge[4];
  for (int32_t r = 0; r < rows; r += 1) {
    const int32_t y = first - 1 + r;
    v128_t *into = weighed + r * BLOCK;
    if (y < 0 || y >= sh) {
      for (int32_t i = 0; i < across; i += 1) into[i] = wasm_i32x4_splat(0);
      continue;
    }
    const uint32_t *line = job->src + y * sw;
    for (int32_t i = 0; i < across; i += 1) {
      const int32_t x = iu[i] - 1;
      const uint32_t *base = line + x;
      if (x < 0 || x + 3 >= sw) {
        for (int32_t k = 0; k < 4; k += 1) edge[k] = x + k >= 0 && x + k < sw ? line[x + k] : 0;
        base = edge;
      }
      const int32_t *wu = job->weights + phase[i];
      const v128_t w01 = wasm_i32x4_splat((wu[0] & 0xffff) | (wu[1] << 16));
      const v128_t w23 = wasm_i32x4_splat((wu[2] & 0xffff) | (wu[3] << 16));
      const v128_t row = wasm_v128_load(base);
      const v128_t pairs = wasm_i8x16_shuffle(row, row, 0, 4, 1, 5, 2, 6, 3, 7, 8, 12, 9, 13, 10, 14, 11, 15);
      into[i] = wasm_i32x4_shr(wasm_i32x4_add(wasm_i32x4_dot_i16x8(wasm_u16x8_extend_low_u8x16(pairs), w01),
                                              wasm_i32x4_dot_i16x8(wasm_u16x8_extend_high_u8x16(pairs), w23)),
                               4);
    }
  }
  for (int32_t j = 0; j < down; j += 1) {
    const v128_t *from = weighed + (iv[j] - first) * BLOCK;
    uint32_t *out = job->out + (ty + j) * job->tw + tx;
    const v128_t w0 = wasm_i32x4_splat(wv[j][0]), w1 = wasm_i32x4_splat(wv[j][1]), w2 = wasm_i32x4_splat(wv[j][2]), w3 = wasm_i32x4_splat(wv[j][3]);
    for (int32_t i = 0; i < across; i += 1) {
      v128_t sum = wasm_i32x4_add(wasm_i32x4_add(wasm_i32x4_mul(from[i], w0), wasm_i32x4_mul(from[i + BLOCK], w1)),
                                  wasm_i32x4_add(wasm_i32x4_mul(from[i + 2 * BLOCK], w2), wasm_i32x4_mul(from[i + 3 * BLOCK], w3)));
      sum = wasm_i32x4_shr(wasm_i32x4_add(sum, wasm_i32x4_splat(524288)), 20);
      int32_t a = wasm_i32x4_extract_lane(sum, 3);
      if (a <= 0) continue;
      if (a > 255) a = 255;
      sum = wasm_i32x4_min(wasm_i32x4_max(sum, wasm_i32x4_splat(0)), wasm_i32x4_splat(a));
      const v128_t half = wasm_u16x8_narrow_i32x4(sum, sum);
      out[i] = over(out[i], (uint32_t)wasm_i32x4_extract_lane(wasm_u8x16_narrow_i16x8(half, half), 0));
    }
  }
  return 1;
}

static void find_uniform(const uint32_t *src, int32_t sw, int32_t across, int32_t down, uint8_t *blocks) {
  for (int32_t i = 0; i < across * down; i += 1) blocks[i] = 1;
  for (int32_t y = 0; y < down * BLOCK; y += 1) {
    uint8_t *row = blocks + (y / BLOCK) * across;
    const uint32_t *first = src + (y & ~(BLOCK - 1)) * sw;
    for (int32_t bx = 0; bx < across; bx += 1) {
      if (!row[bx]) continue;
      const v128_t color = wasm_i32x4_splat((int32_t)first[bx * BLOCK]);
      const uint32_t *at = src + y * sw + bx * BLOCK;
      v128_t same = wasm_i32x4_eq(wasm_v128_load(at), color);
      for (int32_t k = 4; k < BLOCK; k += 4) same = wasm_v128_and(same, wasm_i32x4_eq(wasm_v128_load(at + k), color));
      row[bx] = (uint8_t)wasm_i32x4_all_true(same);
    }
  }
}

static inline double least(double a, double b) { return a < b ? a : b; }
static inline double most(double a, double b) { return a > b ? a : b; }

// Finds the blocks of one color; `blocks` has a byte for each whole block. Once for a source, before it is drawn.
__attribute__((export_name("prepare"))) void prepare(const uint32_t *src, int32_t sw, int32_t sh, uint8_t *blocks) {
  find_uniform(src, sw, sw / BLOCK, sh / BLOCK, blocks);
}

// Draws rows fromY … toY of a target of tw pixels across; `out` is its first row. (a … f) maps target to source pixels.
__attribute__((export_name("draw"))) void draw(const uint32_t *src, int32_t sw, int32_t sh, const uint8_t *blocks, const int32_t *weights, uint32_t *out, int32_t tw,
                                                int32_t fromY, int32_t toY, double a, double b, double c, double d, double e, double f) {
  const Job job = {src, out, weights, sw, sh, tw};
  const int32_t across = sw / BLOCK, down = sh / BLOCK;
  for (int32_t ty = fromY; ty < toY; ty += BLOCK) {
    const int32_t yEnd = ty + BLOCK < toY ? ty + BLOCK : toY;
    for (int32_t tx = 0; tx < tw; tx += BLOCK) {
      const int32_t xEnd = tx + BLOCK < tw ? tx + BLOCK : tw;
      double uMin = 1e300, uMax = -1e300, vMin = 1e300, vMax = -1e300;
      for (int32_t corner = 0; corner < 4; corner += 1) {
        const double x = corner & 1 ? xEnd - 0.5 : tx + 0.5;
        const double y = corner & 2 ? yEnd - 0.5 : ty + 0.5;
        const double u = a * x + c * y + e - 0.5;
        const double v = b * x + d * y + f - 0.5;
        uMin = least(uMin, u), uMax = most(uMax, u), vMin = least(vMin, v), vMax = most(vMax, v);
      }
      if (uMax < -2 || vMax < -2 || uMin >= sw + 1 || vMin >= sh + 1) continue;
      const int32_t bu0 = (floor_to_int(most(uMin, -1e6)) - 1) >> 4, bu1 = (floor_to_int(least(uMax, 1e6)) + 2) >> 4;
      const int32_t bv0 = (floor_to_int(most(vMin, -1e6)) - 1) >> 4, bv1 = (floor_to_int(least(vMax, 1e6)) + 2) >> 4;
      if (bu0 >= 0 && bv0 >= 0 && bu1 < across && bv1 < down) {
        const uint32_t color = src[bv0 * BLOCK * sw + bu0 * BLOCK];
        int flat = 1;
        for (int32_t bv = bv0; flat && bv <= bv1; bv += 1)
          for (int32_t bu = bu0; flat && bu <= bu1; bu += 1) flat = blocks[bv * across + bu] && src[bv * BLOCK * sw + bu * BLOCK] == color;
        if (flat) {
          if (color >> 24 == 0) continue;
          for (int32_t y = ty; y < yEnd; y += 1) {
            uint32_t *row = out + y * tw;
            for (int32_t x = tx; x < xEnd; x += 1) row[x] = over(row[x], color);
          }
          continue;
        }
      }
      if (b == 0 && c == 0 && draw_upright(&job, tx, xEnd, ty, yEnd, a * (tx + 0.5) + e - 0.5, a, d, f)) continue;
      for (int32_t y = ty; y < yEnd; y += 1) {
        const double u = a * (tx + 0.5) + c * (y + 0.5) + e - 0.5;
        const double v = b * (tx + 0.5) + d * (y + 0.5) + f - 0.5;
        draw_run(&job, y * tw + tx, xEnd - tx, u, v, a, b);
      }
    }
  }
}
