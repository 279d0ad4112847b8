import { linearOf8 } from '../artwork/color';
import { UNDO } from '../print/png-filter-reference';
import type { ShotOps } from './ops';

/** A table in linear light, 0 … 32767, of 8-bit sRGB: art has 15 bits, so that one instruction weighs and adds two of them. */
export const LINEAR15 = Uint16Array.from(linearOf8, (v) => Math.round(v * 32767));

/** Sixteenths of an octave by which art may be finer than the picture before the next copy is mixed in, and more of it the finer it is. */
const NEAR = 8;

/** Runs of pixels: first, length, kind. */
function eachPixel(runs: Int32Array, work: (i: number) => void): void {
  for (let k = 0; k < runs.length; k += 3) for (let i = runs[k]!, end = i + runs[k + 1]!; i < end; i += 1) work(i);
}

/** Whether a place is more than a pixel beside a copy. */
function isBeside({ w, h, divisor }: { w: number; h: number; divisor: number }, x: number, y: number): boolean {
  const [ix, iy] = [Math.floor(x / divisor / 256), Math.floor(y / divisor / 256)];
  return ix < -1 || iy < -1 || ix > w || iy > h;
}

const clamp = (v: number, most: number): number => (v < 0 ? 0 : v > most ? most : v);

/**
 * The kernel in plain TypeScript: its oracle in tests, and what works where there is no WebAssembly SIMD. Products stay below 2³² and
 * are divided by powers of two, so that doubles hold them exactly.
 */
export class ReferenceOps implements ShotOps {
  constructor(private readonly memory: { readonly buffer: ArrayBuffer | SharedArrayBuffer }) {}

  private u8 = (at: number) => new Uint8Array(this.memory.buffer as ArrayBuffer, at);
  private i32 = (at: number, n: number) => new Int32Array(this.memory.buffer as ArrayBuffer, at, n);
  private u16 = (at: number) => {
    const { buffer } = this.memory;
    return new Uint16Array(buffer as ArrayBuffer, at, (buffer.byteLength - at) >> 1);
  };

  readonly linear: ShotOps['linear'] = (src, dst, n) => {
    const [from, to] = [this.u8(src), this.u16(dst)];
    for (let i = 0; i < n * 4; i += 4) {
      const alpha = from[i + 3]!;
      for (let c = i; c < i + 3; c += 1) {
        if (alpha === 0) to[c] = 0;
        else if (alpha === 255) to[c] = LINEAR15[from[c]!]!;
        else {
          const straight = Math.min(255, Math.floor((from[c]! * UNDO[alpha]! + 32768) / 65536));
          to[c] = Math.floor((LINEAR15[straight]! * alpha + 127) / 255);
        }
      }
      to[i + 3] = Math.floor((alpha * 32767 + 127) / 255);
    }
  };

  readonly halve: ShotOps['halve'] = (src, w, h, dst) => {
    const [from, to] = [this.u16(src), this.u16(dst)];
    const [tw, th] = [(w + 1) >> 1, (h + 1) >> 1];
    for (let y = 0; y < th; y += 1)
      for (let x = 0; x < tw; x += 1) {
        const i = (2 * y * w + 2 * x) * 4;
        const right = 2 * x + 1 < w ? 4 : 0;
        const below = 2 * y + 1 < h ? w * 4 : 0;
        for (let c = 0; c < 4; c += 1)
          to[(y * tw + x) * 4 + c] =
            (from[i + c]! + from[i + right + c]! + from[i + below + c]! + from[i + below + right + c]! + 2) >> 2;
      }
  };

