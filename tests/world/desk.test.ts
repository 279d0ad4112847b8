import crypto from 'node:crypto';
import { parse } from 'csv-parse/sync';
import { unzipSync } from 'fflate';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { parseHex } from '@/core/artwork/color';
import type { Blank } from '@/core/catalog/blank';
import type { Layer } from '@/core/document/document';
import { THREADS } from '@/core/embroidery/palette';
import type { Lettering } from '@/core/lettering/text';
import { planMockup } from '@/core/listing/pictures';
import { planPrintFiles } from '@/core/print/plan';
import { findArtwork, uploadArtwork } from '@/server/artwork/artwork';
import { readBlob } from '@/server/blobs/blobs';
import { sewnOf } from '@/server/images/compose';
import { setLettering } from '@/server/lettering/fonts';
import type { Actor } from '@/server/people/people';
import { printArchive } from '@/server/prints/archive';
import { ensurePrintFile } from '@/server/prints/print-files';
import { loadBundle } from '@/server/products/bundle';
import { patchProduct } from '@/server/products/patch';
import { createProduct } from '@/server/products/products';
import { findBlank, makeActor, makeWorld, runJobs, streamOf, type World } from '../support/world';

let world: World;
let actor: Actor;
let tee: Blank;
let cap: Blank;
beforeAll(async () => {
  world = await makeWorld({ catalog: true });
  actor = await makeActor(world.ctx);
  tee = await findBlank(world.ctx, 'millrace', 'towpath-tee');
  cap = await findBlank(world.ctx, 'cinder-lane', 'coxswain-cap');
});
afterAll(() => world.close());

const lettering = (over: Partial<Lettering> = {}): Lettering => ({
  text: 'HHH',
  family: 'noto-sans',
  style: 'bold',
  sizeMm: 40,
  align: 'center',
  tracking: 0,
  lineHeight: 1.2,
  fill: '#d2342a',
  outline: null,
  arcDeg: 0,
  boxWidthMm: 150,
  boxHeightMm: 50,
  shrinkToMm: null,
  wrap: false,
  ...over,
});
const placed = (blank: Blank, areaKey: string, xMm: number, yMm: number, widthMm: number) => ({
  name: 'Layer',
  order: 'a0',
  geometryId: blank.areas.find((area) => area.key === areaKey)!.geometries[0]!.geometryId,
  fit: 'keep' as const,
  overrides: {},
  hidden: false,
  locked: false,
  placement: { xMm, yMm, widthMm, rotationDeg: 0, flipX: false, flipY: false },
});

/** A product with these layers on one area, in all variants of these colors. */
async function make(blank: Blank, areaKey: string, layers: Record<string, Layer>, colors: readonly string[]) {
  const option = blank.options.find((one) => one.values.some((value) => value.hex))!;
  const keys = blank.variants
    .filter((v) => !v.ended && colors.includes(v.values[option.code]!))
    .map(({ key }) => ({ key }));
  const product = await createProduct(world.ctx, actor, { blankId: blank.id, variants: keys });
  await patchProduct(world.ctx, actor, product.id, 1, [{ op: 'add', path: `/areas/${areaKey}`, value: { layers } }]);
  return loadBundle(world.ctx, actor.workspaceId, product.id);
}
const files = (bundle: Awaited<ReturnType<typeof make>>) =>
  planPrintFiles(bundle.product.document, bundle.blank, bundle.sources);
async function pixels(bundle: Awaited<ReturnType<typeof make>>, index = 0) {
  const { sha256 } = await ensurePrintFile(world.ctx, actor, files(bundle)[index]!);
  const { data, info } = await sharp(await readBlob(world.ctx, sha256))
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { data, ...info };
}
/** Distinct visible colors, and the box of what is visible, px. */
function look({ data, width, height }: Awaited<ReturnType<typeof pixels>>) {
  const colors = new Map<string, number>();
  const box = { left: width, top: height, right: 0, bottom: 0 };
  for (let i = 0; i < data.length; i += 4) {
    if (data[i + 3]! < 128) continue;
    const [x, y] = [(i / 4) % width, Math.floor(i / 4 / width)];
    box.left = Math.min(box.left, x);
    box.right = Math.max(box.right, x + 1);
    box.top = Math.min(box.top, y);
    box.bottom = Math.max(box.bottom, y + 1);
    if (data[i + 3] === 255) {
      const hex = `#${[data[i]!, data[i + 1]!, data[i + 2]!].map((v) => v.toString(16).padStart(2, '0')).join('')}`;
      colors.set(hex, (colors.get(hex) ?? 0) + 1);
    }
  }
  return { colors, box };
}

