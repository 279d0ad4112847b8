import { compileKernel, PAGE } from '../print/wasm-module';
import type { Raster } from '../print/raster';
import { darkCurve, fabricLinear, HEATHER_DEPTH, type FabricColor } from './fabric';
import type { Finish } from './finish';
import { LINEAR16, ReferenceOps, UNDO, type ShotOps } from './ops-reference';
import { textureOver, type AreaPlanes, type PatternPlanes, type Planes } from './planes';
import { SHOT_WASM } from './shot.wasm';

/** The printed sheet of an area as pixels: where its top left corner lies in mm of the trim, and how fine it is. */
export interface AreaArt {
  readonly raster: Raster;
  readonly leftMm: number;
  readonly topMm: number;
  readonly pxPerMm: number;
}

/** Bytes a pixel of a picture: RGB, or RGBA that is opaque (what a canvas takes). */
export type PictureStep = 3 | 4;

interface Area {
  readonly planes: AreaPlanes;
  readonly at: {
    readonly share: number;
    readonly u: number;
    readonly v: number;
    readonly scale: number;
    readonly light: number;
    readonly ink: number;
  };
  readonly weaves: Map<string, Uint8Array>;
  printed: Finish | null;
}

/** Where there is fabric, run by run: first pixel, length, and 1 where nothing lies over it. */
function runsOf({ box, over, light }: Planes): Int32Array {
  const runs: number[] = [];
  for (let y = 0, i = 0; y < box.heightPx; y += 1) {
    let open = -1;
    for (let x = 0; x < box.widthPx; x += 1, i += 1) {
      const kind = light[i] === 0 ? -1 : over[i * 4]! | over[i * 4 + 1]! | over[i * 4 + 2]! ? 0 : 1;
      if (kind === open) {
        if (kind >= 0) runs[runs.length - 2]! += 1;
      } else if (kind >= 0) runs.push(i, 1, kind);
      open = kind;
    }
  }
  return Int32Array.from(runs);
}

/** Most copies of a sheet, each half of the one before. */
const LEVELS = 9;
const LEVEL_BYTES = 24;
const align = (at: number): number => (at + 15) & ~15;

/**
 * A shot in the kernel's memory. `print` warps a sheet into an area once for a design; `picture` then gives the mock-up on any color.
 * Nothing is allocated while pixels are made, but for larger sheets than before.
 */
export class ShotKernel {
  readonly widthPx: number;
  readonly heightPx: number;
  private readonly memory: WebAssembly.Memory;
  private readonly ops: ShotOps;
  private readonly areas = new Map<string, Area>();
  private readonly at: Record<
    | 'lin'
    | 'undo'
    | 'tone'
    | 'over'
    | 'light'
    | 'direct'
    | 'specular'
    | 'cover'
    | 'relit'
    | 'curve'
    | 'shades'
    | 'runs'
    | 'levels'
    | 'out',
    number
  >;
  private readonly opaque = new Map<PictureStep, Uint8Array>();
  private end = 0;

  /** `plain`: without WebAssembly SIMD, whether the machine has it or not. */
  constructor(
    private readonly planes: Planes,
    plain = false,
  ) {
    const { box } = planes;
    this.widthPx = planes.widthPx;
    this.heightPx = planes.heightPx;
    const n = box.widthPx * box.heightPx;
    this.runs = planes.cover ? runsOf(planes) : new Int32Array(0);
    this.brightest = planes.light.reduce((most, value) => Math.max(most, value), 0);
    this.end = PAGE;
    const take = (bytes: number) => {
      const at = this.end;
      this.end = align(at + bytes);
      return at;
    };
    this.at = {
      lin: take(512),
      undo: take(1024),
      tone: take(65536),
      over: take(n * 8),
      light: take(n * 2),
      direct: planes.direct ? take(n * 2) : 0,
      specular: planes.specular ? take(n * 2) : 0,
      cover: take(planes.cover ? n : 16),
      relit: take(n * 2),
      curve: take(32768),
      shades: take(65536 * 4),
      runs: take(this.runs.length * 4),
      levels: take(LEVELS * LEVEL_BYTES),
      out: take(planes.widthPx * planes.heightPx * 4),
    };
    const placed = Object.entries(planes.areas).map(([key, area]) => {
      const m = area.share.length;
      return [
        key,
        area,
        {
          share: take(m),
          u: take(m * 2),
          v: take(m * 2),
          scale: take(m),
          light: area.light ? take(m * 2) : 0,
          ink: take(m * 8),
        },
      ] as const;
    });
    const weave = Math.max(16, ...placed.map(([, area]) => area.share.length));
    this.weaveAt = take(weave);
    this.memory = new WebAssembly.Memory({ initial: Math.ceil(this.end / PAGE) + 1 });
    const built = plain ? null : compileKernel(SHOT_WASM);
    this.ops = built
      ? (new WebAssembly.Instance(built, { env: { memory: this.memory } }).exports as unknown as ShotOps)
      : new ReferenceOps(this.memory);
    this.put16(this.at.lin, LINEAR16);
    new Uint32Array(this.memory.buffer, this.at.undo, 256).set(UNDO);
    this.put8(this.at.tone, planes.tone);
    this.put16(this.at.over, planes.over);
    this.put16(this.at.light, planes.light);
    if (planes.direct) this.put16(this.at.direct, planes.direct);
    if (planes.specular) this.put16(this.at.specular, planes.specular);
    if (planes.cover) this.put8(this.at.cover, planes.cover);
    new Int32Array(this.memory.buffer, this.at.runs, this.runs.length).set(this.runs);
    for (const [key, area, at] of placed) {
      this.put8(at.share, area.share);
      this.put16(at.u, area.u);
      this.put16(at.v, area.v);
      this.put8(at.scale, area.scale);
      if (area.light) this.put16(at.light, area.light);
      this.areas.set(key, { planes: area, at, weaves: new Map(), printed: null });
    }
  }