  readonly warp: ShotOps['warp'] = (
    share,
    u,
    v,
    scale,
    weave,
    n,
    levels,
    count,
    u0,
    us,
    v0,
    vs,
    lod,
    depth,
    bare,
    ink,
  ) => {
    const view = new DataView(this.memory.buffer as ArrayBuffer);
    const copies = Array.from({ length: count }, (_, k) => ({
      values: this.u16(view.getInt32(levels + k * 16, true)),
      w: view.getInt32(levels + k * 16 + 4, true),
      h: view.getInt32(levels + k * 16 + 8, true),
      divisor: 2 ** (16 + k),
    }));
    const [shares, us16, vs16, scales] = [this.u8(share), this.u16(u), this.u16(v), this.u8(scale)];
    const gaps = weave ? this.u8(weave) : null;
    const out = this.u16(ink);
    const sample = ({ values, w, h, divisor }: (typeof copies)[number], x: number, y: number, c: number) => {
      const ax = Math.floor(x / divisor) - 128;
      const ay = Math.floor(y / divisor) - 128;
      const [fx, fy] = [ax & 255, ay & 255];
      const [xa, xb] = [clamp(ax >> 8, w - 1) * 4 + c, clamp((ax >> 8) + 1, w - 1) * 4 + c];
      const [ra, rb] = [clamp(ay >> 8, h - 1) * w * 4, clamp((ay >> 8) + 1, h - 1) * w * 4];
      const top = (values[ra + xa]! * (256 - fx) + values[ra + xb]! * fx) >> 8;
      const low = (values[rb + xa]! * (256 - fx) + values[rb + xb]! * fx) >> 8;
      return (top * (256 - fy) + low * fy) >> 8;
    };
    const [x0, xs, y0, ys] = [u0, us, v0, vs].map(Math.trunc) as [number, number, number, number];
    for (let i = 0; i < n; i += 1) {
      const at = clamp(scales[i]! + lod, (count - 1) << 4);
      const [x, y] = [x0 + us16[i]! * xs, y0 + vs16[i]! * ys];
      const f = Math.max(0, (at & 15) - NEAR) * (16 / NEAR);
      const beside = bare !== 0 && isBeside(copies[at >> 4]!, x, y);
      let part = shares[i]! * 257;
      if (gaps) part = Math.floor((part * (65536 - gaps[i]! * depth)) / 65536);
      for (let c = 0; c < 4; c += 1) {
        if (shares[i] === 0 || beside) {
          out[i * 4 + c] = 0;
          continue;
        }
        let value = sample(copies[at >> 4]!, x, y, c);
        if (f) value = (value * (16 - f) + sample(copies[(at >> 4) + 1]!, x, y, c) * f) >> 4;
        // From 15 bits to 16, so that all stays all.
        value = (value << 1) | (value >> 14);
        out[i * 4 + c] = part < 65535 ? Math.floor((value * part + 32768) / 65536) : value;
      }
    }
  };

  readonly relight: ShotOps['relight'] = (light, direct, cover, heather, table, runs, count, bounce, depth, out) => {
    const [from, to, covers] = [this.u16(light), this.u16(out), this.u8(cover)];
    const straight = direct ? this.u16(direct) : null;
    const fibers = heather ? this.u8(heather) : null;
    const curve = table ? this.u16(table) : null;
    eachPixel(this.i32(runs, count * 3), (i) => {
      let l = from[i]!;
      if (l && curve) {
        const c = covers[i] || 1;
        let s = Math.floor((l * 255) / c);
        if (straight) {
          const d = Math.floor((straight[i]! * 255) / c);
          if (s > d) s = d + Math.floor(((s - d) * bounce) / 256);
        }
        l = Math.floor((curve[Math.min(65535, s) >> 2]! * c) / 255);
      }
      if (l && fibers) l = Math.min(65535, Math.floor((l * (16384 + (fibers[i]! - 128) * depth)) / 16384));
      to[i] = l;
    });
  };

  readonly shades: ShotOps['shades'] = (r, g, b, n, tone, out) => {
    const [tones, to] = [this.u8(tone), this.u8(out)];
    for (let l = 0; l < n; l += 1) {
      [r, g, b].forEach((c, k) => (to[l * 4 + k] = tones[Math.floor((l * c) / 65536)]!));
      to[l * 4 + 3] = 255;
    }
  };

  readonly fabric: ShotOps['fabric'] = (over, light, runs, count, w, r, g, b, tone, _shades, out, stride, step) => {
    const [overs, lights, tones, to] = [this.u16(over), this.u16(light), this.u8(tone), this.u8(out)];
    const color = [r, g, b];
    eachPixel(this.i32(runs, count * 3), (i) => {
      const o = Math.floor(i / w) * stride + (i % w) * step;
      for (let c = 0; c < 3; c += 1)
        to[o + c] = tones[Math.min(65535, overs[i * 4 + c]! + Math.floor((lights[i]! * color[c]!) / 65536))]!;
      if (step === 4) to[o + 3] = 255;
    });
  };

