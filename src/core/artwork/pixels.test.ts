import { execFileSync } from 'node:child_process';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import sharp from 'sharp';
import { converter } from 'culori';
import { describe, expect, it } from 'vitest';
import { colorDifference } from '../catalog/families';
import { newRaster } from '../print/pixels';
import type { Pixels } from './analysis';
import { makeSolid, takeBackground } from './background';
import { oklab, parseHex } from './color';
import { enlarge } from './enlarge';
import { flatBox } from './flat-box';
import { halfTransparentShare } from './half-transparent';
import { likenessDistance, likenessHash, SAME_LIKENESS } from './likeness';
import { hairInk } from './hairlines';
import { shareThinnerThan, thinInk } from './strokes';

const draw = async (svg: string, side = 200): Promise<Pixels> => {
  const { data, info } = await sharp(
    Buffer.from(
      `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 200 200" width="${side}" height="${side}">${svg}</svg>`,
    ),
  )
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { widthPx: info.width, heightPx: info.height, rgba: new Uint8Array(data) };
};
const at = ({ widthPx, rgba }: Pixels, x: number, y: number) => [
  ...rgba.slice((y * widthPx + x) * 4, (y * widthPx + x) * 4 + 4),
];

const ringOnWhite =
  '<rect width="200" height="200" fill="#fff"/><circle cx="100" cy="100" r="60" fill="none" stroke="#123f4c" stroke-width="24"/>';

