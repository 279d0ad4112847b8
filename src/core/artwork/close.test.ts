import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { setLettering } from '../../server/lettering/fonts';
import type { Lettering } from '../lettering/text';
import { svgPath } from '../paths/path';
import { jpegStep, tableStep } from './blocks';
import { detailShare } from './detail';
import { grayOf, type Gray } from './gray';
import { isSamePicture } from './same-picture';
import { findWords } from './words';

/** Numbers 0 to 1 from a seed (Numerical Recipes' linear congruence, from memory). */
function random(seed: number): () => number {
  let state = seed;
  return () => (state = (state * 1664525 + 1013904223) >>> 0) / 2 ** 32;
}

/** A picture with much in it: 200 ellipses of all colors and sizes. */
async function busy(px: number): Promise<Buffer> {
  const next = random(7);
  const ellipses = Array.from({ length: 200 }, () => {
    const [x, y, a, b] = [next() * 1000, next() * 1000, 4 + next() ** 2 * 120, 4 + next() ** 2 * 120];
    const color = [0, 0, 0].map(() => Math.floor(next() * 255)).join(',');
    return `<ellipse cx="${x}" cy="${y}" rx="${a}" ry="${b}" fill="rgb(${color})" fill-opacity="0.8"/>`;
  });
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1000 1000" width="1000" height="1000"><rect width="1000" height="1000" fill="#8a9aa0"/>${ellipses.join('')}</svg>`;
  return sharp(Buffer.from(svg), { density: (96 * px) / 1000 })
    .resize(px, px)
    .removeAlpha()
    .png()
    .toBuffer();
}

async function pixels(bytes: Buffer | string, px?: number) {
  let image = sharp(typeof bytes === 'string' ? Buffer.from(bytes) : bytes);
  if (px) image = image.resize(px, px, { fit: 'fill' });
  const { data, info } = await image.ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  return { widthPx: info.width, heightPx: info.height, rgba: new Uint8Array(data) };
}
async function gray(bytes: Buffer | string, px?: number): Promise<Gray> {
  const { widthPx, heightPx, rgba } = await pixels(bytes, px);
  return grayOf(widthPx, heightPx, rgba);
}

describe('blocks of a JPEG', () => {
  // The low frequencies of the usual table at quality 50 are 11, 12, 14, 12 and 10 (ITU-T T.81, table K.1), twice that at 25, five times at 10 (the usual
  // scale of libjpeg: 50 ÷ quality below 50; from memory).
  const usual = (quality: number) => (11 + 12 + 14 + 12 + 10) / 5 / (quality / 50);

  it('are told by the table that the file brings', async () => {
    const picture = await busy(300);
    for (const quality of [10, 25, 50])
      expect(tableStep(await sharp(picture).jpeg({ quality }).toBuffer())).toBeCloseTo(usual(quality), 0);
    expect(tableStep(picture)).toBeNull();
    for (const bad of [[], [0xff, 0xd8], [0xff, 0xd8, 0xff, 0xdb, 0, 3, 0], [0xff, 0xd8, 0xff, 0xff, 0xff, 0xff, 0xff]])
      expect(tableStep(Uint8Array.from(bad))).toBeNull();
  });

  it('are told by the picture itself where it was cut and saved otherwise, and are not where it never was one', async () => {
    const picture = await busy(900);
    for (const quality of [12, 25]) {
      const coded = await sharp(picture).jpeg({ quality }).toBuffer();
      const cut = await sharp(coded).extract({ left: 3, top: 5, width: 800, height: 800 }).png().toBuffer();
      const step = jpegStep(await gray(cut))!;
      expect(Math.abs(step / usual(quality) - 1)).toBeLessThan(0.15);
    }
    expect(jpegStep(await gray(picture))).toBeNull();
    expect(jpegStep(await gray(await sharp(picture).jpeg({ quality: 90 }).toBuffer()))).toBeNull();
    const bars =
      '<svg xmlns="http://www.w3.org/2000/svg" width="400" height="400"><path d="M0 0h200v400h-200z" fill="#345"/></svg>';
    expect(jpegStep(await gray(bars))).toBeNull();
  });
});

describe('detail', () => {
  it('is what was there before a picture was enlarged, whoever did it and whatever it was saved as', async () => {
    const picture = await busy(1200);
    expect(detailShare(await gray(picture))).toBe(1);
    for (const times of [2, 3, 4])
      for (const kernel of ['linear', 'cubic', 'lanczos3'] as const) {
        const small = await sharp(picture)
          .resize(Math.round(1200 / times))
          .png()
          .toBuffer();
        const large = await sharp(small).resize(1200, 1200, { kernel }).toBuffer();
        const share = detailShare(await gray(large))!;
        expect(share * times).toBeGreaterThan(0.7);
        expect(share * times).toBeLessThan(1.15);
        const coded = await sharp(large).jpeg({ quality: 80 }).toBuffer();
        expect(Math.abs(detailShare(await gray(coded))! - share)).toBeLessThan(0.1);
      }
  });

  it('is not asked of what has no edges', async () => {
    const svg = (body: string) => `<svg xmlns="http://www.w3.org/2000/svg" width="600" height="600">${body}</svg>`;
    expect(detailShare(await gray(svg('<rect width="600" height="600" fill="#678"/>')))).toBeNull();
    const soft =
      '<linearGradient id="g"><stop stop-color="#fff"/><stop offset="1" stop-color="#000"/></linearGradient>';
    expect(detailShare(await gray(svg(`${soft}<rect width="600" height="600" fill="url(#g)"/>`)))).toBeNull();
    expect(detailShare({ widthPx: 1, heightPx: 1, levels: Uint8Array.of(7) })).toBeNull();
  });
});