  readonly settle: ShotOps['settle'] = (
    ink,
    over,
    lightOfFabric,
    lightOfInk,
    gloss,
    planeStride,
    inkStride,
    w,
    h,
    fixed,
    glossShare,
    settled,
  ) => {
    const [inks, overs, to] = [this.u16(ink), this.u16(over), this.u16(settled)];
    const [ofFabric, ofInk] = [this.u16(lightOfFabric), this.u16(lightOfInk)];
    const glosses = gloss ? this.u16(gloss) : null;
    for (let y = 0; y < h; y += 1)
      for (let x = 0; x < w; x += 1) {
        const k = (y * w + x) * 4;
        const alpha = inks[k + 3]!;
        if (alpha === 0) {
          to.fill(0, k, k + 4);
          continue;
        }
        const i = y * planeStride + x;
        const bare = 65535 - alpha;
        const shine = glosses ? Math.floor((Math.floor((glosses[i]! * alpha) / 65536) * glossShare) / 256) : 0;
        for (let c = 0; c < 3; c += 1) {
          const under = fixed ? Math.floor((overs[i * 4 + c]! * bare) / 65536) : overs[i * 4 + c]!;
          to[k + c] = Math.min(65535, under + Math.floor((inks[k + c]! * ofInk[y * inkStride + x]!) / 65536) + shine);
        }
        // Black ink in no light must not be taken for no ink.
        if (to[k] === 0) to[k] = 1;
        to[k + 3] = fixed ? 0 : Math.floor((ofFabric[i]! * bare) / 65536);
      }
  };

  readonly inked: ShotOps['inked'] = (settled, w, h, r, g, b, tone, out, stride, step) => {
    const [from, tones, to] = [this.u16(settled), this.u8(tone), this.u8(out)];
    const color = [r, g, b];
    for (let y = 0; y < h; y += 1)
      for (let x = 0; x < w; x += 1) {
        const k = (y * w + x) * 4;
        if (!(from[k]! | from[k + 1]! | from[k + 2]! | from[k + 3]!)) continue;
        const o = y * stride + x * step;
        for (let c = 0; c < 3; c += 1)
          to[o + c] = tones[Math.min(65535, from[k + c]! + Math.floor((color[c]! * from[k + 3]!) / 65536))]!;
        if (step === 4) to[o + 3] = 255;
      }
  };

  readonly ink: ShotOps['ink'] = (
    ink,
    over,
    lightOfFabric,
    lightOfInk,
    gloss,
    planeStride,
    inkStride,
    w,
    h,
    r,
    g,
    b,
    mode,
    glossShare,
    tone,
    out,
    stride,
    step,
  ) => {
    const [inks, overs, tones, to] = [this.u16(ink), this.u16(over), this.u8(tone), this.u8(out)];
    const [ofFabric, ofInk] = [this.u16(lightOfFabric), this.u16(lightOfInk)];
    const glosses = gloss ? this.u16(gloss) : null;
    const color = [r, g, b];
    const [dye, fixed] = [mode & 1, mode & 2];
    for (let y = 0; y < h; y += 1)
      for (let x = 0; x < w; x += 1) {
        const k = (y * w + x) * 4;
        const alpha = inks[k + 3]!;
        if (alpha === 0) continue;
        const i = y * planeStride + x;
        const shine = glosses ? Math.floor((Math.floor((glosses[i]! * alpha) / 65536) * glossShare) / 256) : 0;
        for (let c = 0; c < 3; c += 1) {
          const own = inks[k + c]!;
          const bare = Math.min(65535, 65535 - alpha + (dye ? own : 0));
          let value = overs[i * 4 + c]!;
          if (fixed) value = Math.floor((value * bare) / 65536);
          else value += Math.floor((Math.floor((color[c]! * bare) / 65536) * ofFabric[i]!) / 65536);
          if (!dye) value += Math.floor((own * ofInk[y * inkStride + x]!) / 65536);
          to[y * stride + x * step + c] = tones[Math.min(65535, value + shine)]!;
        }
        if (step === 4) to[y * stride + x * step + 3] = 255;
      }
  };
}