  private readonly weaveAt: number;
  private readonly runs: Int32Array;
  private readonly brightest: number;

  /** Art pixels a mm that are about one and a half for each picture pixel of an area: finer than is seen, no finer. 0 for an area that is not in view. */
  artPxPerMm(areaKey: string): number {
    const mm = this.areas.get(areaKey)?.planes.finestMm ?? 0;
    return mm > 0 ? Math.min(24, 1.5 / mm) : 0;
  }

  /** Warps a sheet into its area; null takes away what was there. An area that is not in view is left alone. */
  print(areaKey: string, art: AreaArt | null, finish: Finish): void {
    const area = this.areas.get(areaKey);
    if (!area) return;
    area.printed = null;
    if (!art) return;
    const { planes, at } = area;
    const count = this.loadArt(art.raster);
    const uStep = ((planes.uMm[1] - planes.uMm[0]) / 65535) * art.pxPerMm;
    const vStep = ((planes.vMm[1] - planes.vMm[0]) / 65535) * art.pxPerMm;
    this.ops.warp(
      at.share,
      at.u,
      at.v,
      at.scale,
      this.loadWeave(area, finish),
      planes.share.length,
      this.at.levels,
      count,
      (planes.uMm[0] - art.leftMm) * art.pxPerMm,
      uStep,
      (planes.vMm[0] - art.topMm) * art.pxPerMm,
      vStep,
      Math.round(16 * Math.log2(art.pxPerMm)) - 128,
      finish.weaveDepth,
      at.ink,
    );
    area.printed = finish;
  }

  /** Brings a sheet into memory in linear light, with its halved copies. Gives how many there are. */
  private loadArt({ widthPx, heightPx, data }: Raster): number {
    let count = 1;
    for (let [w, h] = [widthPx, heightPx]; Math.min(w, h) > 4 && count < LEVELS; count += 1)
      [w, h] = [(w + 1) >> 1, (h + 1) >> 1];
    const pixels = align(this.end);
    let at = align(pixels + data.byteLength);
    this.room(at + Math.ceil((widthPx * heightPx * 8 * 4) / 3) + LEVELS * 64 * (widthPx + heightPx));
    new Uint8Array(this.memory.buffer, pixels, data.byteLength).set(data);
    const view = new DataView(this.memory.buffer);
    this.ops.linear(pixels, at, widthPx * heightPx, this.at.lin, this.at.undo);
    for (let k = 0, [w, h] = [widthPx, heightPx]; k < count; k += 1) {
      const record = this.at.levels + k * LEVEL_BYTES;
      view.setInt32(record, at, true);
      view.setInt32(record + 4, w, true);
      view.setInt32(record + 8, h, true);
      view.setFloat64(record + 16, 1 / (1 << k), true);
      const next = align(at + w * h * 8);
      if (k + 1 < count) this.ops.halve(at, w, h, next);
      [w, h] = [(w + 1) >> 1, (h + 1) >> 1];
      at = next;
    }
    return count;
  }

  private loadWeave(area: Area, { weave, weaveDepth }: Finish): number {
    if (!weave || weaveDepth === 0) return 0;
    const plane = area.weaves.get(weave) ?? textureOver(weave, area.planes);
    area.weaves.set(weave, plane);
    this.put8(this.weaveAt, plane);
    return this.weaveAt;
  }

