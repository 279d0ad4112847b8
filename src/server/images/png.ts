import { promisify } from 'node:util';
import zlib from 'node:zlib';
import { chunk, density, header, SIGNATURE, SRGB, type PngColor } from '@/core/print/png-chunks';
import { PngFilter } from '@/core/print/png-filter';
import type { Raster } from '@/core/print/pixels';
import { stripOf } from '@/core/print/raster';

const deflateRaw = promisify<Uint8Array, zlib.ZlibOptions, Buffer>(zlib.deflateRaw);

/** Rows that are packed at a time: enough that cutting costs nothing, few enough that all cores have work. */
const STRIP_ROWS = 256;
/** Rows of a strip by which it is tried how it packs best. */
const TRIED_ROWS = 4;
/** Strips between filter and file at any time; more would only fill memory. */
const IN_FLIGHT = 6;

/** Runs only: the smallest and fastest on filtered artwork and photographs alike, and blind to textures that repeat. */
const RUNS: zlib.ZlibOptions = { level: 1, strategy: zlib.constants.Z_RLE };
const SEARCH: zlib.ZlibOptions = { level: 4, strategy: zlib.constants.Z_FILTERED };

async function packStrip(filter: PngFilter, bytes: Uint8Array, rowBytes: number, last: boolean): Promise<Uint8Array> {
  const rows = bytes.length / rowBytes;
  const from = Math.max(0, Math.floor((rows - TRIED_ROWS) / 2)) * rowBytes;
  const tried = bytes.subarray(from, from + TRIED_ROWS * rowBytes);
  const runs = filter.pack(tried, false) ?? (await deflateRaw(tried, RUNS));
  // By size alone, so that the same picture gives the same bytes on a busy machine too. What packs to almost nothing need not be tried again.
  const search = runs.length * 50 < tried.length ? runs : await deflateRaw(tried, SEARCH);
  const searched = search.length < runs.length * 0.8;
  return (
    (searched ? null : filter.pack(bytes, last)) ??
    deflateRaw(bytes, {
      ...(searched ? SEARCH : RUNS),
      // In Node's own small pieces it would come back here hundreds of times.
      chunkSize: 128 * 1024,
      // A strip ends at a byte, so that strips that were packed side by side can be put one after the other.
      finishFlush: last ? zlib.constants.Z_FINISH : zlib.constants.Z_SYNC_FLUSH,
    })
  );
}

/** Rows of a picture, drawn when they are asked for. */
export interface Rows {
  readonly widthPx: number;
  readonly heightPx: number;
  /** Rows `fromY` ≤ y < `toY`, premultiplied RGBA; good until the next call. */
  strip(fromY: number, toY: number): Raster;
}

/** A raster as rows to pack. */
export const rowsOf = (raster: Raster): Rows => ({
  widthPx: raster.widthPx,
  heightPx: raster.heightPx,
  strip: (fromY, toY) => stripOf(raster, fromY, toY),
});

const wordsOf = ({ data }: Raster) => new Uint32Array(data.buffer, data.byteOffset, data.byteLength >> 2);

/**
 * The pixels of a picture as one zlib stream of PNG rows (RFC 1950 around RFC 1951), in parts. Drawing and filtering go on here while
 * strips are packed on the thread pool.
 */
export async function packRows({ widthPx, heightPx, strip }: Rows, color: PngColor): Promise<Uint8Array[]> {
  const filter = new PngFilter();
  const bytesPerPixel = color === 'rgba' ? 4 : color === 'rgb' ? 3 : 1;
  const rowBytes = widthPx * bytesPerPixel + 1;
  const strips: Promise<Uint8Array>[] = [];
  let adler = 1;
  let before: Uint32Array | null = null;
  for (let y = 0; y < heightPx; y += STRIP_ROWS) {
    const rows = Math.min(STRIP_ROWS, heightPx - y);
    const pixels = wordsOf(strip(y, y + rows));
    const done = filter.rows({ pixels, widthPx, rows, bytesPerPixel, before, adler });
    before = pixels.slice(-widthPx);
    adler = done.adler;
    strips.push(packStrip(filter, done.bytes, rowBytes, y + rows === heightPx));
    if (strips.length >= IN_FLIGHT) await strips[strips.length - IN_FLIGHT];
  }
  const end = new Uint8Array(4);
  new DataView(end.buffer).setUint32(0, adler);
  return [Uint8Array.of(0x78, 0x01), ...(await Promise.all(strips)), end];
}

export const isOpaque = (raster: Raster): boolean => new PngFilter().isOpaque(wordsOf(raster));

/**
 * PNG (third edition) of a picture, straight alpha or none, with its density and the mark that its colors are sRGB. The same picture gives
 * the same bytes.
 */
export async function encodePng(rows: Rows, dpi: number, color: PngColor): Promise<Buffer> {
  const parts = await packRows(rows, color);
  const crc = (bytes: Uint8Array, before: number) => zlib.crc32(bytes, before);
  return Buffer.concat([
    SIGNATURE,
    ...chunk('IHDR', header(rows.widthPx, rows.heightPx, color), crc),
    ...chunk('sRGB', SRGB, crc),
    ...chunk('pHYs', density(dpi), crc),
    ...parts.flatMap((part) => chunk('IDAT', part, crc)),
    ...chunk('IEND', new Uint8Array(0), crc),
  ]);
}
