import zlib from 'node:zlib';
import { converter, differenceCiede2000 } from 'culori';
import { describe, expect, it } from 'vitest';
import { rgbProfile, SRGB_PRIMARIES, srgbCurve, type Primaries } from '@/core/print/icc';
import { chunk, SIGNATURE } from '@/core/print/png-chunks';
import { CMYK_IN_LITTLE_CMS, CMYK_JPEG, LITTLE_CMS } from './littlecms-sample';
import { declaresColors, openRaster } from './open-raster';

const WIDE: Primaries = {
  white: [0.3457, 0.3585],
  red: [0.7347, 0.2653],
  green: [0.1596, 0.8404],
  blue: [0.0366, 0.0001],
};
const FILM: Primaries = { ...SRGB_PRIMARIES, green: [0.21, 0.71] };
const PROFILES = {
  srgb: rgbProfile('srgb', SRGB_PRIMARIES, srgbCurve),
  wide: rgbProfile('wide', WIDE, (value) => value ** 1.8),
  film: rgbProfile('film', FILM, (value) => value ** 2.2),
};
const STEPS = 4;
const COUNT = STEPS ** 3;
type Extra = readonly [type: string, data: Uint8Array];

/** One row of RGB with whatever chunks are said. */
function png(bits: 8 | 16, values: readonly number[], extra: readonly Extra[]): Buffer {
  const bytes = bits / 8;
  const row = Buffer.alloc(1 + values.length * bytes);
  values.forEach((value, i) => row.writeUIntBE(Math.round(value * (2 ** bits - 1)), 1 + i * bytes, bytes));
  const head = Buffer.alloc(13);
  head.writeUInt32BE(values.length / 3, 0);
  head.writeUInt32BE(1, 4);
  head.set([bits, 2, 0, 0, 0], 8);
  const parts: Extra[] = [['IHDR', head], ...extra, ['IDAT', zlib.deflateSync(row)], ['IEND', new Uint8Array(0)]];
  return Buffer.concat([SIGNATURE, ...parts.flatMap(([type, data]) => chunk(type, data, zlib.crc32))]);
}

const iccp = (profile: Uint8Array): Extra => [
  'iCCP',
  Buffer.concat([Buffer.from('p\0\0', 'latin1'), zlib.deflateSync(profile)]),
];
const numbers = (type: string, ...values: number[]): Extra => {
  const data = Buffer.alloc(4 * values.length);
  values.forEach((value, i) => data.writeUInt32BE(Math.round(value * 100_000), 4 * i));
  return [type, data];
};
const grid = Array.from({ length: COUNT }, (_, i) => [Math.floor(i / 16), Math.floor(i / 4) % 4, i % 4]).flatMap(
  (place) => place.map((value) => value / (STEPS - 1)),
);
const pixels = async (bytes: Buffer) =>
  openRaster(bytes, { limitInputPixels: 1e6 }).raw().toBuffer({ resolveWithObject: true });

const lab = converter('lab65');
const difference = differenceCiede2000();
const labOf = (r: number, g: number, b: number) => lab({ mode: 'rgb', r, g, b });
/** 16 bits a channel in hexadecimal, as RGB from 0 to 1. */
const readHex = (text: string): number[] =>
  text
    .replace(/\s/g, '')
    .match(/.{4}/g)!
    .map((hex) => Number.parseInt(hex, 16) / 65_535);
const differences = (got: Buffer, wanted: readonly number[], at: (i: number) => number) =>
  Array.from({ length: wanted.length / 3 }, (_, i) => {
    const [r, g, b] = got.subarray(3 * at(i), 3 * at(i) + 3);
    return difference(
      labOf(r! / 255, g! / 255, b! / 255),
      labOf(wanted[3 * i]!, wanted[3 * i + 1]!, wanted[3 * i + 2]!),
    );
  });

describe('pictures with a profile', () => {
  it.each(['srgb', 'wide', 'film'] as const)(
    'in %s are the colors that littleCMS says, at 8 and 16 bits',
    async (name) => {
      for (const bits of [8, 16] as const) {
        const { data, info } = await pixels(png(bits, grid, [iccp(PROFILES[name])]));
        expect([info.channels, info.width]).toEqual([3, COUNT]);
        const all = differences(data, readHex(LITTLE_CMS[name]), (i) => i);
        expect(Math.max(...all), `${bits} bits`).toBeLessThanOrEqual(0.7);
      }
    },
  );

  it('in CMYK are read by their own profile: black within 2, all within 1.5', async () => {
    const { data } = await pixels(Buffer.from(CMYK_JPEG, 'base64'));
    const wanted = readHex(CMYK_IN_LITTLE_CMS);
    const all = differences(data, wanted, (i) => (Math.floor(i / 9) * 8 + 4) * 72 + (i % 9) * 8 + 4);
    // No ink but black.
    expect(all[2]).toBeLessThan(2);
    expect(Math.max(...all)).toBeLessThan(1.5);
  });

  it('are pure where they are: a 16-bit red stays red', async () => {
    const { data } = await pixels(png(16, [1, 0, 0, 0, 1, 0], [iccp(PROFILES.srgb)]));
    expect([...data]).toEqual([255, 0, 0, 0, 255, 0]);
  });
});

describe('pictures that name a gamma', () => {
  // Value 0.5 under gamma 1 is light 0.5; sRGB writes that as 188 (IEC 61966-2-1: 1.055 × 0.5^(1 ÷ 2.4) − 0.055).
  it('are read by it', async () => {
    const linear = png(16, [0.5, 0.5, 0.5, 0, 0, 0, 1, 1, 1], [numbers('gAMA', 1)]);
    const { data } = await pixels(linear);
    expect([...data]).toEqual([188, 188, 188, 0, 0, 0, 255, 255, 255]);
    expect(declaresColors(linear)).toBe(true);
  });

  it('and primaries, by these too', async () => {
    const place = ({ white, red, green, blue }: Primaries) => [...white, ...red, ...green, ...blue];
    const bytes = png(16, grid, [numbers('gAMA', 1 / 2.2), numbers('cHRM', ...place(FILM))]);
    const all = differences((await pixels(bytes)).data, readHex(LITTLE_CMS.film), (i) => i);
    expect(Math.max(...all)).toBeLessThanOrEqual(0.7);
  });

  it('of sRGB, or beside a chunk that says more, or that mean nothing, are as they are', async () => {
    const place = [0.3127, 0.329, 0.64, 0.33, 0.3, 0.6, 0.15, 0.06];
    for (const extra of [
      [numbers('gAMA', 0.45455), numbers('cHRM', ...place)],
      [['sRGB', Uint8Array.of(0)], numbers('gAMA', 1)],
      [iccp(PROFILES.srgb), numbers('gAMA', 1)],
      [numbers('gAMA', 0)],
      [numbers('gAMA', 0.45455), numbers('cHRM', 0, 0, 0, 0, 0, 0, 0, 0)],
    ] as Extra[][]) {
      const bytes = png(8, [0.2, 0.4, 0.6], extra);
      expect(declaresColors(bytes)).toBe(false);
      expect([...(await pixels(bytes)).data]).toEqual([51, 102, 153]);
    }
  });
});