  /**
   * The picture on a color, rows from the top; good until the next call. On pure white everything that is not the good is white. `fabric`
   * is not looked at where the good keeps its own color.
   */
  picture(fabric: FabricColor, step: PictureStep = 3, onWhite = false): Uint8Array {
    const { planes, at } = this;
    const { box, widthPx, heightPx } = planes;
    const [r, g, b] = fabricLinear(fabric.hex);
    const n = box.widthPx * box.heightPx;
    const curve = planes.cover ? darkCurve(fabric.hex, planes.median) : null;
    const heather = fabric.heather && planes.pattern ? this.loadHeather(planes.pattern) : 0;
    // Only now: heather may have made the memory larger, and then all views of it are new ones.
    const out = new Uint8Array(this.memory.buffer, at.out, widthPx * heightPx * step);
    out.set(this.baseOf(step));
    let light = at.light;
    if (curve || heather) {
      if (curve) this.put16(at.curve, curve.table);
      light = at.relit;
      this.ops.relight(
        at.light,
        at.direct,
        at.cover,
        heather,
        curve ? at.curve : 0,
        n,
        curve?.bounce ?? 256,
        HEATHER_DEPTH,
        light,
      );
    }
    const stride = widthPx * step;
    const origin = (top: number, left: number) => at.out + top * stride + left * step;
    if (planes.cover) {
      // The curve and heather may lift light a little: they are looked up for all there can be.
      this.ops.shades(r, g, b, light === at.light ? this.brightest + 1 : 65536, at.tone, at.shades);
      const count = this.runs.length / 3;
      const to = origin(box.topPx, box.leftPx);
      this.ops.fabric(at.over, light, at.runs, count, box.widthPx, r, g, b, at.tone, at.shades, to, stride, step);
    }
    for (const { planes: area, at: own, printed } of this.areas.values()) {
      if (!printed) continue;
      const first = (area.box.topPx - box.topPx) * box.widthPx + area.box.leftPx - box.leftPx;
      const gloss = printed.gloss > 0 && at.specular ? at.specular + first * 2 : 0;
      this.ops.ink(
        own.ink,
        at.over + first * 8,
        light + first * 2,
        own.light || at.light + first * 2,
        gloss,
        box.widthPx,
        own.light ? area.box.widthPx : box.widthPx,
        area.box.widthPx,
        area.box.heightPx,
        r,
        g,
        b,
        (printed.kind === 'dye' ? 1 : 0) | (own.light ? 2 : 0),
        printed.gloss,
        at.tone,
        origin(area.box.topPx, area.box.leftPx),
        stride,
        step,
      );
    }
    if (onWhite) this.whiten(out, step);
    return out;
  }

  private heatherAt = 0;

  /** Heather is laid in when it is first asked for; then it stays. */
  private loadHeather(pattern: PatternPlanes): number {
    if (this.heatherAt === 0) {
      const plane = textureOver('heather', pattern);
      this.heatherAt = align(this.end);
      this.end = align(this.heatherAt + plane.length);
      this.room(this.end);
      this.put8(this.heatherAt, plane);
    }
    return this.heatherAt;
  }

  private baseOf(step: PictureStep): Uint8Array {
    if (step === 3) return this.planes.base;
    const have = this.opaque.get(step);
    if (have) return have;
    const { base } = this.planes;
    const out = new Uint8Array((base.length / 3) * 4);
    for (let i = 0, o = 0; i < base.length; i += 3, o += 4) {
      out[o] = base[i]!;
      out[o + 1] = base[i + 1]!;
      out[o + 2] = base[i + 2]!;
      out[o + 3] = 255;
    }
    this.opaque.set(step, out);
    return out;
  }

  private whiten(out: Uint8Array, step: PictureStep): void {
    const { good } = this.planes;
    for (let i = 0, o = 0; i < good.length; i += 1, o += step) {
      const share = good[i]!;
      if (share === 255) continue;
      for (let c = o; c < o + 3; c += 1) out[c] = Math.round((out[c]! * share + 255 * (255 - share)) / 255);
    }
  }

  private room(bytes: number): void {
    const more = Math.ceil((bytes - this.memory.buffer.byteLength) / PAGE);
    if (more > 0) this.memory.grow(more);
  }

  private put8(at: number, values: Uint8Array): void {
    new Uint8Array(this.memory.buffer, at, values.length).set(values);
  }

  private put16(at: number, values: Uint16Array): void {
    new Uint16Array(this.memory.buffer, at, values.length).set(values);
  }

  /** Bytes that it holds. */
  get bytes(): number {
    return this.memory.buffer.byteLength + this.planes.base.byteLength;
  }
}
