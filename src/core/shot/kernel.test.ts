import fc from 'fast-check';
import { describe, expect, it, vi } from 'vitest';
import { differenceCiede2000, formatHex } from 'culori';
import { linearOf8 } from '../artwork/color';
import { newRaster, type Raster } from '../print/pixels';
import { drawAffine } from '../print/raster';
import { darkCurve, fabricLinear, nearBlack } from './fabric';
import { finishOf, type Finish } from './finish';
import { ShotKernel, type KernelOptions } from './kernel';
import { packPlanes, unpackPlanes } from './pack';
import { planesOf } from './planes';
import { reduceShot } from './reduce';
import { flatShot } from './sample';
import { checkShotDocument, type Shot } from './shot';

const PAPER = finishOf('giclee', 'paper');
const kernelOf = (shot: Shot, options: KernelOptions = {}) => new ShotKernel(planesOf(shot), options);
const plainColor = (hex: string) => ({ hex, heather: false });
const pixel = (picture: Uint8Array, x: number, y: number, width = 64) => [
  ...picture.slice((y * width + x) * 3, (y * width + x) * 3 + 3),
];

function sheet(color: readonly [number, number, number], alpha = 255): Raster {
  const raster = newRaster(128, 128);
  for (let i = 0; i < raster.data.length; i += 4) raster.data.set([...color.map((c) => (c * alpha) / 255), alpha], i);
  return raster;
}

const dot = (xPx: number, yPx: number, size: number) => {
  const source = newRaster(size, size);
  source.data.fill(255);
  const art = newRaster(128, 128);
  drawAffine(art, source, { a: 1, b: 0, c: 0, d: 1, e: xPx, f: yPx });
  return art;
};
const print = (kernel: ShotKernel, raster: Raster, finish: Finish = PAPER) =>
  kernel.print('main.front', { raster, leftMm: 0, topMm: 0, pxPerMm: 4 }, finish);

// Some of these draw many pictures: on a machine that others keep busy they take their time.
vi.setConfig({ testTimeout: 60_000 });

