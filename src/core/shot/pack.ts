import { invalid } from '../errors';
import type { AreaPlanes, PatternPlanes, Planes } from './planes';
import { toneTable } from './planes';

/** Marks the bytes of packed planes, and how they are packed. */
const MAGIC = 0x54595031;

type Plane = { readonly bytes: Uint8Array; readonly channels: number };

/** What is told beside the planes. */
interface Header {
  readonly widthPx: number;
  readonly heightPx: number;
  readonly straightTo: number;
  readonly box: Planes['box'];
  readonly median: number;
  readonly pattern: Pick<PatternPlanes, 'uMm' | 'vMm'> | null;
  readonly areas: { readonly [key: string]: Pick<AreaPlanes, 'box' | 'uMm' | 'vMm' | 'finestMm'> };
  /** Name, bytes, and channels × bytes a value, in order. */
  readonly planes: readonly (readonly [string, number, number])[];
}

const bytesOf = (values: Uint8Array | Uint16Array): Uint8Array =>
  new Uint8Array(values.buffer, values.byteOffset, values.byteLength);

/** Each byte less the one `step` before it: planes are smooth, so that most become 0 and pack well. */
function differences(bytes: Uint8Array, step: number): Uint8Array {
  const out = new Uint8Array(bytes.length);
  for (let i = 0; i < bytes.length; i += 1) out[i] = bytes[i]! - (i >= step ? bytes[i - step]! : 0);
  return out;
}

function sums(bytes: Uint8Array, step: number): void {
  for (let i = step; i < bytes.length; i += 1) bytes[i] = bytes[i]! + bytes[i - step]!;
}

/** Planes as bytes, for sending them to a browser; they are still to be deflated. */
export function packPlanes(planes: Planes, straightTo: number): Uint8Array {
  const all: (readonly [string, Plane])[] = [];
  const add = (name: string, values: Uint8Array | Uint16Array | null, channels = 1) => {
    if (values) all.push([name, { bytes: bytesOf(values), channels: channels * values.BYTES_PER_ELEMENT }]);
  };
  add('base', planes.base, 3);
  add('over', planes.over, 4);
  add('light', planes.light);
  add('direct', planes.direct);
  add('specular', planes.specular);
  add('cover', planes.cover);
  add('good', planes.good);
  for (const key of ['u', 'v', 'scale'] as const) add(`pattern/${key}`, planes.pattern?.[key] ?? null);
  for (const [area, own] of Object.entries(planes.areas))
    for (const key of ['share', 'u', 'v', 'scale', 'light'] as const) add(`${area}/${key}`, own[key]);
  const { widthPx, heightPx, box, median, pattern } = planes;
  const header: Header = {
    widthPx,
    heightPx,
    straightTo,
    box,
    median,
    pattern: pattern && { uMm: pattern.uMm, vMm: pattern.vMm },
    areas: Object.fromEntries(
      Object.entries(planes.areas).map(([key, { box: own, uMm, vMm, finestMm }]) => [
        key,
        { box: own, uMm, vMm, finestMm },
      ]),
    ),
    planes: all.map(([name, { bytes, channels }]) => [name, bytes.length, channels]),
  };
  const text = new TextEncoder().encode(JSON.stringify(header));
  const out = new Uint8Array(8 + text.length + all.reduce((sum, [, { bytes }]) => sum + bytes.length, 0));
  new DataView(out.buffer).setUint32(0, MAGIC);
  new DataView(out.buffer).setUint32(4, text.length);
  out.set(text, 8);
  let at = 8 + text.length;
  for (const [, { bytes, channels }] of all) {
    out.set(differences(bytes, channels), at);
    at += bytes.length;
  }
  return out;
}

/** Planes out of their bytes. Throws `shot-invalid` for other bytes. */
export function unpackPlanes(packed: Uint8Array): Planes {
  const view = new DataView(packed.buffer, packed.byteOffset, packed.byteLength);
  if (packed.byteLength < 8 || view.getUint32(0) !== MAGIC)
    throw invalid('shot-invalid', 'The picture of this blank did not arrive whole. Load the page again.');
  const length = view.getUint32(4);
  const header = JSON.parse(new TextDecoder().decode(packed.subarray(8, 8 + length))) as Header;
  let at = 8 + length;
  const bytes = new Map<string, Uint8Array>();
  for (const [name, size, channels] of header.planes) {
    const own = packed.slice(at, at + size);
    if (own.length < size)
      throw invalid('shot-invalid', 'The picture of this blank did not arrive whole. Load the page again.');
    sums(own, channels);
    bytes.set(name, own);
    at += size;
  }
  const u8 = (name: string) => bytes.get(name) ?? null;
  const u16 = (name: string) => {
    const own = bytes.get(name);
    return own ? new Uint16Array(own.buffer, 0, own.byteLength >> 1) : null;
  };
  const { widthPx, heightPx, box, median, pattern } = header;
  return {
    widthPx,
    heightPx,
    box,
    median,
    base: u8('base')!,
    over: u16('over')!,
    light: u16('light')!,
    direct: u16('direct'),
    specular: u16('specular'),
    cover: u8('cover'),
    pattern: pattern && { ...pattern, u: u16('pattern/u')!, v: u16('pattern/v')!, scale: u8('pattern/scale')! },
    areas: Object.fromEntries(
      Object.entries(header.areas).map(([key, area]) => [
        key,
        {
          ...area,
          share: u8(`${key}/share`)!,
          u: u16(`${key}/u`)!,
          v: u16(`${key}/v`)!,
          scale: u8(`${key}/scale`)!,
          light: u16(`${key}/light`),
        },
      ]),
    ),
    good: u8('good')!,
    tone: toneTable(header.straightTo),
  };
}
