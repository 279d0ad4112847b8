import fs from 'node:fs/promises';
import os from 'node:os';
import path from 'node:path';
import zlib from 'node:zlib';
import sharp from 'sharp';
import { beforeAll, describe, expect, it } from 'vitest';
import { ingestFile } from './ingest';

let folder = '';
beforeAll(async () => {
  folder = await fs.mkdtemp(path.join(os.tmpdir(), 'typica-ingest-'));
});

let counter = 0;
async function ingest(bytes: Buffer | string) {
  const room = path.join(folder, String((counter += 1)));
  await fs.mkdir(room);
  const file = path.join(room, 'input');
  await fs.writeFile(file, bytes);
  return ingestFile(file, room);
}

/** 60×40: left half red, right half blue, top row green. */
async function flag(): Promise<Buffer> {
  const rgb = Buffer.alloc(60 * 40 * 3);
  for (let y = 0; y < 40; y += 1)
    for (let x = 0; x < 60; x += 1) rgb.set(y < 8 ? [0, 255, 0] : x < 30 ? [255, 0, 0] : [0, 0, 255], (y * 60 + x) * 3);
  return sharp(rgb, { raw: { width: 60, height: 40, channels: 3 } })
    .png()
    .toBuffer();
}

const pixel = async (file: string, x: number, y: number) => [
  ...(await sharp(file)
    .removeAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true })
    .then(({ data, info }) => data.subarray((y * info.width + x) * 3, (y * info.width + x) * 3 + 3))),
];

