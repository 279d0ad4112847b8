import sharp from 'sharp';
import { rasterizeMap } from '@/core/shot/area-map';
import {
  checkShotDocument,
  type MapPlanes,
  type Pass16,
  type PassFile,
  type PxBox,
  type Shot,
  type ShotArea,
  type ShotAreaFile,
  type ShotDocument,
  type TracedMap,
} from '@/core/shot/shot';
import { unpackSteps } from '@/core/shot/steps';
import { TypicaError } from '@/core/errors';

/** What a pass is laid over: the picture, or its window. */
const windowOf = (doc: ShotDocument, pass: { readonly window?: PxBox }): PxBox =>
  pass.window ?? { leftPx: 0, topPx: 0, widthPx: doc.widthPx, heightPx: doc.heightPx };

class ShotReader {
  constructor(
    private readonly doc: ShotDocument,
    private readonly read: (file: string) => Promise<Buffer>,
  ) {}

  /** The values of one file, `channels` a pixel, of the size that the document says. */
  private async raw(file: string, channels: number, wide: boolean, widthPx: number, heightPx: number): Promise<Buffer> {
    try {
      let image = sharp(await this.read(file), { limitInputPixels: 70_000_000 });
      image = wide ? image.toColourspace(channels === 3 ? 'rgb16' : 'grey16') : image.toColourspace('b-w');
      const { data, info } = await image.raw(wide ? { depth: 'ushort' } : {}).toBuffer({ resolveWithObject: true });
      if (info.width !== widthPx || info.height !== heightPx || info.channels !== channels)
        throw new Error(`it has ${info.width}×${info.height}×${info.channels}, not ${widthPx}×${heightPx}×${channels}`);
      return data;
    } catch (error) {
      throw new TypicaError(
        'invalid',
        'shot-invalid',
        `The pass ${file} of the shot ${this.doc.code} cannot be read (${(error as Error).message}).`,
        {},
        error,
      );
    }
  }

  private async words(file: string, channels: 1 | 3, w: number, h: number): Promise<Uint16Array> {
    const data = await this.raw(file, channels, true, w, h);
    // A copy: the buffer's start may not be even.
    return new Uint16Array(data.buffer.slice(data.byteOffset, data.byteOffset + w * h * channels * 2));
  }

  async linear(pass: PassFile | undefined, channels: 1 | 3): Promise<Pass16 | null> {
    if (!pass) return null;
    const box = windowOf(this.doc, pass);
    const by = pass.reduced ?? 1;
    const [w, h] = [Math.ceil(box.widthPx / by), Math.ceil(box.heightPx / by)];
    let values = await this.words(pass.file, channels, w, h);
    if (pass.encoding === 'steps16') values = unpackSteps(values, channels, pass.steps!, pass.scale);
    if (by > 1) values = enlarge(values, w, h, channels, by, box);
    return { values: this.spread(values, channels, box, (n) => new Uint16Array(n)), scale: pass.scale };
  }

  async coverage(pass: PassFile | undefined): Promise<Uint8Array | null> {
    if (!pass) return null;
    const box = windowOf(this.doc, pass);
    const values = new Uint8Array(await this.raw(pass.file, 1, false, box.widthPx, box.heightPx));
    return this.spread(values, 1, box, (n) => new Uint8Array(n));
  }

  async map(map: TracedMap | undefined): Promise<MapPlanes | null> {
    if (!map) return null;
    const box = windowOf(this.doc, map);
    const values = await this.words(map.file, 3, box.widthPx, box.heightPx);
    const n = box.widthPx * box.heightPx;
    const [u, v] = [new Uint16Array(n), new Uint16Array(n)];
    for (let i = 0; i < n; i += 1) {
      u[i] = values[i * 3]!;
      v[i] = values[i * 3 + 1]!;
    }
    const plane = (from: Uint16Array) => this.spread(from, 1, box, (count) => new Uint16Array(count));
    return { u: plane(u), v: plane(v), uMm: map.uMm, vMm: map.vMm };
  }

  async area({ coverage, map }: ShotAreaFile): Promise<ShotArea> {
    const own = await this.coverage(coverage);
    if (map.kind === 'traced') return { ...(await this.map(map))!, coverage: own! };
    const marked = rasterizeMap(map, this.doc.widthPx, this.doc.heightPx);
    if (!own) return marked;
    return { ...marked, coverage: marked.coverage.map((value, i) => Math.round((value * own[i]!) / 255)) };
  }

  /** Values of a window, laid into the whole picture. */
  private spread<T extends Uint8Array | Uint16Array>(
    values: T,
    channels: number,
    box: PxBox,
    make: (n: number) => T,
  ): T {
    const { widthPx, heightPx } = this.doc;
    if (box.widthPx === widthPx && box.heightPx === heightPx) return values;
    const out = make(widthPx * heightPx * channels);
    for (let y = 0; y < box.heightPx; y += 1)
      out.set(
        values.subarray(y * box.widthPx * channels, (y + 1) * box.widthPx * channels) as never,
        ((box.topPx + y) * widthPx + box.leftPx) * channels,
      );
    return out;
  }
}

/** A reduced pass at the size of its window, bilinear between its pixels' centers. */
function enlarge(from: Uint16Array, w: number, h: number, channels: number, by: number, box: PxBox): Uint16Array {
  const out = new Uint16Array(box.widthPx * box.heightPx * channels);
  for (let y = 0; y < box.heightPx; y += 1) {
    const sy = Math.min(h - 1, Math.max(0, (y + 0.5) / by - 0.5));
    const [y0, y1] = [Math.floor(sy), Math.min(h - 1, Math.floor(sy) + 1)];
    for (let x = 0; x < box.widthPx; x += 1) {
      const sx = Math.min(w - 1, Math.max(0, (x + 0.5) / by - 0.5));
      const [x0, x1] = [Math.floor(sx), Math.min(w - 1, Math.floor(sx) + 1)];
      for (let c = 0; c < channels; c += 1) {
        const at = (i: number, j: number) => from[(j * w + i) * channels + c]!;
        const top = at(x0, y0) + (at(x1, y0) - at(x0, y0)) * (sx - x0);
        const low = at(x0, y1) + (at(x1, y1) - at(x0, y1)) * (sx - x0);
        out[(y * box.widthPx + x) * channels + c] = top + (low - top) * (sy - y0) + 0.5;
      }
    }
  }
  return out;
}

/** Reads a shot's passes. `read` gives the bytes of a file that the document names. Throws `shot-invalid` for a damaged one. */
export async function decodeShot(value: unknown, read: (file: string) => Promise<Buffer>): Promise<Shot> {
  const doc = checkShotDocument(value);
  const reader = new ShotReader(doc, read);
  const { passes } = doc;
  const [rest, shade, direct, specular, fabric, front, good, pattern, areas] = await Promise.all([
    reader.linear(passes.rest, 3),
    reader.linear(passes.shade, 1),
    reader.linear(passes.direct, 1),
    reader.linear(passes.specular, 1),
    reader.coverage(passes.fabric),
    reader.coverage(passes.front),
    reader.coverage(passes.good),
    reader.map(doc.pattern),
    Promise.all(Object.entries(doc.areas).map(async ([key, a]) => [key, await reader.area(a)] as const)),
  ]);
  return {
    widthPx: doc.widthPx,
    heightPx: doc.heightPx,
    straightTo: doc.tone.straightTo,
    exposure: doc.exposure ?? 1,
    rest: rest!,
    shade,
    direct,
    specular,
    fabric,
    front,
    good,
    pattern,
    areas: Object.fromEntries(areas),
  };
}
