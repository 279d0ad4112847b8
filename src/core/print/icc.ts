/** Color profiles of RGB spaces: ICC.1:2001-04 (version 2.4), matrix and tone curves, as every program reads them. */

type Xy = readonly [x: number, y: number];
type Vector = readonly [number, number, number];
type Matrix3 = readonly [Vector, Vector, Vector];

/** Chromaticities of an RGB space (CIE 1931). */
export interface Primaries {
  readonly white: Xy;
  readonly red: Xy;
  readonly green: Xy;
  readonly blue: Xy;
}

/** IEC 61966-2-1. */
export const SRGB_PRIMARIES: Primaries = {
  white: [0.3127, 0.329],
  red: [0.64, 0.33],
  green: [0.3, 0.6],
  blue: [0.15, 0.06],
};

/** The white of profiles: D50 (ICC.1, annex A). */
const D50: Vector = [0.9642, 1, 0.8249];
/** Cones of the Bradford adaptation (ICC.1:2001-04, annex E). */
const BRADFORD: Matrix3 = [
  [0.8951, 0.2664, -0.1614],
  [-0.7502, 1.7135, 0.0367],
  [0.0389, -0.0685, 1.0296],
];

const toXyz = ([x, y]: Xy): Vector => [x / y, 1, (1 - x - y) / y];
const dot = (a: Vector, b: Vector): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
const times = (m: Matrix3, v: Vector): Vector => [dot(m[0], v), dot(m[1], v), dot(m[2], v)];
const cross = (a: Vector, b: Vector): Vector => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];
const columns = (a: Vector, b: Vector, c: Vector): Matrix3 => [
  [a[0], b[0], c[0]],
  [a[1], b[1], c[1]],
  [a[2], b[2], c[2]],
];

function inverse([a, b, c]: Matrix3): Matrix3 {
  const [p, q, r] = [cross(b, c), cross(c, a), cross(a, b)];
  const size = dot(a, p);
  const share = (v: Vector): Vector => [v[0] / size, v[1] / size, v[2] / size];
  return columns(share(p), share(q), share(r));
}

/** The three colorants under D50, each as XYZ. */
function colorants({ white, red, green, blue }: Primaries): readonly [Vector, Vector, Vector] {
  const xyz = [toXyz(red), toXyz(green), toXyz(blue)] as const;
  const from = toXyz(white);
  const amounts = times(inverse(columns(...xyz)), from);
  const [own, wanted] = [times(BRADFORD, from), times(BRADFORD, D50)];
  const back = inverse(BRADFORD);
  const adapt = (v: Vector): Vector => {
    const cones = times(BRADFORD, v);
    return times(back, [
      (cones[0] * wanted[0]) / own[0],
      (cones[1] * wanted[1]) / own[1],
      (cones[2] * wanted[2]) / own[2],
    ]);
  };
  const scaled = (i: 0 | 1 | 2): Vector =>
    adapt([xyz[i][0] * amounts[i], xyz[i][1] * amounts[i], xyz[i][2] * amounts[i]]);
  return [scaled(0), scaled(1), scaled(2)];
}

/** The tone curve of IEC 61966-2-1: light of a value, both from 0 to 1. */
export const srgbCurve = (value: number): number =>
  value <= 0.04045 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4;

const CURVE_STEPS = 1024;

const letters = (text: string): number[] => [...text].map((letter) => letter.charCodeAt(0));

/** A tag's data: its type, and numbers as they stand in it. */
class TagData {
  private readonly bytes: number[];

  constructor(type: string) {
    this.bytes = [...letters(type), 0, 0, 0, 0];
  }

  u16(value: number): this {
    this.bytes.push((value >> 8) & 255, value & 255);
    return this;
  }

  u32(value: number): this {
    return this.u16(value >>> 16).u16(value & 0xffff);
  }

  /** s15Fixed16Number. */
  fixed(value: number): this {
    return this.u32(Math.round(value * 65_536) >>> 0);
  }

  raw(bytes: readonly number[]): this {
    this.bytes.push(...bytes);
    return this;
  }

  done(): Uint8Array {
    return Uint8Array.from([...this.bytes, ...new Array<number>((4 - (this.bytes.length % 4)) % 4).fill(0)]);
  }
}

const xyzTag = (v: Vector): Uint8Array => new TagData('XYZ ').fixed(v[0]).fixed(v[1]).fixed(v[2]).done();

function curveTag(curve: (value: number) => number): Uint8Array {
  const tag = new TagData('curv').u32(CURVE_STEPS);
  for (let i = 0; i < CURVE_STEPS; i += 1)
    tag.u16(Math.round(Math.min(1, Math.max(0, curve(i / (CURVE_STEPS - 1)))) * 65_535));
  return tag.done();
}

/** textDescriptionType: the name in ASCII, and empty in its two other forms. */
const descriptionTag = (name: string): Uint8Array =>
  new TagData('desc')
    .u32(name.length + 1)
    .raw([...letters(name), 0])
    .u32(0)
    .u32(0)
    .u16(0)
    .raw(new Array<number>(68).fill(0))
    .done();

/**
 * The profile of an RGB space: its primaries, and the light (0 to 1) of a value (0 to 1). `name` is ASCII. The same input gives the same bytes: its date is
 * fixed.
 */
export function rgbProfile(name: string, primaries: Primaries, curve: (value: number) => number): Uint8Array {
  const [red, green, blue] = colorants(primaries);
  const tone = curveTag(curve);
  const tags: readonly (readonly [name: string, data: Uint8Array])[] = [
    ['desc', descriptionTag(name)],
    ['cprt', new TagData('text').raw([...letters('Public domain'), 0]).done()],
    ['wtpt', xyzTag(D50)],
    ['rXYZ', xyzTag(red)],
    ['gXYZ', xyzTag(green)],
    ['bXYZ', xyzTag(blue)],
    ['rTRC', tone],
    ['gTRC', tone],
    ['bTRC', tone],
  ];
  const stored = [...new Set(tags.map(([, data]) => data))];
  const places = new Map<Uint8Array, number>();
  let size = 128 + 4 + 12 * tags.length;
  for (const data of stored) {
    places.set(data, size);
    size += data.length;
  }
  const profile = new Uint8Array(size);
  const view = new DataView(profile.buffer);
  const put = (at: number, text: string) => profile.set(letters(text), at);
  view.setUint32(0, size);
  view.setUint32(8, 0x02400000);
  put(12, 'mntrRGB XYZ ');
  // 1 January 2026: a fixed date, so that print files can be compared by their bytes.
  [2026, 1, 1, 0, 0, 0].forEach((value, i) => view.setUint16(24 + 2 * i, value));
  put(36, 'acsp');
  D50.forEach((value, i) => view.setUint32(68 + 4 * i, Math.round(value * 65_536)));
  view.setUint32(128, tags.length);
  tags.forEach(([tag, data], i) => {
    put(132 + 12 * i, tag);
    view.setUint32(136 + 12 * i, places.get(data)!);
    view.setUint32(140 + 12 * i, data.length);
  });
  for (const [data, at] of places) profile.set(data, at);
  return profile;
}

/** sRGB, as print files are in it. */
export const srgbProfile = (): Uint8Array => rgbProfile('sRGB IEC61966-2.1 (Typica)', SRGB_PRIMARIES, srgbCurve);
