import { compileKernel, PAGE } from '../print/wasm-module';
import type { Raster } from '../print/raster';
import { darkCurve, fabricLinear, HEATHER_DEPTH, type FabricColor } from './fabric';
import type { Finish } from './finish';
import { LINEAR15, ReferenceOps, UNDO, type ShotOps } from './ops-reference';
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
  readonly planes: Pick<AreaPlanes, 'box' | 'uMm' | 'vMm' | 'finestMm'>;
  readonly at: {
    readonly share: number;
    readonly u: number;
    readonly v: number;
    readonly scale: number;
    readonly light: number;
    readonly ink: number;
    readonly settled: number;
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

/** Art pixels for each picture pixel where an area is seen largest: finer than is seen. */
const FINER = 1.15;

/** Most copies of a sheet, each half of the one before. */
const LEVELS = 9;
const LEVEL_BYTES = 16;
/** Runs of fabric of one call. */
const CALL_RUNS = 64;
/** Pixels of one call: so few that the kernel is soon run as optimized code, which begins with a call. */
const CALL_PX = 16_384;
/** Places are handed over in this part of an art pixel. */
const PLACE = 2 ** 24;
const align = (at: number): number => (at + 15) & ~15;

export interface KernelOptions {
  readonly step?: PictureStep;
  /** Pictures that are in memory beside each other: one can be packed while the next is made. */
  readonly slots?: number;
  /** Without WebAssembly SIMD, whether the machine has it or not. */
  readonly plain?: boolean;
}

/**
 * A shot in the kernel's memory. `print` warps a sheet into an area once for a design; `picture` then gives the mock-up on any color.
 * Nothing is allocated while pixels are made, but for larger sheets than before.
 */
export class ShotKernel {
  readonly widthPx: number;
  readonly heightPx: number;
  /** What is needed of the planes beside what lies in the kernel's memory. */
  private readonly planes: Pick<Planes, 'widthPx' | 'heightPx' | 'base' | 'box' | 'median' | 'good'> & {
    readonly onFabric: boolean;
    readonly pattern: PatternPlanes | null;
  };
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
    | 'heather'
    | 'relit'
    | 'curve'
    | 'shades'
    | 'runs'
    | 'levels',
    number
  >;
  private readonly step: PictureStep;
  private readonly slots: readonly number[];
  /** Slots in which a picture stands whose ground is untouched. */
  private readonly standing: boolean[];
  private end = 0;

  constructor(planes: Planes, { step = 3, slots = 1, plain = false }: KernelOptions = {}) {
    const { box } = planes;
    this.planes = {
      widthPx: planes.widthPx,
      heightPx: planes.heightPx,
      base: planes.base,
      box,
      median: planes.median,
      good: planes.good,
      onFabric: planes.cover !== null,
      pattern: planes.pattern,
    };
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
      heather: planes.pattern ? take(n) : 0,
      relit: take(n * 2),
      curve: take(32768),
      shades: take(65536 * 4),
      runs: take(this.runs.length * 4),
      levels: take(LEVELS * LEVEL_BYTES),
    };
    this.step = step;
    this.slots = Array.from({ length: slots }, () => take(planes.widthPx * planes.heightPx * step + 16));
    this.standing = this.slots.map(() => false);
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
          settled: take(m * 8),
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
    this.put16(this.at.lin, LINEAR15);
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
      const { box: areaBox, uMm, vMm, finestMm } = area;
      this.areas.set(key, { planes: { box: areaBox, uMm, vMm, finestMm }, at, weaves: new Map(), printed: null });
    }
  }

  private readonly weaveAt: number;
  private readonly runs: Int32Array;
  private readonly brightest: number;

  /** Art pixels a mm that are a little finer than the picture on an area, no finer. 0 for an area that is not in view. */
  artPxPerMm(areaKey: string): number {
    const mm = this.areas.get(areaKey)?.planes.finestMm ?? 0;
    return mm > 0 ? Math.min(24, FINER / mm) : 0;
  }

  /** Warps a sheet into its area; null takes away what was there. An area that is not in view is left alone. */
  print(areaKey: string, art: AreaArt | null, finish: Finish): void {
    const area = this.areas.get(areaKey);
    if (!area) return;
    area.printed = null;
    // Ink that was beside the fabric goes with the picture's ground.
    if (area.at.light) this.standing.fill(false);
    if (!art) return;
    const { planes, at } = area;
    const count = this.loadArt(art.raster);
    const uStep = ((planes.uMm[1] - planes.uMm[0]) / 65535) * art.pxPerMm;
    const vStep = ((planes.vMm[1] - planes.vMm[0]) / 65535) * art.pxPerMm;
    const weave = this.loadWeave(area, finish);
    const lod = Math.round(16 * Math.log2(art.pxPerMm)) - 128;
    const u0 = (planes.uMm[0] - art.leftMm) * art.pxPerMm * PLACE;
    const v0 = (planes.vMm[0] - art.topMm) * art.pxPerMm * PLACE;
    const all = planes.box.widthPx * planes.box.heightPx;
    for (let i = 0; i < all; i += CALL_PX)
      this.ops.warp(
        at.share + i,
        at.u + i * 2,
        at.v + i * 2,
        at.scale + i,
        weave && weave + i,
        Math.min(CALL_PX, all - i),
        this.at.levels,
        count,
        u0,
        uStep * PLACE,
        v0,
        vStep * PLACE,
        lod,
        finish.weaveDepth,
        at.ink + i * 8,
      );
    area.printed = finish;
    if (finish.kind === 'ink') this.settle(area, finish);
  }

  /** Brings a sheet into memory in linear light, with its halved copies. Gives how many there are. */
  private loadArt({ widthPx, heightPx, data }: Raster): number {
    let count = 1;
    for (let [w, h] = [widthPx, heightPx]; Math.min(w, h) > 4 && count < LEVELS; count += 1)
      [w, h] = [(w + 1) >> 1, (h + 1) >> 1];
    const pixels = align(this.end);
    let at = align(pixels + data.byteLength);
    this.room(this.bytesFor(widthPx, heightPx));
    new Uint8Array(this.memory.buffer, pixels, data.byteLength).set(data);
    const view = new DataView(this.memory.buffer);
    for (let i = 0; i < widthPx * heightPx; i += CALL_PX)
      this.ops.linear(pixels + i * 4, at + i * 8, Math.min(CALL_PX, widthPx * heightPx - i), this.at.lin, this.at.undo);
    for (let k = 0, [w, h] = [widthPx, heightPx]; k < count; k += 1) {
      const record = this.at.levels + k * LEVEL_BYTES;
      view.setInt32(record, at, true);
      view.setInt32(record + 4, w, true);
      view.setInt32(record + 8, h, true);
      const next = align(at + w * h * 8);
      if (k + 1 < count) this.halve(at, w, h, next);
      [w, h] = [(w + 1) >> 1, (h + 1) >> 1];
      at = next;
    }
    return count;
  }

  /** An area's map as it lies in memory. */
  private mapOf({ planes: { box, uMm, vMm }, at }: Area) {
    const n = box.widthPx * box.heightPx;
    const { buffer } = this.memory;
    return {
      u: new Uint16Array(buffer, at.u, n),
      v: new Uint16Array(buffer, at.v, n),
      scale: new Uint8Array(buffer, at.scale, n),
      uMm,
      vMm,
    };
  }

  private readonly curves = new Map<string, ReturnType<typeof darkCurve>>();

  private curveOf(hex: string): ReturnType<typeof darkCurve> {
    let curve = this.curves.get(hex);
    if (curve === undefined) this.curves.set(hex, (curve = darkCurve(hex, this.planes.median)));
    return curve;
  }

  private halve(from: number, w: number, h: number, to: number): void {
    const rows = 2 * Math.max(1, Math.floor(CALL_PX / w / 2));
    for (let y = 0; y < h; y += rows)
      this.ops.halve(from + y * w * 8, w, Math.min(rows, h - y), to + (y / 2) * ((w + 1) >> 1) * 8);
  }

  private loadWeave(area: Area, { weave, weaveDepth }: Finish): number {
    if (!weave || weaveDepth === 0) return 0;
    const plane = area.weaves.get(weave) ?? textureOver(weave, this.mapOf(area));
    area.weaves.set(weave, plane);
    this.put8(this.weaveAt, plane);
    return this.weaveAt;
  }

  /**
   * The picture on a color, rows from the top; good until the next call with the same slot, or until a larger sheet is printed. On pure white everything that is not the good is white. `fabric`
   * is not looked at where the good keeps its own color.
   */
  picture(fabric: FabricColor, onWhite = false, slot = 0): Uint8Array {
    const { planes, at, step } = this;
    const { box, widthPx, heightPx } = planes;
    const picture = this.slots[slot]!;
    const [r, g, b] = fabricLinear(fabric.hex);
    const n = box.widthPx * box.heightPx;
    const curve = planes.onFabric ? this.curveOf(fabric.hex) : null;
    const heather = fabric.heather && planes.pattern ? this.loadHeather(planes.pattern) : 0;
    const out = new Uint8Array(this.memory.buffer, picture, widthPx * heightPx * step);
    // What is not fabric and carries no ink stays from one color to the next.
    if (!this.standing[slot]) this.layGround(out);
    this.standing[slot] = !onWhite;
    let light = at.light;
    if (curve || heather) {
      if (curve) this.put16(at.curve, curve.table);
      light = at.relit;
      for (let i = 0; i < n; i += CALL_PX)
        this.ops.relight(
          at.light + i * 2,
          at.direct && at.direct + i * 2,
          at.cover + i,
          heather && heather + i,
          curve ? at.curve : 0,
          Math.min(CALL_PX, n - i),
          curve?.bounce ?? 256,
          HEATHER_DEPTH,
          light + i * 2,
        );
    }
    const stride = widthPx * step;
    const origin = (top: number, left: number) => picture + top * stride + left * step;
    if (planes.onFabric) {
      // The curve and heather may lift light a little: they are looked up for all there can be.
      this.ops.shades(r, g, b, light === at.light ? this.brightest + 1 : 65536, at.tone, at.shades);
      const count = this.runs.length / 3;
      const to = origin(box.topPx, box.leftPx);
      for (let k = 0; k < count; k += CALL_RUNS) {
        const some = Math.min(CALL_RUNS, count - k);
        const runs = at.runs + k * 12;
        this.ops.fabric(at.over, light, runs, some, box.widthPx, r, g, b, at.tone, at.shades, to, stride, step);
      }
    }
    for (const area of this.areas.values()) this.layInk(area, light, [r, g, b], picture);
    if (onWhite) this.whiten(out, step);
    return out;
  }

  private heatherAt = 0;

  /** Heather is laid in when it is first asked for; then it stays. */
  private loadHeather(pattern: PatternPlanes): number {
    if (this.heatherAt === 0) {
      const plane = textureOver('heather', pattern);
      // Its place was kept: the memory must not grow while a picture in it is still looked at.
      this.heatherAt = this.at.heather;
      this.put8(this.heatherAt, plane);
    }
    return this.heatherAt;
  }

  /** An area row by row in pieces of a call: the row, how many, and where they begin in the planes. */
  private inPieces({ planes: { box } }: Area, work: (y: number, rows: number, from: number) => void): void {
    const { box: all } = this.planes;
    const first = (box.topPx - all.topPx) * all.widthPx + box.leftPx - all.leftPx;
    const rows = Math.max(1, Math.floor(CALL_PX / Math.max(1, box.widthPx)));
    for (let y = 0; y < box.heightPx; y += rows) work(y, Math.min(rows, box.heightPx - y), first + y * all.widthPx);
  }

  private settle(area: Area, { gloss }: Finish): void {
    const { at } = this;
    const { at: own } = area;
    const w = area.planes.box.widthPx;
    const stride = this.planes.box.widthPx;
    this.inPieces(area, (y, rows, from) =>
      this.ops.settle(
        own.ink + y * w * 8,
        at.over + from * 8,
        at.light + from * 2,
        own.light ? own.light + y * w * 2 : at.light + from * 2,
        gloss > 0 && at.specular ? at.specular + from * 2 : 0,
        stride,
        own.light ? w : stride,
        w,
        rows,
        own.light ? 1 : 0,
        gloss,
        own.settled + y * w * 8,
      ),
    );
  }

  /** Writes the pixels under ink. What is settled does for every color under the shot's own light. */
  private layInk(area: Area, light: number, [r, g, b]: readonly [number, number, number], picture: number): void {
    const { at, step } = this;
    const { at: own, printed } = area;
    if (!printed) return;
    const { box } = area.planes;
    const w = box.widthPx;
    const stride = this.widthPx * step;
    const planeStride = this.planes.box.widthPx;
    const settled = printed.kind === 'ink' && (light === at.light || own.light !== 0);
    this.inPieces(area, (y, rows, from) => {
      const out = picture + (box.topPx + y) * stride + box.leftPx * step;
      if (settled) return this.ops.inked(own.settled + y * w * 8, w, rows, r, g, b, at.tone, out, stride, step);
      this.ops.ink(
        own.ink + y * w * 8,
        at.over + from * 8,
        light + from * 2,
        own.light ? own.light + y * w * 2 : at.light + from * 2,
        printed.gloss > 0 && at.specular ? at.specular + from * 2 : 0,
        planeStride,
        own.light ? w : planeStride,
        w,
        rows,
        r,
        g,
        b,
        (printed.kind === 'dye' ? 1 : 0) | (own.light ? 2 : 0),
        printed.gloss,
        at.tone,
        out,
        stride,
        step,
      );
    });
  }

  private layGround(out: Uint8Array): void {
    const { base } = this.planes;
    if (this.step === 3) return out.set(base);
    for (let i = 0, o = 0; i < base.length; i += 3, o += 4) {
      out[o] = base[i]!;
      out[o + 1] = base[i + 1]!;
      out[o + 2] = base[i + 2]!;
      out[o + 3] = 255;
    }
  }

  private whiten(out: Uint8Array, step: PictureStep): void {
    const { good } = this.planes;
    for (let i = 0, o = 0; i < good.length; i += 1, o += step) {
      const share = good[i]!;
      if (share === 255) continue;
      for (let c = o; c < o + 3; c += 1) out[c] = Math.round((out[c]! * share + 255 * (255 - share)) / 255);
    }
  }

  /** Whether printing a sheet of this size makes the memory larger: pictures that are still looked at must be done with then. */
  needsRoom(widthPx: number, heightPx: number): boolean {
    return this.bytesFor(widthPx, heightPx) > this.memory.buffer.byteLength;
  }

  private bytesFor(widthPx: number, heightPx: number): number {
    const pixels = widthPx * heightPx;
    return align(this.end) + pixels * 4 + Math.ceil((pixels * 8 * 4) / 3) + LEVELS * 64 * (widthPx + heightPx) + 64;
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
    return this.memory.buffer.byteLength + this.planes.base.byteLength + this.planes.good.byteLength;
  }
}