describe('letters in a print file', () => {
  it('lie where their outlines say, in their color, to the pixel', async () => {
    const bundle = await make(
      tee,
      'main.front',
      { t: { kind: 'text', lettering: lettering(), ...placed(tee, 'main.front', 152.5, 120, 150) } },
      ['chalk'],
    );
    const { colors, box } = look(await pixels(bundle));
    const { bounds } = await setLettering(lettering());
    // The box's corner is at 152.5 − 75, 120 − 25 mm; 300 DPI, 25.4 mm to the inch.
    const px = (mm: number) => (mm * 300) / 25.4;
    expect(Math.abs(box.left - px(77.5 + bounds!.left))).toBeLessThanOrEqual(1);
    expect(Math.abs(box.right - px(77.5 + bounds!.right))).toBeLessThanOrEqual(1);
    expect(Math.abs(box.top - px(95 + bounds!.top))).toBeLessThanOrEqual(1);
    expect(Math.abs(box.bottom - px(95 + bounds!.bottom))).toBeLessThanOrEqual(1);
    expect([...colors.keys()]).toEqual(['#d2342a']);
  });

  it('are set in scripts of the whole world, with nothing missing', async () => {
    for (const text of ['Κωπηλασία', 'Гребля', 'חתירה', 'التجديف', 'नौकायन', 'Ruderklub Łódź'])
      expect(await setLettering(lettering({ text })), text).toMatchObject({ missing: [] });
    expect((await setLettering(lettering({ text: '漕艇' }))).missing).toEqual(['漕', '艇']);
  });

  it('that cannot be are refused with a sentence, and nothing is changed', async () => {
    const bundle = await make(
      tee,
      'main.front',
      { t: { kind: 'text', lettering: lettering(), ...placed(tee, 'main.front', 152.5, 120, 150) } },
      ['chalk'],
    );
    const patch = (path: string, value: unknown) =>
      patchProduct(world.ctx, actor, bundle.product.id, 2, [
        { op: 'replace', path: `/areas/main.front/layers/t/${path}`, value },
      ]);
    for (const [path, value] of [
      ['lettering/text', 'x'.repeat(10_000)],
      ['lettering/sizeMm', 0],
      ['lettering/sizeMm', 10_000],
      ['lettering/family', 'gone'],
      ['placement/xMm', 1_000_000],
    ] as const)
      await expect(patch(path, value), path).rejects.toThrow(/^The product would be invalid: .+\.$/);
    await expect(
      patchProduct(world.ctx, actor, bundle.product.id, 2, [
        { op: 'replace', path: '/areas/main.front/layers/gone/name', value: 'x' },
      ]),
    ).rejects.toThrow(/./);
    expect((await loadBundle(world.ctx, actor.workspaceId, bundle.product.id)).product.revision).toBe(2);
  });
});