describe('kernel', () => {
  it('does in WebAssembly what the reference does, bit for bit', () => {
    const bytes = (n: number) => fc.uint8Array({ minLength: n, maxLength: n });
    fc.assert(
      fc.property(
        bytes(64),
        fc.nat(65535),
        fc.boolean(),
        fc.boolean(),
        fc.constantFrom(3 as const, 4 as const),
        (noise, hexSeed, near, specular, step) => {
          const n = 64 * 64;
          const some = (k: number) => noise[(k * 7) % 64]!;
          const shot = flatShot({
            rest: { values: new Uint16Array(n * 3).map((_, i) => (i % 5 === 0 ? some(i) * 90 : 0)), scale: 1.4 },
            shade: { values: new Uint16Array(n).map((_, i) => 20000 + some(i) * 150), scale: 1.5 },
            direct: { values: new Uint16Array(n).map((_, i) => some(i + 3) * 90), scale: 1.2 },
            specular: specular ? { values: new Uint16Array(n).map((_, i) => some(i + 5) * 40), scale: 0.5 } : null,
            fabric: specular || near ? new Uint8Array(n).map((_, i) => (i % 3 === 0 ? some(i) : 255)) : null,
            front: new Uint8Array(n).map((_, i) => (i % 11 === 0 ? some(i) : 0)),
          });
          const art = newRaster(128, 128);
          for (let i = 0; i < art.data.length; i += 4) {
            const alpha = some(i);
            art.data.set(
              [some(i + 1), some(i + 2), some(i + 3)].map((c) => (c * alpha) / 255),
              i,
            );
            art.data[i + 3] = alpha;
          }
          const finish = near ? finishOf('uv', 'cotton') : finishOf('direct-to-garment', 'cotton');
          const dye = finishOf('sublimation', 'linen');
          const fabric = {
            hex: near ? '#1f2226' : `#${(hexSeed + 0x100000).toString(16).slice(0, 6)}`,
            heather: !near,
          };
          const [fast, plain] = [kernelOf(shot, { step }), kernelOf(shot, { step, plain: true })];
          for (const one of [finish, dye]) {
            print(fast, art, one);
            print(plain, art, one);
            // Under light of its own, which is general, and under the shot's, which is settled once.
            for (const on of [fabric, plainColor('#4f7fa8')])
              expect(Buffer.compare(fast.picture(on), plain.picture(on))).toBe(0);
          }
        },
      ),
      { numRuns: 12, seed: 6 },
    );
  });

  it('keeps the fabric’s color where the light is 1 and no ink lies (below the shoulder)', () => {
    expect(pixel(kernelOf(flatShot()).picture(plainColor('#2d4a53')), 3, 3)).toEqual([45, 74, 83]);
  });

  it('shades in linear light: half the light on white is sRGB 188', () => {
    // IEC 61966-2-1: linear 0.5 encodes to 187.5
    expect(pixel(kernelOf(flatShot({}, 32768)).picture(plainColor('#ffffff')), 3, 3)[0]).toBe(188);
    const half = kernelOf(flatShot({}, 32768));
    print(half, sheet([255, 255, 255]));
    expect(pixel(half.picture(plainColor('#000000')), 30, 30)[0]).toBe(188);
  });

  it('multiplies all light by the exposure', () => {
    const picture = kernelOf(flatShot({ exposure: 0.5 })).picture(plainColor('#ffffff'));
    expect(pixel(picture, 3, 3)[0]).toBe(188);
  });

  it('puts a mark where the map says, within half a pixel', () => {
    const kernel = kernelOf(flatShot());
    // A 4 px mark at 4 px a mm with its center at 10.5, 20.5 mm: picture pixel (26, 36), centered.
    print(kernel, dot(40, 80, 4));
    const picture = kernel.picture(plainColor('#000000'));
    let [sum, sx, sy] = [0, 0, 0];
    for (let y = 0; y < 64; y += 1)
      for (let x = 0; x < 64; x += 1) {
        const light = linearOf8[pixel(picture, x, y)[0]!]!;
        sum += light;
        sx += light * (x + 0.5);
        sy += light * (y + 0.5);
      }
    // Near-black fabric has a little light of its own, evenly all around.
    const even = linearOf8[pixel(picture, 2, 2)[0]!]! * 64 * 64;
    expect((sx - even * 32) / (sum - even)).toBeCloseTo(26.5, 1);
    expect((sy - even * 32) / (sum - even)).toBeCloseTo(36.5, 1);
  });

  it('prints nothing outside the area, and takes a print away', () => {
    const kernel = kernelOf(flatShot());
    print(kernel, sheet([255, 0, 0]));
    const printed = kernel.picture(plainColor('#2d4a53')).slice();
    const red = Array.from({ length: 64 * 64 }, (_, i) => printed[i * 3]!).filter((r) => r > 200).length;
    expect(red).toBe(32 * 32);
    kernel.print('main.front', null, PAPER);
    expect(pixel(kernel.picture(plainColor('#2d4a53')), 30, 30)).toEqual([45, 74, 83]);
  });

  it('keeps covered what stands in front', () => {
    const n = 64 * 64;
    const front = new Uint8Array(n).map((_, i) => (i % 64 === 30 ? 255 : 0));
    const rest = new Uint16Array(n * 3).map((_, i) => (front[Math.floor(i / 3)] ? 32768 : 0));
    const kernel = kernelOf(flatShot({ front, rest: { values: rest, scale: 1 } }));
    print(kernel, sheet([255, 0, 0]));
    const picture = kernel.picture(plainColor('#2d4a53'));
    expect(pixel(picture, 30, 30)).toEqual([188, 188, 188]);
    expect(pixel(picture, 31, 30)[0]).toBeGreaterThan(200);
  });

  it('lets a dye color what is under it, and ink cover it', () => {
    const [dye, ink] = [kernelOf(flatShot()), kernelOf(flatShot())];
    print(dye, sheet([255, 255, 0]), finishOf('sublimation', 'ceramic'));
    print(ink, sheet([255, 255, 0]));
    const blue = plainColor('#0000ff');
    // Yellow dye takes all of the blue; yellow ink is yellow.
    expect(pixel(dye.picture(blue), 30, 30)).toEqual([0, 0, 0]);
    expect(pixel(ink.picture(blue), 30, 30).slice(0, 2)).toEqual(
      pixel(ink.picture(plainColor('#ffffff')), 30, 30).slice(0, 2),
    );
  });

  it('prints over a good that keeps its own color', () => {
    const n = 64 * 64;
    const rest = { values: new Uint16Array(n * 3).fill(32768), scale: 1 };
    const kernel = kernelOf(flatShot({ fabric: null, rest }));
    print(kernel, sheet([255, 0, 0], 128));
    const picture = kernel.picture(plainColor('#00ff00'));
    expect(pixel(picture, 3, 3)).toEqual([188, 188, 188]);
    const [r, g] = pixel(picture, 30, 30) as [number, number, number];
    // Half of the good's own 0.5 is left, half is ink under full light.
    expect(linearOf8[g]!).toBeCloseTo(0.25, 2);
    expect(r).toBeGreaterThan(g);
  });

  it('shows fine lines by their mean, not by chance: a grid of 1 px seen at a quarter does not shimmer', () => {
    const art = newRaster(128, 128);
    for (let i = 0; i < art.data.length; i += 4) if ((i >> 2) % 2 === 0) art.data.fill(255, i, i + 4);
    const kernel = kernelOf(flatShot());
    print(kernel, art);
    const picture = kernel.picture(plainColor('#000000'));
    const inside = Array.from({ length: 26 }, (_, k) => pixel(picture, 19 + k, 30)[0]!);
    expect(Math.max(...inside) - Math.min(...inside)).toBeLessThanOrEqual(2);
    // Half of white in linear light is 188.
    expect(Math.abs(inside[3]! - 188)).toBeLessThanOrEqual(2);
  });

  it('puts all but the good on pure white', () => {
    const good = new Uint8Array(64 * 64).map((_, i) => (i % 64 < 32 ? 255 : 0));
    const picture = kernelOf(flatShot({ good })).picture(plainColor('#2d4a53'), true);
    expect(pixel(picture, 3, 3)).toEqual([45, 74, 83]);
    expect(pixel(picture, 60, 3)).toEqual([255, 255, 255]);
  });

  it('reduces without moving the map, and survives the way to the browser', () => {
    const planes = planesOf(reduceShot(flatShot(), 2));
    const back = unpackPlanes(packPlanes(planes, 0.8));
    expect(back).toEqual(planes);
    const kernel = new ShotKernel(back);
    print(kernel, dot(40, 80, 4));
    const picture = kernel.picture(plainColor('#2d4a53'));
    const bright = Array.from({ length: 32 * 32 }, (_, i) => picture[i * 3]!);
    const best = bright.indexOf(Math.max(...bright));
    expect([best % 32, Math.floor(best / 32)]).toEqual([13, 18]);
    expect(() => unpackPlanes(new Uint8Array([1, 2, 3]))).toThrow(/did not arrive whole/);
  });
});