describe('words in a picture', () => {
  const scene = (body: string, ground = '#7fb0d0') =>
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1000 700" width="1200" height="840"><rect width="1000" height="700" fill="${ground}"/>${body}</svg>`;
  /** A text as outlines, its baseline near 690. */
  async function words(text: string, family: string, sizeMm: number, fill: string): Promise<string> {
    const lettering: Lettering = {
      text,
      family,
      style: 'regular',
      sizeMm,
      align: 'left',
      tracking: 0,
      lineHeight: 1.2,
      fill,
      outline: null,
      arcDeg: 0,
      boxWidthMm: 900,
      boxHeightMm: sizeMm * 1.3,
      shrinkToMm: null,
      wrap: true,
    };
    const { inks, bounds } = await setLettering(lettering);
    const shift = 690 - bounds!.bottom;
    return `<g transform="translate(60 ${shift})">${inks.map((ink) => `<path d="${svgPath(ink.path)}" fill="${ink.color}"/>`).join('')}</g>`;
  }

  it.each([
    ['EBB & FLOOD', 'noto-sans', 40],
    ['River Regatta Sunday', 'montserrat', 30],
    ['est. 1987', 'zilla-slab', 22],
    ['HELLO', 'noto-sans', 110],
    ['Fresh air & salt', 'caveat', 44],
    ['אור נהר', 'frank-ruhl-libre', 40],
  ])('are found where they stand: %s', async (text, family, sizeMm) => {
    for (const [ground, fill] of [
      ['#7fb0d0', '#ffffff'],
      ['#182a4a', '#f3ead6'],
      ['#f3ead6', '#182a4a'],
    ]) {
      const found = findWords(await gray(scene(await words(text, family, sizeMm, fill!), ground)));
      expect(found.length).toBeGreaterThan(0);
      for (const box of found) {
        expect(box.bottom).toBeGreaterThan(0.96);
        expect(box.bottom).toBeLessThan(1);
        expect(box.left).toBeGreaterThan(0.05);
      }
    }
  });

  it('are not seen in rows of dots, flags, windows and planks, nor in leaves', async () => {
    const next = random(3);
    const row = (count: number, draw: (i: number) => string) =>
      Array.from({ length: count }, (_, i) => draw(i)).join('');
    const scenes = [
      row(30, (i) => `<circle cx="${20 + i * 33}" cy="680" r="10" fill="#fff"/>`),
      row(
        16,
        (i) => `<path d="M${i * 60} 630h46l-23 50z" fill="${['#d2342a', '#f6b73c', '#fff', '#182a4a'][i % 4]}"/>`,
      ),
      row(
        60,
        (i) =>
          `<rect x="${40 + (i % 12) * 78}" y="${80 + Math.floor(i / 12) * 110}" width="${30 + ((i * 7) % 5) * 4}" height="60" fill="#1f2d3a"/>`,
      ),
      row(
        40,
        (i) => `<rect x="${i * 25}" y="${600 + next() * 6}" width="${8 + next() * 10}" height="90" fill="#6b4a2f"/>`,
      ),
      row(400, () => {
        const [x, y] = [next() * 1000, next() * 700];
        return `<path d="M${x} ${y}q10 -14 22 0q-12 12 -22 0" transform="rotate(${next() * 360} ${x} ${y})" fill="rgb(${20 + next() * 60},${80 + next() * 120},60)"/>`;
      }),
    ];
    for (const body of scenes) expect(findWords(await gray(scene(body)))).toEqual([]);
    expect(findWords(await gray(await busy(900)))).toEqual([]);
  });
});

describe('the same picture', () => {
  const PX = 256;
  const svg = (
    hex: string,
    word = '<path d="M150 330h8v24h-8zM164 330h14v4h-14zM184 330h8v24h-8zM200 330h30v6h-30z"/>',
  ) =>
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 400 400" width="800" height="800"><g fill="${hex}"><path d="M200 60a120 120 0 1 0 1 0zm0 60a60 60 0 1 1 -1 0z" fill-rule="evenodd"/>${word}</g></svg>`;

  it('is one in another size, or compressed; not in another color, without its words, or with other ones', async () => {
    const own = await pixels(svg('#d2342a'), PX);
    const small = await sharp(Buffer.from(svg('#d2342a')))
      .resize(300)
      .png()
      .toBuffer();
    expect(isSamePicture(own, await pixels(small, PX))).toBe(true);
    const flat = (bytes: string) => sharp(Buffer.from(bytes)).flatten({ background: '#fff' });
    const paper = await pixels(await flat(svg('#d2342a')).png().toBuffer(), PX);
    expect(isSamePicture(paper, await pixels(await flat(svg('#d2342a')).jpeg({ quality: 70 }).toBuffer(), PX))).toBe(
      true,
    );
    // On white it is no more the one without a ground.
    expect(isSamePicture(own, paper)).toBe(false);
    expect(isSamePicture(own, await pixels(svg('#182a4a'), PX))).toBe(false);
    expect(isSamePicture(own, await pixels(svg('#d2342a', ''), PX))).toBe(false);
    expect(
      isSamePicture(
        own,
        await pixels(svg('#d2342a', '<path d="M150 330h8v24h-8zM164 350h14v4h-14zM184 330h24v8h-24z"/>'), PX),
      ),
    ).toBe(false);
  });

  it('is never told of plain fields', async () => {
    const field = await pixels(
      '<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><rect width="9" height="9" fill="#d2342a"/></svg>',
      PX,
    );
    expect(isSamePicture(field, field)).toBe(false);
    expect(isSamePicture(field, { ...field, widthPx: 128 })).toBe(false);
  });
});
