import { LRUCache } from 'lru-cache';
import sharp from 'sharp';
import { formatHex } from '@/core/artwork/color';
import { likenessHash } from '@/core/artwork/likeness';
import { contentHash } from '@/core/canonical/canonical';
import type { PictureFormat } from '@/core/listing/picture-format';
import { sheetContent, type SheetPlan } from '@/core/print/plan';
import { finishSheet, planArt } from '@/core/shot/art';
import type { FabricColor } from '@/core/shot/fabric';
import { finishOf } from '@/core/shot/finish';
import { ShotKernel, type AreaArt } from '@/core/shot/kernel';
import { planesOf, type Planes } from '@/core/shot/planes';
import { reduceShot } from '@/core/shot/reduce';
import { composeSheet, type OpenArtwork, type ReadBytes } from '../images/compose';
import { keptArtworks } from '../images/kept-artworks';
import { decodeShot } from '../images/shots';
import { encodePicture, type EncodedPicture } from './encode';
import { HALF, halfPlanes } from './half-planes';
import type { ShotFiles } from './shot-files';
import { ownEntry } from '@/core/own-entry';

/** One picture to be painted. */
export interface PaintOrder {
  readonly shot: ShotFiles;
  /** 1: as large as the shot; 2: half of it, for the proof rail and lists. */
  readonly factor: 1 | 2;
  readonly fabric: FabricColor;
  readonly material: string;
  readonly sheets: readonly SheetPlan[];
  readonly form: PictureFormat;
}

/** A small picture is told what it is like; nobody asks that of a large one. */
export interface Painted extends EncodedPicture {
  readonly alike: PictureLikeness | null;
}

/** What a picture is like: a difference hash, and the mean color of its middle. */
export interface PictureLikeness {
  readonly likeness: string;
  readonly tint: string;
}

/** Memory for shots that are ready; the one that was used longest ago goes first. */
const KERNEL_BYTES = 160e6;
/** Pictures of one shot that are in memory beside each other. */
const SLOTS = 3;
/** Sheets that are kept drawn: of one design there are several in view. */
const KEPT_ARTS = 6;

interface Ready {
  readonly kernel: ShotKernel;
  /** What is printed in each area. */
  readonly printed: Map<string, string>;
  /** Slots whose picture is not packed yet. */
  readonly busy: Map<number, Promise<unknown>>;
}

/** Paints mock-ups: holds shots in the kernel's memory and sheets as they are drawn, so that the next color costs only its own pixels. */
export class Painter {
  private readonly kernels = new Map<string, Promise<Ready>>();
  private readonly sizes = new Map<string, number>();
  private readonly arts = new LRUCache<string, Promise<AreaArt>>({ max: KEPT_ARTS });
  private readonly artworks: OpenArtwork;
  /** Shots are made ready one after the other: each takes many times what it holds then. */
  private last: Promise<unknown> = Promise.resolve();

  /** With a `home`, planes of proofs are kept there. */
  constructor(
    private readonly read: ReadBytes,
    private readonly home: string | null = null,
  ) {
    this.artworks = keptArtworks(read);
  }

  async paint(order: PaintOrder): Promise<Painted> {
    const ready = await this.kernelOf(order);
    const { kernel, busy } = ready;
    const sheets = order.sheets.filter((sheet) => kernel.viewOf(sheet.areaKey) !== null);
    const arts = await Promise.all(sheets.map((sheet) => this.artOf(kernel, sheet, order.material)));
    // A larger memory is another one: nobody may still be packing out of the old.
    while (arts.some(({ raster }) => kernel.needsRoom(raster.widthPx, raster.heightPx)) && busy.size > 0)
      await Promise.allSettled(busy.values());
    while (busy.size === SLOTS) await Promise.race(busy.values());
    // From here to the picture nothing waits: two orders of one shot must not print over each other.
    this.print(ready, sheets, arts, order.material);
    const slot = Array.from({ length: SLOTS }, (_, i) => i).find((i) => !busy.has(i))!;
    const packing = this.pack(kernel, kernel.picture(order.fabric, order.form.pureWhite, slot), order);
    busy.set(
      slot,
      packing.catch(() => undefined).finally(() => busy.delete(slot)),
    );
    return packing;
  }

