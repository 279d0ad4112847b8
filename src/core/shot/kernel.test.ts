import { describe, expect, it } from 'vitest';
import { drawAffine, newRaster } from '../print/raster';
import { composePicture, newInk, warpInk } from './kernel';
import { reduceShot } from './reduce';
import { checkShotDocument, type Shot } from './shot';

/** A flat shot of 64×64: an area of 32×32 mm at 1 px a mm from (16,16), white light, black surroundings. */
function flatShot(shadeValue = 65535): Shot {
  const n = 64 * 64;
  const coverage = new Uint8Array(n);
  const [u, v] = [new Uint16Array(n), new Uint16Array(n)];
  for (let y = 0; y < 64; y += 1) {
    for (let x = 0; x < 64; x += 1) {
      const i = y * 64 + x;
      if (x >= 16 && x < 48 && y >= 16 && y < 48) coverage[i] = 255;
      u[i] = Math.round(((x + 0.5) / 64) * 65535);
      v[i] = Math.round(((y + 0.5) / 64) * 65535);
    }
  }
  return {
    widthPx: 64,
    heightPx: 64,
    straightTo: 0.8,
    rest: { values: new Uint16Array(n * 3), scale: 1 },
    shade: { values: new Uint16Array(n).fill(shadeValue), scale: 1 },
    specular: null,
    fabric: new Uint8Array(n).fill(255),
    areas: { 'main.front': { coverage, u, v, uMm: [-16, 48], vMm: [-16, 48] } },
  };
}

const dot = (xPx: number, yPx: number, size: number) => {
  const source = newRaster(size, size);
  source.data.fill(255);
  const art = newRaster(128, 128);
  drawAffine(art, source, { a: 1, b: 0, c: 0, d: 1, e: xPx, f: yPx });
  return art;
};

describe('kernel', () => {
  it('keeps the fabric’s color where the light is 1 and no ink lies (below the shoulder)', () => {
    const picture = composePicture(flatShot(), [45, 74, 83], null);
    expect([...picture.slice(0, 3)]).toEqual([45, 74, 83]);
  });

  it('puts a mark where the map says, within half a pixel', () => {
    const shot = flatShot();
    const ink = newInk(shot);
    // A 4 px mark at 4 px a mm with its center at 10.5, 20.5 mm: picture pixel (26, 36), centered.
    warpInk(ink, shot, shot.areas['main.front']!, { raster: dot(40, 80, 4), leftMm: 0, topMm: 0, pxPerMm: 4 });
    let [sum, sx, sy] = [0, 0, 0];
    for (let y = 0; y < 64; y += 1) {
      for (let x = 0; x < 64; x += 1) {
        const alpha = ink.values[(y * 64 + x) * 4 + 3]!;
        sum += alpha;
        sx += alpha * (x + 0.5);
        sy += alpha * (y + 0.5);
      }
    }
    expect(sx / sum).toBeCloseTo(26.5, 1);
    expect(sy / sum).toBeCloseTo(36.5, 1);
  });

  it('prints nothing outside the area', () => {
    const shot = flatShot();
    const ink = newInk(shot);
    const full = newRaster(128, 128);
    full.data.fill(255);
    warpInk(ink, shot, shot.areas['main.front']!, { raster: full, leftMm: 0, topMm: 0, pxPerMm: 4 });
    const inked = ink.values.filter((value, i) => i % 4 === 3 && value > 60000).length;
    expect(inked).toBe(32 * 32);
  });

  it('shades ink as it shades fabric, in linear light: half the light on white is sRGB 188', () => {
    // IEC 61966-2-1: linear 0.5 encodes to 187.5
    const picture = composePicture(flatShot(32768), [255, 255, 255], null);
    expect(picture[0]).toBe(188);
  });

  it('reduces without moving the map', () => {
    const small = reduceShot(flatShot(), 2);
    const ink = newInk(small);
    warpInk(ink, small, small.areas['main.front']!, { raster: dot(40, 80, 4), leftMm: 0, topMm: 0, pxPerMm: 4 });
    const alphas = ink.values.filter((_, i) => i % 4 === 3);
    const best = alphas.indexOf(Math.max(...alphas));
    expect([best % 32, Math.floor(best / 32)]).toEqual([13, 18]);
  });

  it('refuses a shot that is damaged or newer, with a sentence', () => {
    expect(() => checkShotDocument({})).toThrow(/not a shot document/);
    expect(() => checkShotDocument({ format: 'typica-shot', version: 99 })).toThrow(/update Typica/);
    expect(() =>
      checkShotDocument({ format: 'typica-shot', version: 1, widthPx: 100, heightPx: 100, passes: {} }),
    ).toThrow(/pass "rest" is missing/);
  });
});