describe('ingest', () => {
  it('judges by content: a PNG is a PNG under any name', async () => {
    const { facts } = await ingest(await flag());
    expect(facts).toMatchObject({ mediaType: 'image/png', widthPx: 60, heightPx: 40, vector: false, hasAlpha: false });
    expect(facts.mainColors.length).toBeGreaterThanOrEqual(2);
  });

  // Exif (CIPA DC-008), tag 0x0112: what has to be done to see the picture upright, as where its first pixel goes.
  it.each([
    [1, 60, 'top-left'],
    [2, 60, 'top-right'],
    [3, 60, 'bottom-right'],
    [4, 60, 'bottom-left'],
    [5, 40, 'top-left'],
    [6, 40, 'top-right'],
    [7, 40, 'bottom-right'],
    [8, 40, 'bottom-left'],
  ])('applies orientation %i', async (orientation, width, corner) => {
    // A white picture whose first 12×12 stored pixels are black: by the standard that corner is seen at `corner`.
    const rgb = Buffer.alloc(60 * 40 * 3, 255);
    for (let y = 0; y < 12; y += 1) for (let x = 0; x < 12; x += 1) rgb.set([0, 0, 0], (y * 60 + x) * 3);
    const jpeg = await sharp(rgb, { raw: { width: 60, height: 40, channels: 3 } })
      .withMetadata({ orientation })
      .jpeg({ quality: 100, chromaSubsampling: '4:4:4' })
      .toBuffer();
    const { facts, files } = await ingest(jpeg);
    expect(facts.widthPx).toBe(width);
    const [w, h] = [facts.widthPx, facts.heightPx];
    const at = {
      'top-left': [4, 4],
      'top-right': [w - 5, 4],
      'bottom-right': [w - 5, h - 5],
      'bottom-left': [4, h - 5],
    }[corner]!;
    for (const [x, y] of [
      [4, 4],
      [w - 5, 4],
      [w - 5, h - 5],
      [4, h - 5],
    ] as const) {
      const dark = (await pixel(files.preview, x, y))[0]! < 90;
      expect(dark).toBe(x === at[0] && y === at[1]);
    }
  });

  it('reads the density of a PNG (pHYs 11811 px/m is 300 DPI)', async () => {
    const { facts } = await ingest(
      await sharp(await flag())
        .withMetadata({ density: 300 })
        .png()
        .toBuffer(),
    );
    expect(facts.densityDpi).toBe(300);
  });

  it('finds the visible box of a transparent picture', async () => {
    const rgba = Buffer.alloc(100 * 100 * 4);
    for (let y = 20; y < 60; y += 1) for (let x = 10; x < 90; x += 1) rgba.set([9, 9, 9, 255], (y * 100 + x) * 4);
    const { facts } = await ingest(
      await sharp(rgba, { raw: { width: 100, height: 100, channels: 4 } })
        .png()
        .toBuffer(),
    );
    expect(facts.visible).toEqual({ left: 0.1, top: 0.2, right: 0.9, bottom: 0.6 });
  });

  it('reads an SVG in UTF-16 and in Latin 1, whichever way its bytes lie', async () => {
    const svg = (encoding: string) =>
      `<?xml version="1.0" encoding="${encoding}"?><svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 40 20"><!-- é --><rect width="40" height="20" fill="#d2342a"/></svg>`;
    const little = Buffer.from(`\ufeff${svg('UTF-16')}`, 'utf16le');
    const files = [
      little,
      Buffer.from(little).swap16(),
      Buffer.from(svg('ISO-8859-1'), 'latin1'),
      Buffer.from(svg('UTF-8')),
    ];
    for (const file of files)
      expect((await ingest(file)).facts).toMatchObject({ vector: true, widthPx: 40, mainColors: [{ share: 1 }] });
  });

  it('converts CMYK and 16 bit, and says so', async () => {
    const cmyk = await ingest(
      await sharp(await flag())
        .toColourspace('cmyk')
        .jpeg()
        .toBuffer(),
    );
    expect(cmyk.facts.notes.join(' ')).toContain('CMYK');
    const deep = await ingest(
      await sharp(await flag())
        .toColourspace('rgb16')
        .png()
        .toBuffer(),
    );
    expect(deep.facts.notes.join(' ')).toContain('16 to 8');
  });

  it('takes an SVG, cleaned, at the size it says', async () => {
    const { facts, files } = await ingest(
      '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 300 150"><script>1</script><circle cx="150" cy="75" r="50" fill="#c00"/></svg>',
    );
    expect(facts).toMatchObject({ mediaType: 'image/svg+xml', vector: true, widthPx: 300, heightPx: 150 });
    expect(facts.notes[0]).toContain('script');
    expect(await fs.readFile(files.source!, 'utf8')).not.toContain('script');
    expect(facts.visible!.left).toBeCloseTo(100 / 300, 2);
  });

  it.each<[string, () => Promise<Buffer>, number, number]>([
    [
      'gray',
      async () =>
        sharp(await flag())
          .grayscale()
          .toColourspace('b-w')
          .png()
          .toBuffer(),
      60,
      40,
    ],
    [
      'palette',
      async () =>
        sharp(await flag())
          .png({ palette: true, colours: 8 })
          .toBuffer(),
      60,
      40,
    ],
    [
      'interlaced',
      async () =>
        sharp(await flag())
          .png({ progressive: true })
          .toBuffer(),
      60,
      40,
    ],
    [
      'progressive JPEG',
      async () =>
        sharp(await flag())
          .jpeg({ progressive: true })
          .toBuffer(),
      60,
      40,
    ],
    [
      '1 × 1',
      async () =>
        sharp({ create: { width: 1, height: 1, channels: 3, background: '#f00' } })
          .png()
          .toBuffer(),
      1,
      1,
    ],
    [
      '1 × 20000',
      async () =>
        sharp({ create: { width: 1, height: 20_000, channels: 3, background: '#f00' } })
          .png()
          .toBuffer(),
      1,
      20_000,
    ],
    [
      'a 100-megapixel PNG of a few hundred kilobytes',
      async () =>
        sharp({ create: { width: 10_000, height: 10_000, channels: 3, background: '#f00' } })
          .png()
          .toBuffer(),
      10_000,
      10_000,
    ],
  ])(
    'takes %s as it looks',
    async (_name, make, widthPx, heightPx) => {
      const { facts, files } = await ingest(await make());
      expect(facts).toMatchObject({ widthPx, heightPx, vector: false });
      const { channels } = await sharp(files.preview).stats();
      expect(channels.every((channel) => Number.isFinite(channel.mean))).toBe(true);
      expect(facts.likeness).toMatch(/^[0-9a-f]{16}$/);
    },
    60_000,
  );

  it('keeps the color of an embedded profile: a P3 red is another red in sRGB than the same numbers', async () => {
    const red = sharp({ create: { width: 40, height: 40, channels: 3, background: { r: 200, g: 60, b: 60 } } });
    const { facts, files } = await ingest(await red.withIccProfile('p3').png().toBuffer());
    expect(facts.notes.join(' ')).toContain('embedded color profile');
    // sharp converts to the profile on writing: read back through it the color is the one that was drawn.
    const [r, g, b] = await pixel(files.preview, 20, 20);
    for (const [value, want] of [
      [r, 200],
      [g, 60],
      [b, 60],
    ] as const)
      expect(Math.abs(value! - want)).toBeLessThan(6);
  });

  it('draws an SVG without what it would fetch, and knows a box around art in it', async () => {
    const { facts, files } = await ingest(
      '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100"><rect width="100" height="100" fill="#fff"/><image href="http://127.0.0.1:9/x.png" width="50" height="50"/><circle cx="50" cy="50" r="30" fill="#060"/></svg>',
    );
    expect(await fs.readFile(files.source!, 'utf8')).not.toContain('127.0.0.1');
    expect(facts.flatBox).toBe('#ffffff');
    expect(facts.notes.join(' ')).toMatch(/Left out/);
  });

  it.each<[string, () => Promise<Buffer | string>, string]>([
    ['a text file', async () => 'hello', 'artwork-format'],
    ['an empty file', async () => Buffer.alloc(0), 'artwork-empty'],
    ['a PDF', async () => '%PDF-1.7\n1 0 obj', 'artwork-format'],
    [
      'half a PNG',
      async () =>
        (
          await sharp({
            create: {
              width: 900,
              height: 900,
              channels: 3,
              background: '#123',
              noise: { type: 'gaussian', mean: 90, sigma: 60 },
            },
          })
            .png()
            .toBuffer()
        ).subarray(0, 40_000),
      'artwork-damaged',
    ],
    [
      'half a JPEG',
      async () =>
        (
          await sharp({
            create: {
              width: 900,
              height: 900,
              channels: 3,
              background: '#123',
              noise: { type: 'gaussian', mean: 90, sigma: 60 },
            },
          })
            .jpeg()
            .toBuffer()
        ).subarray(0, 30_000),
      'artwork-damaged',
    ],
    [
      'an animation',
      async () =>
        sharp(
          [
            await flag(),
            await sharp(await flag())
              .negate()
              .toBuffer(),
          ],
          { join: { animated: true } },
        )
          .webp({ loop: 0 })
          .toBuffer(),
      'artwork-animated',
    ],
    [
      '400 megapixels',
      async () =>
        sharp({ create: { width: 20_000, height: 20_000, channels: 3, background: '#fff' }, limitInputPixels: false })
          .png({ compressionLevel: 1 })
          .toBuffer(),
      'artwork-too-many-pixels',
    ],
    [
      '65535 × 65535',
      async () => {
        // A header that claims it: no picture of that size need be made to be refused.
        const png = Buffer.from(await flag());
        png.writeUInt32BE(65_535, 16);
        png.writeUInt32BE(65_535, 20);
        png.writeUInt32BE(zlib.crc32(png.subarray(12, 29)), 29);
        return png;
      },
      'artwork-too-many-pixels',
    ],
    [
      'an SVG with a huge viewBox',
      async () =>
        '<svg xmlns="http://www.w3.org/2000/svg" width="9999999" height="9999999" viewBox="0 0 9999999 9999999"><rect width="9999999" height="9999999"/></svg>',
      'svg-refused',
    ],
    [
      'nothing visible',
      async () =>
        sharp(Buffer.alloc(16 * 16 * 4), { raw: { width: 16, height: 16, channels: 4 } })
          .png()
          .toBuffer(),
      'artwork-invisible',
    ],
    [
      'an entity bomb',
      async () =>
        '<!DOCTYPE svg [<!ENTITY a "b"><!ENTITY c "&a;&a;">]><svg xmlns="http://www.w3.org/2000/svg" width="1" height="1"/>',
      'svg-refused',
    ],
  ])(
    'refuses %s in a sentence',
    async (_name, make, code) => {
      const error = (await ingest(await make()).catch((e: unknown) => e)) as { code?: string; message: string };
      expect(error.code).toBe(code);
      expect(error.message).toMatch(/^[A-Z].*\.$/);
    },
    30_000,
  );
});
