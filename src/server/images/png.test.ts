import { execFileSync } from 'node:child_process';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import zlib from 'node:zlib';
import { PDFArray, PDFDict, PDFDocument, PDFName, type PDFRawStream } from 'pdf-lib';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Geometry } from '@/core/geometry/area';
import { srgbProfile } from '@/core/print/icc';
import { printPdf } from '@/core/print/pdf';
import { PngFilter } from '@/core/print/png-filter';
import { filterRowsReference } from '@/core/print/png-filter-reference';
import { readPng, type PngColor } from '@/core/print/png-chunks';
import { newRaster, type Raster } from '@/core/print/pixels';
import { unpremultiply } from '@/core/print/pixels';
import { encodePng, isOpaque, packRows, rowsOf } from './png';

let folder = '';
beforeAll(() => {
  folder = fs.mkdtempSync(path.join(os.tmpdir(), 'typica-png-'));
});
afterAll(() => fs.rmSync(folder, { recursive: true, force: true }));

let seed = 7;
const random = () => (seed = (Math.imul(seed, 1103515245) + 12345) >>> 0) / 2 ** 32;

/** A premultiplied picture of noise, flat parts, rows that repeat and soft alpha, so that every way of filtering and packing has its place. */
function picture(widthPx: number, heightPx: number, alpha: 'soft' | 'opaque'): Raster {
  const raster = newRaster(widthPx, heightPx);
  for (let y = 0; y < heightPx; y += 1)
    for (let x = 0; x < widthPx; x += 1) {
      const part = Math.floor(y / 40) % 4;
      const a = alpha === 'opaque' ? 255 : part === 3 ? 0 : part === 2 ? (x * 7) % 256 : 255;
      const value = (c: number) =>
        part === 0 ? Math.floor(random() * 256) : part === 1 ? (x >> 3) * (c + 2) : ((x % 23) * 11 * (c + 1)) % 256;
      raster.data.set([0, 1, 2].map((c) => Math.round(((value(c) & 255) * a) / 255)).concat(a), (y * widthPx + x) * 4);
    }
  return raster;
}

const straight = (raster: Raster): Uint8Array => {
  const data = raster.data.slice();
  unpremultiply(data);
  return data;
};

const run = (program: string, ...args: string[]) => execFileSync(program, args, { encoding: 'utf8' });

describe('rows for PNG', () => {
  it('are filtered by WebAssembly as by the TypeScript reference, byte for byte', () => {
    const filter = new PngFilter();
    for (const widthPx of [1, 3, 5, 17, 64, 341, 1021])
      for (const bytesPerPixel of [1, 3, 4] as const) {
        const { data } = picture(widthPx, 170, 'soft');
        const pixels = new Uint32Array(data.buffer);
        const job = {
          pixels: pixels.subarray(widthPx * 4),
          widthPx,
          rows: 166,
          bytesPerPixel,
          before: widthPx % 2 ? pixels.subarray(0, widthPx) : null,
          adler: 4711,
        };
        const [ours, reference] = [filter.rows(job), filterRowsReference(job)];
        expect(Buffer.compare(ours.bytes, reference.bytes)).toBe(0);
        expect(ours.adler).toBe(reference.adler);
      }
  });
});

describe('our packing by runs', () => {
  it('is DEFLATE that zlib unpacks to the same bytes, alone and part after part', () => {
    const filter = new PngFilter();
    for (let round = 0; round < 120; round += 1) {
      const length = Math.floor(random() * (round % 12 === 0 ? 300_000 : 2000));
      const most = Math.floor(random() * 256) + 1;
      const bytes = new Uint8Array(length);
      let value = 0;
      for (let i = 0; i < length; i += 1) {
        if (random() < (round % 3) / 3 + 0.02) value = Math.floor(random() * random() * most);
        bytes[i] = value;
      }
      const parts = [filter.pack(bytes, false)!, filter.pack(bytes.subarray(0, length >> 1), true)!];
      const unpacked = zlib.inflateRawSync(Buffer.concat(parts));
      expect(Buffer.compare(unpacked, Buffer.concat([bytes, bytes.subarray(0, length >> 1)]))).toBe(0);
    }
  });
});