describe('a flat box around the art', () => {
  it('is found, also after JPEG, and not where there is none', async () => {
    expect(flatBox(await draw(ringOnWhite))).toBe('#ffffff');
    const white = await draw(ringOnWhite);
    const jpeg = await sharp(white.rgba, { raw: { width: 200, height: 200, channels: 4 } })
      .jpeg({ quality: 60 })
      .toBuffer();
    const decoded = await sharp(jpeg).ensureAlpha().raw().toBuffer();
    expect(flatBox({ widthPx: 200, heightPx: 200, rgba: decoded })).toMatch(/^#f[c-f]f[c-f]f[c-f]$/);
    expect(flatBox(await draw('<circle cx="100" cy="100" r="60"/>'))).toBeNull();
    // A picture up to its edge, and a sheet of one color: neither is art in a box.
    expect(
      flatBox(
        await draw('<rect width="120" height="200" fill="#a33"/><rect x="120" width="80" height="200" fill="#3a3"/>'),
      ),
    ).toBeNull();
    expect(flatBox(await draw('<rect width="200" height="200" fill="#fff"/>'))).toBeNull();
  });

  it('is taken away from the border inwards: what is white inside the art stays, and its edge is soft', async () => {
    const picture = await draw(ringOnWhite);
    const bare = await draw('<circle cx="100" cy="100" r="60" fill="none" stroke="#123f4c" stroke-width="24"/>');
    takeBackground(picture, '#ffffff');
    expect(at(picture, 3, 3)).toEqual([0, 0, 0, 0]);
    expect(at(picture, 100, 40)).toEqual([0x12, 0x3f, 0x4c, 255]);
    // The middle of the ring is not reached from the border.
    expect(at(picture, 100, 100)).toEqual([255, 255, 255, 255]);
    // Along the outer edge the alpha is that of the same ring drawn on nothing.
    let [sum, count] = [0, 0];
    for (let y = 0; y < 200; y += 1)
      for (let x = 0; x < 200; x += 1) {
        if (Math.hypot(x - 99.5, y - 99.5) < 66) continue;
        const want = at(bare, x, y)[3]!;
        sum += Math.abs(at(picture, x, y)[3]! - want);
        if (want > 0 && want < 255) count += 1;
      }
    expect(sum / count).toBeLessThan(24);
    // No white is left in the edge: where it is half there, it has the ring's own color.
    const edge = [...Array(200 * 200).keys()].filter(
      (p) => picture.rgba[p * 4 + 3]! > 20 && picture.rgba[p * 4 + 3]! < 235,
    );
    expect(edge.length).toBeGreaterThan(50);
    for (const p of edge) expect(picture.rgba[p * 4]!).toBeLessThan(0x60);
    expect(flatBox(picture)).toBeNull();
  });
});

describe('half-transparent parts', () => {
  it('count as parts, and the soft edge of a shape does not', async () => {
    expect(halfTransparentShare(await draw('<circle cx="100" cy="100" r="70"/>'))).toBe(0);
    const half = await draw(
      '<rect width="100" height="200"/><rect x="100" width="100" height="200" fill-opacity="0.5"/>',
    );
    expect(halfTransparentShare(half)).toBeGreaterThan(0.45);
    makeSolid(half);
    expect(halfTransparentShare(half)).toBe(0);
    expect(at(half, 150, 100)[3]).toBe(255);
  });
});

describe('thin ink', () => {
  it('is measured in shares of the longer side', async () => {
    // Lines of 2 on 200 are a hundredth wide; a disc of 60 is not thin anywhere.
    const lines = await draw(
      '<path d="M10 30H190M10 60H190M10 90H190M10 120H190" stroke="#000" stroke-width="2"/>',
      1000,
    );
    const thin = thinInk(lines);
    const share = (width: number) => thin.find((one) => one.width === width)!.share;
    expect(share(0.0061)).toBeLessThan(0.05);
    expect(share(0.0119)).toBeGreaterThan(0.95);
    for (const { share: of } of thinInk(await draw('<circle cx="100" cy="100" r="60"/>', 600)))
      expect(of).toBeLessThan(0.01);
    // 0.0119 of 50 mm is 0.6 mm
    expect(shareThinnerThan(thin, 0.7, 50)).toBe(share(0.0119));
    expect(shareThinnerThan(thin, 0.1, 500)).toBe(0);
  });

  it('is none where nothing is transparent', async () => {
    expect(thinInk(await draw(ringOnWhite))).toEqual([]);
  });
});

describe('a likeness hash', () => {
  it('is the same for another size and quality, and another for another picture', async () => {
    const scene = (color: string) =>
      `<rect width="200" height="200" fill="#dcd"/><circle cx="70" cy="90" r="50" fill="${color}"/><path d="M20 180L180 30L190 190Z" fill="#345"/>`;
    const one = likenessHash(await draw(scene('#b33'), 128));
    const large = likenessHash(await draw(scene('#b33'), 500));
    const jpeg = await sharp((await draw(scene('#b33'), 300)).rgba, { raw: { width: 300, height: 300, channels: 4 } })
      .jpeg({ quality: 40 })
      .toBuffer();
    const again = likenessHash({ widthPx: 300, heightPx: 300, rgba: await sharp(jpeg).ensureAlpha().raw().toBuffer() });
    expect(likenessDistance(one, large)).toBeLessThanOrEqual(SAME_LIKENESS);
    expect(likenessDistance(one, again)).toBeLessThanOrEqual(SAME_LIKENESS);
    expect(likenessDistance(one, likenessHash(await draw(ringOnWhite, 128)))).toBeGreaterThan(10);
  });
});

describe('color difference', () => {
  // Sharma, Wu, Dalal 2005, table 1: pairs 1, 4, 7, 13, 17, 20, 25, 34
  it.each([
    [50, 2.6772, -79.7751, 50, 0, -82.7485, 2.0425],
    [50, -1.3802, -84.2814, 50, 0, -82.7485, 1.0],
    [50, 0, 0, 50, -1, 2, 2.3669],
    [50, -0.001, 2.49, 50, 0.0009, -2.49, 4.8045],
    [50, 2.5, 0, 73, 25, -18, 27.1492],
    [50, 2.5, 0, 58, 24, 15, 19.4535],
    [60.2574, -34.0099, 36.2677, 60.4626, -34.1751, 39.4387, 1.2644],
    [2.0776, 0.0795, -1.135, 0.9033, -0.0636, -0.5514, 0.9082],
  ])('of %f %f %f and %f %f %f is %f (CIEDE2000)', (l1, a1, b1, l2, a2, b2, want) => {
    const difference = colorDifference({ mode: 'lab65', l: l1, a: a1, b: b1 }, { mode: 'lab65', l: l2, a: a2, b: b2 });
    expect(difference).toBeCloseTo(want, 4);
  });
});

describe('hairlines', () => {
  it('are told however thin they are: straight, aslant, and of less than a pixel', async () => {
    // Lines of so many units of 1,000, drawn at 2,400 px: a share of the side, by construction.
    const lines = async (share: number, turn: number) => {
      const body = [150, 320, 490, 660, 830]
        .map((y) => `<rect x="150" y="${y}" width="700" height="${share * 1000}"/>`)
        .join('');
      const svg = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1000 1000" width="2400" height="2400"><g transform="rotate(${turn} 500 500)">${body}</g></svg>`;
      const { data, info } = await sharp(Buffer.from(svg))
        .extractChannel(3)
        .raw()
        .toBuffer({ resolveWithObject: true });
      return hairInk({ widthPx: info.width, heightPx: info.height, alpha: data });
    };
    for (const share of [0.0002, 0.0005, 0.001, 0.002])
      for (const turn of [0, 90, 45, 20]) {
        const found = await lines(share, turn);
        const at = (factor: number) => found.filter(({ width }) => width <= share * factor).at(-1)?.share ?? 0;
        expect(at(0.8)).toBeLessThan(0.2);
        expect(at(1.35)).toBeGreaterThan(0.9);
      }
    const { data } = await sharp(
      Buffer.from(
        '<svg xmlns="http://www.w3.org/2000/svg" width="600" height="600"><circle cx="300" cy="300" r="250"/></svg>',
      ),
    )
      .extractChannel(3)
      .raw()
      .toBuffer({ resolveWithObject: true });
    for (const { share } of hairInk({ widthPx: 600, heightPx: 600, alpha: data })) expect(share).toBeLessThan(0.01);
  });
});

describe('OKLab', () => {
  it('agrees with culori to 1e-6', () => {
    const toOklab = converter('oklab');
    for (let i = 0; i < 200; i += 1) {
      const hex = `#${((i * 0x9e3779) & 0xffffff).toString(16).padStart(6, '0')}`;
      const want = toOklab(hex)!;
      const [l, a, b] = oklab(parseHex(hex));
      expect(Math.max(Math.abs(l - want.l), Math.abs(a - want.a), Math.abs(b - want.b))).toBeLessThan(1e-6);
    }
  });
});

describe('enlarging', () => {
  it('agrees with ImageMagick’s Lanczos within a mean of 1 and a worst of 12 of 255', async () => {
    const small = await draw(`${ringOnWhite}<path d="M0 0L200 160" stroke="#a33" stroke-width="9"/>`, 90);
    const ours = enlarge({ widthPx: 90, heightPx: 90, data: small.rgba as Uint8Array }, 250, 250);
    const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'typica-enlarge-'));
    const file = path.join(folder, 'small.png');
    await sharp(small.rgba, { raw: { width: 90, height: 90, channels: 4 } })
      .png()
      .toFile(file);
    const theirs = execFileSync(
      '/usr/bin/convert',
      [file, '-alpha', 'off', '-filter', 'Lanczos', '-resize', '250x250!', '-depth', '8', 'rgb:-'],
      { maxBuffer: 1e8 },
    );
    fs.rmSync(folder, { recursive: true });
    let [sum, worst] = [0, 0];
    for (let p = 0; p < 250 * 250; p += 1)
      for (let c = 0; c < 3; c += 1) {
        const off = Math.abs(ours.data[p * 4 + c]! - theirs[p * 3 + c]!);
        sum += off;
        worst = Math.max(worst, off);
      }
    expect(sum / (250 * 250 * 3)).toBeLessThan(1);
    expect(worst).toBeLessThanOrEqual(12);
  });

  it('keeps flat color flat, and color under its alpha', () => {
    const flat = newRaster(7, 5);
    flat.data.fill(90);
    expect(enlarge(flat, 40, 30).data.every((value) => value === 90)).toBe(true);
    const edge = newRaster(8, 8);
    for (let i = 0; i < 32; i += 1) edge.data.set([200, 0, 0, 200], i * 4);
    const { data } = enlarge(edge, 60, 60);
    for (let i = 0; i < data.length; i += 4) expect(data[i]!).toBeLessThanOrEqual(data[i + 3]!);
  });
});
