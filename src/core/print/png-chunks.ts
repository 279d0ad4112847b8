import { TypicaError } from '../errors';
import { dpiToPixelsPerMeter } from '../units/length';

/** Bytes of PNG (W3C, third edition), without packing: chunks, header, density. */

export type PngColor = 'rgba' | 'rgb' | 'gray';

export const SIGNATURE = Uint8Array.of(0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a);

/** The data of an sRGB chunk: perceptual intent (§11.3.2.5). */
export const SRGB = Uint8Array.of(0);

const COLOR_TYPE: Record<PngColor, number> = { gray: 0, rgb: 2, rgba: 6 };

/** The data of an IHDR chunk (§11.2.1): 8 bits a channel, not interlaced. */
export function header(widthPx: number, heightPx: number, color: PngColor): Uint8Array {
  const data = new Uint8Array(13);
  const view = new DataView(data.buffer);
  view.setUint32(0, widthPx);
  view.setUint32(4, heightPx);
  data.set([8, COLOR_TYPE[color], 0, 0, 0], 8);
  return data;
}

/** The data of a pHYs chunk (§11.3.4.3): whole pixels per meter. 300 DPI is 11811. */
export function density(dpi: number): Uint8Array {
  const data = new Uint8Array(9);
  const view = new DataView(data.buffer);
  const perMeter = dpiToPixelsPerMeter(dpi);
  view.setUint32(0, perMeter);
  view.setUint32(4, perMeter);
  data[8] = 1;
  return data;
}

/** CRC-32 going on from `before`, as PNG takes it (§5.5): from outside, since platforms have it faster than we. */
export type Crc = (bytes: Uint8Array, before: number) => number;

/** A chunk in parts: length and type, data, CRC of type and data. */
export function chunk(type: string, data: Uint8Array, crc: Crc): Uint8Array[] {
  const head = new Uint8Array(8);
  new DataView(head.buffer).setUint32(0, data.length);
  head.set(
    [...type].map((letter) => letter.charCodeAt(0)),
    4,
  );
  const tail = new Uint8Array(4);
  new DataView(tail.buffer).setUint32(0, crc(data, crc(head.subarray(4), 0)) >>> 0);
  return [head, data, tail];
}

/** What a PNG holds, without unpacking its pixels. */
export interface PngParts {
  readonly widthPx: number;
  readonly heightPx: number;
  readonly color: PngColor;
  /** Parts of one zlib stream. */
  readonly packed: readonly Uint8Array[];
}

/** Reads a PNG of ours. Throws `png-unreadable` where it is not one: other color types, interlaced, cut off. */
export function readPng(bytes: Uint8Array): PngParts {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const unreadable = () => new TypicaError('invalid', 'png-unreadable', 'This is not a PNG as we write them.');
  if (bytes.length < 33 || SIGNATURE.some((byte, i) => bytes[i] !== byte)) throw unreadable();
  const color = (Object.keys(COLOR_TYPE) as PngColor[]).find((name) => COLOR_TYPE[name] === bytes[25]);
  if (!color || bytes[24] !== 8 || bytes[28] !== 0) throw unreadable();
  const packed: Uint8Array[] = [];
  for (let at = 8; at + 12 <= bytes.length;) {
    const length = view.getUint32(at);
    const type = String.fromCharCode(...bytes.subarray(at + 4, at + 8));
    if (type === 'IEND') return { widthPx: view.getUint32(16), heightPx: view.getUint32(20), color, packed };
    if (type === 'IDAT') packed.push(bytes.subarray(at + 8, at + 8 + length));
    at += length + 12;
  }
  throw unreadable();
}