describe('versions by color', () => {
  it('make a print file and a mock-up of their own, and share what is the same', async () => {
    const star: Layer = {
      kind: 'ornament',
      ornament: 'star-five',
      color: '#182a4a',
      ...placed(tee, 'main.front', 152.5, 120, 100),
      versions: { coal: { tint: '#ffffff' }, channel: { tint: '#ffffff' } },
    };
    const bundle = await make(tee, 'main.front', { s: star }, ['chalk', 'sandbar', 'coal', 'channel']);
    // Two geometries, each in two versions
    expect(files(bundle).map((file) => [file.slug, file.variantKeys.length])).toEqual([
      ['front_xs-s-m-l_chalk-sandbar', 8],
      ['front_xs-s-m-l_coal-channel', 8],
      ['front_xl-xxl-3xl_chalk-sandbar', 6],
      ['front_xl-xxl-3xl_coal-channel', 6],
    ]);
    expect([...look(await pixels(bundle, 0)).colors.keys()]).toEqual(['#182a4a']);
    expect([...look(await pixels(bundle, 1)).colors.keys()]).toEqual(['#ffffff']);
    const shot = bundle.shots[0]!;
    const keyOn = (color: string) =>
      planMockup(bundle.product.document, bundle.blank, shot, color, bundle.sources)!.sheets[0]!.layers[0];
    expect(keyOn('coal')).toMatchObject({ color: '#ffffff' });
    expect(keyOn('chalk')).toMatchObject({ color: '#182a4a' });
  });

  it('paint an artwork in one color, and put another artwork in its place', async () => {
    const square = (fill: string, w: number, h: number) =>
      sharp({ create: { width: w, height: h, channels: 4, background: fill } })
        .png()
        .toBuffer();
    const [one, two] = await Promise.all([
      uploadArtwork(world.ctx, actor, streamOf(await square('#224466', 400, 400)), 'one.png'),
      uploadArtwork(world.ctx, actor, streamOf(await square('#883311', 800, 400)), 'two.png'),
    ]);
    await runJobs(world.ctx);
    const layer: Layer = {
      kind: 'artwork',
      artworkId: one.id,
      ...placed(tee, 'main.front', 152.5, 120, 100),
      versions: { coal: { tint: '#00ff00' }, kelp: { artworkId: two.id } },
    };
    const bundle = await make(tee, 'main.front', { a: layer }, ['chalk', 'coal', 'kelp']);
    const byColor = Object.fromEntries(files(bundle).map((file, i) => [file.slug.split('_')[2], i]));
    const at = async (color: string) => look(await pixels(bundle, byColor[color]!));
    const [own, tinted, other] = [await at('chalk'), await at('coal'), await at('kelp')];
    expect([...own.colors.keys()]).toContain('#224466');
    expect([...tinted.colors.keys()]).toEqual(['#00ff00']);
    expect(tinted.box).toEqual(own.box);
    // Twice as wide as high, fitted into the same place: as wide, half as high, in the middle.
    expect(other.box.right - other.box.left).toBe(own.box.right - own.box.left);
    expect((other.box.bottom - other.box.top) / (own.box.bottom - own.box.top)).toBeCloseTo(0.5, 2);
  });
});

describe('embroidery', () => {
  it('is sewn in six threads at most, fully or not at all, the same in every size of picture', async () => {
    const rainbow = Buffer.from(
      `<svg xmlns="http://www.w3.org/2000/svg" width="900" height="400">${Array.from({ length: 18 }, (_, i) => `<rect x="${i * 50}" width="50" height="400" fill="hsl(${i * 20} 80% 50%)"/>`).join('')}</svg>`,
    );
    const { id } = await uploadArtwork(world.ctx, actor, streamOf(rainbow), 'rainbow.svg');
    await runJobs(world.ctx);
    const areaKey = cap.areas[0]!.key;
    const bundle = await make(
      cap,
      areaKey,
      { a: { kind: 'artwork', artworkId: id, ...placed(cap, areaKey, 57, 27, 90) } },
      [cap.options[0]!.values[0]!.code],
    );
    const image = await pixels(bundle);
    const { colors } = look(image);
    const palette = new Set(THREADS.map((thread) => thread.hex));
    expect(colors.size).toBeLessThanOrEqual(6);
    expect(colors.size).toBeGreaterThan(3);
    for (const hex of colors.keys()) expect(palette).toContain(hex);
    for (let i = 3; i < image.data.length; i += 4)
      if (image.data[i] !== 0 && image.data[i] !== 255) throw new Error('half a thread');
    const threads = (await sewnOf((sha256) => readBlob(world.ctx, sha256), files(bundle)[0]!.sheet)).threads;
    expect(new Set(threads.map((used) => used.thread.hex))).toEqual(new Set(colors.keys()));
    expect(threads.reduce((sum, used) => sum + used.share, 0)).toBeCloseTo(1, 6);
  });

  it('takes the threads that a seller pins and swaps', async () => {
    const areaKey = cap.areas[0]!.key;
    const bundle = await make(
      cap,
      areaKey,
      { s: { kind: 'ornament', ornament: 'badge-disc', color: '#182a4a', ...placed(cap, areaKey, 57, 27, 40) } },
      [cap.options[0]!.values[0]!.code],
    );
    await patchProduct(world.ctx, actor, bundle.product.id, 2, [
      { op: 'add', path: `/areas/${areaKey}/threads`, value: { pinned: {}, swaps: { t30: 't11' } } },
    ]);
    const after = await loadBundle(world.ctx, actor.workspaceId, bundle.product.id);
    expect([...look(await pixels(after)).colors.keys()]).toEqual(['#6f1f2b']);
    expect(parseHex('#6f1f2b')).toEqual(parseHex(THREADS.find((thread) => thread.code === 't11')!.hex));
  });
});

