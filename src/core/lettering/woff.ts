import { unzlibSync } from 'fflate';
import { invalid } from '../errors';

const HEADER = 44;
const ENTRY = 20;
/** No font of ours is larger unpacked. */
const MAX_BYTES = 64 * 1024 * 1024;

interface Table {
  readonly tag: number;
  readonly from: number;
  readonly packed: number;
  readonly length: number;
  readonly checksum: number;
}

/**
 * Unpacks a WOFF 1.0 file (W3C Recommendation, 2012) into the sfnt that it was made from; with `only`, into one of these tables alone, as
 * `cmap`. Bytes that are an sfnt already are given back. Throws `font-unreadable`.
 */
export function unpackWoff(bytes: Uint8Array, only?: readonly string[]): Uint8Array {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length < 12) throw bad('it is too short');
  const signature = view.getUint32(0);
  if (signature === 0x00010000 || signature === 0x4f54544f) return bytes;
  if (signature !== 0x774f4646 || bytes.length < HEADER) throw bad('it is neither WOFF nor OpenType');
  const tags = only?.map((tag) => new DataView(new TextEncoder().encode(tag).buffer).getUint32(0));
  const tables = tablesOf(view).filter(({ tag }) => !tags || tags.includes(tag));
  const start = 12 + tables.length * 16;
  const out = new Uint8Array(tables.reduce((sum, { length }) => sum + padded(length), start));
  const sfnt = new DataView(out.buffer);
  writeHead(sfnt, view.getUint32(4), tables.length);
  let offset = start;
  for (const [i, { tag, from, packed, length, checksum }] of tables.entries()) {
    const raw = bytes.subarray(from, from + packed);
    const table = packed < length ? unzlibSync(raw, { out: new Uint8Array(length) }) : raw;
    if (table.length !== length) throw bad('a table has the wrong length');
    out.set(table, offset);
    for (const [k, value] of [tag, checksum, offset, length].entries()) sfnt.setUint32(12 + 16 * i + 4 * k, value);
    offset += padded(length);
  }
  return out;
}

const bad = (what: string) => invalid('font-unreadable', `A font cannot be read: ${what}.`);
const padded = (length: number): number => (length + 3) & ~3;

/** The directory of a WOFF file, with all that it says checked against the file. */
function tablesOf(view: DataView): Table[] {
  const count = view.getUint16(12);
  const total = view.getUint32(16);
  if (count === 0 || view.byteLength < HEADER + count * ENTRY || total > MAX_BYTES) throw bad('its header is wrong');
  let offset = 12 + count * 16;
  return Array.from({ length: count }, (_, i) => {
    const [tag, from, packed, length, checksum] = [0, 1, 2, 3, 4].map((k) =>
      view.getUint32(HEADER + i * ENTRY + 4 * k),
    ) as [number, number, number, number, number];
    if (from + packed > view.byteLength || offset + length > total) throw bad('a table lies outside of it');
    offset += padded(length);
    return { tag, from, packed, length, checksum };
  });
}

/** Kind of the font, how many tables it has, and what makes them quick to search (OpenType 1.9, table directory). */
function writeHead(sfnt: DataView, flavor: number, count: number): void {
  const power = count === 0 ? 1 : 2 ** Math.floor(Math.log2(count));
  sfnt.setUint32(0, flavor);
  sfnt.setUint16(4, count);
  sfnt.setUint16(6, power * 16);
  sfnt.setUint16(8, Math.log2(power));
  sfnt.setUint16(10, count * 16 - power * 16);
}
