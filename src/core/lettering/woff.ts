import { unzlibSync } from 'fflate';
import { invalid } from '../errors';

const HEADER = 44;
const ENTRY = 20;

/**
 * Unpacks a WOFF 1.0 file (W3C Recommendation, 2012) into the sfnt that it was made from. Bytes that are an sfnt already are given back.
 * Throws `font-unreadable`.
 */
export function unpackWoff(bytes: Uint8Array): Uint8Array {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const bad = (what: string) => invalid('font-unreadable', `A font cannot be read: ${what}.`);
  if (bytes.length < 12) throw bad('it is too short');
  const signature = view.getUint32(0);
  if (signature === 0x00010000 || signature === 0x4f54544f) return bytes;
  if (signature !== 0x774f4646 || bytes.length < HEADER) throw bad('it is neither WOFF nor OpenType');
  const count = view.getUint16(12);
  const total = view.getUint32(16);
  if (count === 0 || bytes.length < HEADER + count * ENTRY || total > 64 * 1024 * 1024)
    throw bad('its header is wrong');
  const out = new Uint8Array(total);
  const sfnt = new DataView(out.buffer);
  sfnt.setUint32(0, view.getUint32(4));
  sfnt.setUint16(4, count);
  const power = 2 ** Math.floor(Math.log2(count));
  sfnt.setUint16(6, power * 16);
  sfnt.setUint16(8, Math.log2(power));
  sfnt.setUint16(10, count * 16 - power * 16);
  let offset = 12 + count * 16;
  for (let i = 0; i < count; i += 1) {
    const at = HEADER + i * ENTRY;
    const [from, packed, length] = [view.getUint32(at + 4), view.getUint32(at + 8), view.getUint32(at + 12)];
    if (from + packed > bytes.length || offset + length > total) throw bad('a table lies outside of it');
    const raw = bytes.subarray(from, from + packed);
    const table = packed < length ? unzlibSync(raw, { out: new Uint8Array(length) }) : raw;
    if (table.length !== length) throw bad('a table has the wrong length');
    out.set(table, offset);
    const entry = 12 + i * 16;
    sfnt.setUint32(entry, view.getUint32(at));
    sfnt.setUint32(entry + 4, view.getUint32(at + 16));
    sfnt.setUint32(entry + 8, offset);
    sfnt.setUint32(entry + 12, length);
    offset += (length + 3) & ~3;
  }
  return out;
}