describe('the archive of print files', () => {
  it('holds each file as it is printed, and a manifest that says what each is for; the same design gives the same bytes', async () => {
    const star: Layer = {
      kind: 'ornament',
      ornament: 'star-five',
      color: '#182a4a',
      ...placed(cap, 'main.front', 57, 27, 30),
      versions: { coal: { tint: '#ffffff' } },
    };
    const bundle = await make(cap, 'main.front', { s: star }, ['sandbar', 'coal']);
    const archive = async () =>
      Buffer.from(await new Response((await printArchive(world.ctx, actor, bundle)).stream).arrayBuffer());
    const bytes = await archive();
    const held = unzipSync(new Uint8Array(bytes));
    expect(Object.keys(held)).toEqual(['manifest.json', 'manifest.csv', 'front_sandbar.png', 'front_coal.png']);
    const rows = parse(Buffer.from(held['manifest.csv']!), { columns: true }) as Record<string, string>[];
    const about = JSON.parse(Buffer.from(held['manifest.json']!).toString('utf8')) as { files: { sha256: string }[] };
    for (const [i, row] of rows.entries()) {
      const file = held[row.file!]!;
      expect(crypto.createHash('sha256').update(file).digest('hex')).toBe(row.sha256);
      expect(about.files[i]!.sha256).toBe(row.sha256);
      const { width, height, density } = await sharp(file).metadata();
      expect([width, height, density].map(String)).toEqual([row.widthPx, row.heightPx, row.dpi]);
    }
    expect(rows.map((row) => row.colors)).toEqual(['Sandbar', 'Coal']);
    expect((await archive()).equals(bytes)).toBe(true);
    const empty = await loadBundle(
      world.ctx,
      actor.workspaceId,
      (await createProduct(world.ctx, actor, { blankId: cap.id })).id,
    );
    await expect(printArchive(world.ctx, actor, empty)).rejects.toThrow(/nothing to print yet/i);
  });
});

describe('text inside SVG artwork', () => {
  it('is outlined where its font is here, and its font named where it is not', async () => {
    const svg = (family: string) =>
      Buffer.from(
        `<svg xmlns="http://www.w3.org/2000/svg" width="300" height="80"><rect width="10" height="10"/><text x="20" y="60" font-size="50" font-family="${family}">Ebb</text></svg>`,
      );
    const [here, gone] = [
      await uploadArtwork(world.ctx, actor, streamOf(svg('Zilla Slab')), 'here.svg'),
      await uploadArtwork(world.ctx, actor, streamOf(svg('Quayside Grotesk')), 'gone.svg'),
    ];
    await runJobs(world.ctx);
    const [a, b] = await Promise.all([here, gone].map(({ id }) => findArtwork(world.ctx, actor.workspaceId, id)));
    const source = (await readBlob(world.ctx, a!.sourceSha256!)).toString('utf8');
    expect(source).not.toContain('<text');
    expect(source).toMatch(/<path transform="translate\(20 60\)" d="M/);
    expect(a!.facts!.missingFonts).toBeUndefined();
    expect(b!.facts!.missingFonts).toEqual(['Quayside Grotesk']);
  });
});