describe('fabric', () => {
  const difference = differenceCiede2000();

  it('has a stated curve for near-black colors alone: its median stays, contrast around it rises', () => {
    expect([nearBlack('#2d4a53'), nearBlack('#56663f'), nearBlack('#ffffff')]).toEqual([0, 0, 0]);
    expect(darkCurve('#2d4a53', 16384)).toBeNull();
    const { table } = darkCurve('#000000', 16384)!;
    expect(table[4096]).toBe(16384);
    // Exponent 1.44 (fabric.ts): half the light is 2^-1.44 of it.
    expect(table[2048]! / 16384).toBeCloseTo(0.5 ** 1.44, 3);
    expect(fabricLinear('#000000')[0] / 65535).toBeCloseTo(0.008, 3);
  });

  it('keeps heather’s color on average, with fibers to be seen', () => {
    const kernel = kernelOf(flatShot({ pattern: { ...flatShot().pattern!, uMm: [0, 16], vMm: [0, 16] } }));
    const picture = kernel.picture({ hex: '#b5b9bd', heather: true });
    const mean = [0, 1, 2].map(
      (c) =>
        Array.from({ length: 64 * 64 }, (_, i) => linearOf8[picture[i * 3 + c]!]!).reduce((a, b) => a + b, 0) / 4096,
    );
    const hex = formatHex({ mode: 'lrgb', r: mean[0]!, g: mean[1]!, b: mean[2]! })!;
    expect(difference(hex, '#b5b9bd')).toBeLessThan(4);
    const reds = Array.from({ length: 4096 }, (_, i) => picture[i * 3]!);
    expect(Math.max(...reds) - Math.min(...reds)).toBeGreaterThan(25);
  });
});

describe('shot documents', () => {
  it('are refused with a sentence when damaged or newer', () => {
    const doc = { format: 'typica-shot', version: 2, widthPx: 100, heightPx: 100, tone: { straightTo: 0.8 } };
    const rest = { file: 'rest.png', encoding: 'linear16', scale: 1 };
    expect(() => checkShotDocument({})).toThrow(/not a shot document/);
    expect(() => checkShotDocument({ format: 'typica-shot', version: 99 })).toThrow(/update Typica/);
    expect(() => checkShotDocument({ ...doc, passes: {} })).toThrow(/pass “rest” is missing/);
    expect(() => checkShotDocument({ ...doc, passes: { rest, shade: { ...rest, scale: 0 } } })).toThrow(
      /“shade” has no scale/,
    );
    const area = (map: object) => () =>
      checkShotDocument({ ...doc, passes: { rest }, areas: { 'main.x': { variant: {}, map } } });
    expect(area({ kind: 'spiral' })).toThrow(/no map that is known/);
    expect(area({ kind: 'traced', file: 'm.png', uMm: [3, 3], vMm: [0, 1] })).toThrow(/no extent/);
    expect(area({ kind: 'homography', cornersPx: [], widthMm: 1, heightMm: 1 })).toThrow(/lacks a corner/);
    expect(area({ kind: 'mesh', columns: 3, rows: 3, pointsPx: [], widthMm: 1, heightMm: 1 })).toThrow(/lacks points/);
  });
});