describe('a PNG of ours', () => {
  it.each<[PngColor, 'soft' | 'opaque', number, number]>([
    ['rgba', 'soft', 613, 700],
    ['rgb', 'opaque', 613, 700],
    ['rgba', 'opaque', 1, 1],
    ['rgba', 'soft', 4, 1300],
  ])('in %s, %s, passes pngcheck and holds the same pixels for sharp and ImageMagick', async (color, alpha, w, h) => {
    const raster = picture(w, h, alpha);
    const bytes = await encodePng(rowsOf(raster), 300, color);
    const file = path.join(folder, `${color}-${w}.png`);
    fs.writeFileSync(file, bytes);
    // pngcheck (Debian): chunks, CRCs, the zlib stream and its check value
    expect(run('pngcheck', '-v', file)).toMatch(/No errors detected/);
    const want = straight(raster);
    const bySharp = await sharp(bytes).ensureAlpha().raw().toBuffer();
    expect(Buffer.compare(bySharp, want)).toBe(0);
    const byMagick = execFileSync('/usr/bin/convert', [file, '-depth', '8', 'rgba:-'], { maxBuffer: 1e8 });
    // What is wholly transparent has no color that counts.
    const differing = want.findIndex((value, i) => byMagick[i] !== value && want[i | 3] !== 0);
    expect(differing).toBe(-1);
    // pHYs (PNG third edition): 300 DPI is 11811 px/m, by another reader
    expect(run('identify', '-units', 'PixelsPerInch', '-format', '%x', file)).toMatch(/^(300|299\.9)/);
    expect(run('pngcheck', '-v', file)).toContain('11811x11811 pixels/meter');
  });

  it('has the same bytes for the same picture, however long its parts take', async () => {
    const raster = picture(800, 900, 'soft');
    const [one, two] = await Promise.all([
      encodePng(rowsOf(raster), 150, 'rgba'),
      encodePng(rowsOf(raster), 150, 'rgba'),
    ]);
    expect(Buffer.compare(one, two)).toBe(0);
    expect((await sharp(one).metadata()).density).toBe(150);
  });

  it('packs textures that repeat, to which runs are blind', async () => {
    const raster = newRaster(1200, 600);
    for (let i = 0; i < raster.data.length; i += 1)
      raster.data[i] = i % 4 === 3 ? 255 : ((i % 52) * 37 * ((i % 7) + 1)) % 256;
    const bytes = await encodePng(rowsOf(raster), 300, 'rgba');
    const bySharp = await sharp(raster.data, { raw: { width: 1200, height: 600, channels: 4 } })
      .png()
      .toBuffer();
    expect(bytes.length).toBeLessThan(bySharp.length * 2);
  });

  it('knows whether it has holes', () => {
    const raster = picture(50, 50, 'opaque');
    expect(isOpaque(raster)).toBe(true);
    raster.data[4 * 2499 + 3] = 254;
    expect(isOpaque(raster)).toBe(false);
  });
});

describe('a print PDF', () => {
  // ISO 216 A4 with 3 mm of bleed; ISO 32000: TrimBox inside BleedBox inside MediaBox, 72 points to the inch of 25.4 mm
  const a4: Geometry = {
    widthMm: 210,
    heightMm: 297,
    outline: null,
    anchor: { xMm: 0, yMm: 0 },
    bleedMm: 3,
    safeMm: 5,
    dpi: 60,
    technique: 'giclee',
  };
  const pt = (mm: number) => expect.closeTo((mm / 25.4) * 72, 3) as number;

  it('has its boxes where ISO 32000 wants them, read back by pdf-lib and by pdfinfo', async () => {
    const raster = picture(510, 716, 'opaque');
    const png = await encodePng(rowsOf(raster), 60, 'rgb');
    const pdf = Buffer.concat(printPdf(a4, readPng(png), null, 'sheet_a4 “Ebb”'));
    const file = path.join(folder, 'a4.pdf');
    fs.writeFileSync(file, pdf);
    const doc = await PDFDocument.load(pdf, { updateMetadata: false });
    expect(doc.getTitle()).toBe('sheet_a4 “Ebb”');
    const page = doc.getPage(0);
    expect(page.getMediaBox()).toEqual({ x: 0, y: 0, width: pt(216), height: pt(303) });
    expect(page.getBleedBox()).toEqual({ x: 0, y: 0, width: pt(216), height: pt(303) });
    expect(page.getTrimBox()).toEqual({ x: pt(3), y: pt(3), width: pt(210), height: pt(297) });
    const info = run('pdfinfo', '-box', file);
    expect(info).toMatch(/TrimBox:\s+8\.50\s+8\.50\s+603\.78\s+850\.39/);
    expect(info).toMatch(/BleedBox:\s+0\.00\s+0\.00\s+612\.28\s+858\.90/);
    // The picture's packed data are those of the PNG, as they are.
    expect(pdf.includes(Buffer.concat(readPng(png).packed))).toBe(true);
    // It says which RGB is meant, with the profile itself, read back by pdf-lib.
    const intents = doc.catalog.lookup(PDFName.of('OutputIntents'), PDFArray);
    const intent = intents.lookup(0, PDFDict);
    expect(String(intent.get(PDFName.of('OutputConditionIdentifier')))).toContain('sRGB');
    const profile = intent.lookup(PDFName.of('DestOutputProfile')) as PDFRawStream;
    expect(String(profile.dict.get(PDFName.of('N')))).toBe('3');
    expect(Buffer.from(profile.contents).equals(Buffer.from(srgbProfile()))).toBe(true);
  });

  it('shows the pixels of the PNG, and what is transparent through a mask, to poppler', async () => {
    for (const alpha of ['opaque', 'soft'] as const) {
      const raster = picture(510, 716, alpha);
      const plain = { ...raster, data: straight(raster) };
      const color = {
        widthPx: 510,
        heightPx: 716,
        color: 'rgb' as const,
        packed: await packRows(rowsOf(plain), 'rgb'),
      };
      const mask = { ...color, color: 'gray' as const, packed: await packRows(rowsOf(plain), 'gray') };
      const file = path.join(folder, `${alpha}.pdf`);
      fs.writeFileSync(file, Buffer.concat(printPdf(a4, color, alpha === 'soft' ? mask : null, 'x')));
      run('pdfimages', '-png', file, path.join(folder, alpha));
      const image = await sharp(path.join(folder, `${alpha}-000.png`))
        .removeAlpha()
        .raw()
        .toBuffer();
      const want = await sharp(plain.data, { raw: { width: 510, height: 716, channels: 4 } })
        .removeAlpha()
        .raw()
        .toBuffer();
      expect(Buffer.compare(image, want)).toBe(0);
      if (alpha === 'soft') {
        const gray = await sharp(path.join(folder, `${alpha}-001.png`))
          .extractChannel(0)
          .raw()
          .toBuffer();
        expect(gray.every((value, i) => value === plain.data[i * 4 + 3])).toBe(true);
      }
    }
  });
});