  private print(
    { kernel, printed }: Ready,
    sheets: readonly SheetPlan[],
    arts: readonly AreaArt[],
    material: string,
  ): void {
    for (const areaKey of [...printed.keys()].filter((key) => !sheets.some((sheet) => sheet.areaKey === key))) {
      kernel.print(areaKey, null, finishOf('giclee', material));
      printed.delete(areaKey);
    }
    for (const [i, sheet] of sheets.entries()) {
      const content = `${sheetKey(sheet)}/${material}`;
      if (printed.get(sheet.areaKey) === content) continue;
      kernel.print(sheet.areaKey, arts[i]!, finishOf(sheet.geometry.technique, material));
      printed.set(sheet.areaKey, content);
    }
  }

  /** Packs a picture straight out of the kernel's memory. */
  private async pack(
    { widthPx, heightPx }: ShotKernel,
    rgb: Uint8Array,
    { form, factor }: PaintOrder,
  ): Promise<Painted> {
    const encoded = await encodePicture({ widthPx, heightPx, rgb }, form);
    return { ...encoded, alike: factor === 1 ? null : await likenessOf(rgb, widthPx, heightPx) };
  }

  private kernelOf({ shot, factor }: PaintOrder): Promise<Ready> {
    const key = `${shot.contentHash}/${factor}`;
    const have = this.kernels.get(key);
    if (have) {
      this.kernels.delete(key);
      this.kernels.set(key, have);
      return have;
    }
    const opening = this.last.then(async () => {
      const kernel = new ShotKernel(await this.planesOf(shot, factor), { slots: SLOTS });
      this.sizes.set(key, kernel.bytes);
      this.makeRoom(key);
      return { kernel, printed: new Map<string, string>(), busy: new Map<number, Promise<unknown>>() };
    });
    this.last = opening.catch(() => undefined);
    this.kernels.set(key, opening);
    opening.catch(() => this.kernels.delete(key));
    return opening;
  }

  private async planesOf(shot: ShotFiles, factor: PaintOrder['factor']): Promise<Planes> {
    if (factor === HALF && this.home !== null) return halfPlanes(this.home, this.read, shot);
    const whole = await decodeShot(shot.document, (file) => this.read(ownEntry(shot.passes, file) ?? ''));
    return planesOf(reduceShot(whole, factor));
  }

  private makeRoom(keep: string): void {
    const held = () => [...this.sizes.values()].reduce((sum, bytes) => sum + bytes, 0);
    for (const key of [...this.kernels.keys()]) {
      if (held() <= KERNEL_BYTES) return;
      if (key === keep || !this.sizes.has(key)) continue;
      this.kernels.delete(key);
      this.sizes.delete(key);
    }
  }

  private artOf(kernel: ShotKernel, sheet: SheetPlan, material: string): Promise<AreaArt> {
    const { geometry, areaKey } = sheet;
    const finish = finishOf(geometry.technique, material);
    const plan = planArt(geometry, finish, kernel.viewOf(areaKey)!);
    const key = `${sheetKey(sheet)}/${material}/${JSON.stringify(plan)}`;
    const have = this.arts.get(key);
    if (have) return have;
    const drawing = composeSheet(this.read, sheet, plan.dpi, this.artworks, plan.window).then((raster) =>
      finishSheet(raster, geometry, finish, plan),
    );
    this.arts.set(key, drawing);
    drawing.catch(() => this.arts.delete(key));
    return drawing;
  }
}

const keys = new WeakMap<SheetPlan, string>();

function sheetKey(sheet: SheetPlan): string {
  const have = keys.get(sheet) ?? contentHash({ area: sheet.areaKey, ...sheetContent(sheet) });
  keys.set(sheet, have);
  return have;
}

const LOOK_PX = 64;

/** What a finished picture is like. */
export async function likenessOf(rgb: Uint8Array, widthPx: number, heightPx: number): Promise<PictureLikeness> {
  const { data } = await sharp(rgb, { raw: { width: widthPx, height: heightPx, channels: 3 } })
    .resize(LOOK_PX, LOOK_PX, { fit: 'fill', kernel: 'linear', fastShrinkOnLoad: true })
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  const pixels = { widthPx: LOOK_PX, heightPx: LOOK_PX, rgba: new Uint8Array(data) };
  const mean: [number, number, number] = [0, 0, 0];
  const [from, to] = [LOOK_PX * 0.3, LOOK_PX * 0.7];
  let count = 0;
  for (let y = Math.ceil(from); y < to; y += 1)
    for (let x = Math.ceil(from); x < to; x += 1) {
      for (let c = 0; c < 3; c += 1) mean[c]! += pixels.rgba[(y * LOOK_PX + x) * 4 + c]!;
      count += 1;
    }
  return {
    likeness: likenessHash(pixels),
    tint: formatHex(mean.map((sum) => Math.round(sum / count)) as [number, number, number]),
  };
}
