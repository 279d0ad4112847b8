import { compileKernel, PAGE } from '../print/wasm-module';
import type { Raster } from '../print/pixels';
import { darkCurve, fabricLinear, HEATHER_DEPTH, type FabricColor } from './fabric';
import { viewOf, type AreaView } from './area-view';
import type { Finish } from './finish';
import { fill, layOut, put, type KernelArea, type Layout } from './kernel-memory';
import { bytesWithSheet, CALL_PX, loadSheet } from './kernel-sheet';
import type { ShotOps } from './ops';
import { ReferenceOps } from './ops-reference';
import { textureOver, type PatternPlanes, type Planes } from './planes';
import { SHOT_WASM } from './shot.wasm';
import { ownEntry } from '../own-entry';

/** The printed sheet of an area as pixels: where its top left corner lies in mm of the trim, and how fine it is. */
export interface AreaArt {
  readonly raster: Raster;
  readonly leftMm: number;
  readonly topMm: number;
  readonly pxPerMm: number;
  /** Nothing lies beyond its edges: it was cut out of an empty sheet. */
  readonly bare?: boolean;
}

/** Bytes a pixel of a picture: RGB, or RGBA that is opaque (what a canvas takes). */
export type PictureStep = 3 | 4;

/** Runs of fabric of one call. */
const CALL_RUNS = 64;
/** Places are handed over in this part of an art pixel. */
const PLACE = 2 ** 24;

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
  private readonly areas: ReadonlyMap<string, KernelArea>;
  private readonly layout: Layout;
  private readonly at: Layout['at'];
  private readonly step: PictureStep;
  /** Slots in which a picture stands whose ground is untouched. */
  private readonly standing: boolean[];
  private readonly brightest: number;
  private readonly curves = new Map<string, ReturnType<typeof darkCurve>>();
  private heathered = false;

  constructor(planes: Planes, { step = 3, slots = 1, plain = false }: KernelOptions = {}) {
    this.planes = {
      widthPx: planes.widthPx,
      heightPx: planes.heightPx,
      base: planes.base,
      box: planes.box,
      median: planes.median,
      good: planes.good,
      onFabric: planes.cover !== null,
      pattern: planes.pattern,
    };
    this.widthPx = planes.widthPx;
    this.heightPx = planes.heightPx;
    this.step = step;
    this.brightest = planes.light.reduce((most, value) => Math.max(most, value), 0);
    this.layout = layOut(planes, PAGE, slots, step);
    this.at = this.layout.at;
    this.standing = this.layout.slots.map(() => false);
    this.memory = new WebAssembly.Memory({ initial: Math.ceil(this.layout.end / PAGE) + 1 });
    const built = plain ? null : compileKernel(SHOT_WASM);
    this.ops = built
      ? (new WebAssembly.Instance(built, { env: { memory: this.memory } }).exports as unknown as ShotOps)
      : new ReferenceOps(this.memory);
    fill(this.memory, planes, this.layout);
    this.areas = new Map(
      [...this.layout.areas].map(([key, at]) => {
        const area = ownEntry(planes.areas, key)!;
        const { box, uMm, vMm } = area;
        return [key, { planes: { box, uMm, vMm }, view: viewOf(area), at, weaves: new Map(), printed: null }];
      }),
    );
  }

  /** How an area is seen; null where none of it is. */
  viewOf(areaKey: string): AreaView | null {
    return this.areas.get(areaKey)?.view ?? null;
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
    const count = loadSheet(this.memory, this.ops, this.layout, art.raster);
    const uStep = ((planes.uMm[1] - planes.uMm[0]) / 65535) * art.pxPerMm;
    const vStep = ((planes.vMm[1] - planes.vMm[0]) / 65535) * art.pxPerMm;
    const weave = this.loadWeave(area, finish);
    // An eighth of a halving coarser than the picture: measured against traced grids, finer copies shimmer and coarser ones blur.
    const lod = Math.round(16 * Math.log2(art.pxPerMm)) - 128 + 2;
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
        art.bare ? 1 : 0,
        at.ink + i * 8,
      );
    area.printed = finish;
    if (finish.kind === 'ink') this.settle(area, finish);
  }

  /** An area's map as it lies in memory. */
  private mapOf({ planes: { box, uMm, vMm }, at }: KernelArea) {
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

  private curveOf(hex: string): ReturnType<typeof darkCurve> {
    let curve = this.curves.get(hex);
    if (curve === undefined) this.curves.set(hex, (curve = darkCurve(hex, this.planes.median)));
    return curve;
  }

  private loadWeave(area: KernelArea, { weave, weaveDepth }: Finish): number {
    if (!weave || weaveDepth === 0) return 0;
    const plane = area.weaves.get(weave) ?? textureOver(weave, this.mapOf(area));
    area.weaves.set(weave, plane);
    put(this.memory, this.layout.weave, plane);
    return this.layout.weave;
  }

  /**
   * The picture on a color, rows from the top; good until the next call with the same slot, or until a larger sheet is printed. On pure
   * white everything that is not the good is white. `fabric` is not looked at where the good keeps its own color.
   */
  picture(fabric: FabricColor, onWhite = false, slot = 0): Uint8Array {
    const { planes, at, step } = this;
    const { box, widthPx, heightPx } = planes;
    const picture = this.layout.slots[slot]!;
    const [r, g, b] = fabricLinear(fabric.hex);
    const curve = planes.onFabric ? this.curveOf(fabric.hex) : null;
    const heather = fabric.heather && planes.pattern ? this.loadHeather(planes.pattern) : 0;
    const out = new Uint8Array(this.memory.buffer, picture, widthPx * heightPx * step);
    // What is not fabric and carries no ink stays from one color to the next.
    if (!this.standing[slot]) this.layGround(out);
    this.standing[slot] = !onWhite;
    let light = at.light;
    if (curve || heather) {
      if (curve) put(this.memory, at.curve, curve.table);
      light = at.relit;
      this.eachRuns((runs, count) =>
        this.ops.relight(
          at.light,
          at.direct,
          at.cover,
          heather,
          curve ? at.curve : 0,
          runs,
          count,
          curve?.bounce ?? 256,
          HEATHER_DEPTH,
          light,
        ),
      );
    }
    const stride = widthPx * step;
    const origin = (top: number, left: number) => picture + top * stride + left * step;
    if (planes.onFabric) {
      // The curve and heather may lift light a little: they are looked up for all there can be.
      this.ops.shades(r, g, b, light === at.light ? this.brightest + 1 : 65536, at.tone, at.shades);
      const to = origin(box.topPx, box.leftPx);
      this.eachRuns((runs, count) =>
        this.ops.fabric(at.over, light, runs, count, box.widthPx, r, g, b, at.tone, at.shades, to, stride, step),
      );
    }
    for (const area of this.areas.values()) this.layInk(area, light, [r, g, b], picture);
    if (onWhite) this.whiten(out, step);
    return out;
  }

  /** The runs of fabric, so many that a call is short. */
  private eachRuns(work: (runs: number, count: number) => void): void {
    const count = this.layout.runs.length / 3;
    for (let k = 0; k < count; k += CALL_RUNS) work(this.at.runs + k * 12, Math.min(CALL_RUNS, count - k));
  }

  /** Heather is laid in when it is first asked for; its place was kept: the memory must not grow while a picture in it is still looked at. */
  private loadHeather(pattern: PatternPlanes): number {
    if (!this.heathered) put(this.memory, this.at.heather, textureOver('heather', pattern));
    this.heathered = true;
    return this.at.heather;
  }

  /** An area row by row in pieces of a call: the row, how many, and where they begin in the planes. */
  private inPieces({ planes: { box } }: KernelArea, work: (y: number, rows: number, from: number) => void): void {
    const { box: all } = this.planes;
    const first = (box.topPx - all.topPx) * all.widthPx + box.leftPx - all.leftPx;
    const rows = Math.max(1, Math.floor(CALL_PX / Math.max(1, box.widthPx)));
    for (let y = 0; y < box.heightPx; y += rows) work(y, Math.min(rows, box.heightPx - y), first + y * all.widthPx);
  }

  private settle(area: KernelArea, { gloss }: Finish): void {
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
  private layInk(area: KernelArea, light: number, [r, g, b]: readonly [number, number, number], picture: number): void {
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
    return bytesWithSheet(this.layout, widthPx, heightPx) > this.memory.buffer.byteLength;
  }

  /** Bytes that it holds. */
  get bytes(): number {
    return this.memory.buffer.byteLength + this.planes.base.byteLength + this.planes.good.byteLength;
  }
}
