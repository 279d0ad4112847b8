import crypto from 'node:crypto';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { geometryIdFor } from '@/core/catalog/blank';
import { printedBox } from '@/core/geometry/area';
import { layerMatrix } from '@/core/geometry/fit';
import { apply } from '@/core/geometry/matrix';
import { planMockup } from '@/core/listing/pictures';
import type { ShotDocument, TracedMap } from '@/core/shot/shot';
import { planPrintFiles } from '@/core/print/plan';
import { uploadArtwork } from '@/server/artwork/artwork';
import { readBlob } from '@/server/blobs/blobs';
import { enqueue } from '@/server/jobs/jobs';
import type { Actor } from '@/server/people/people';
import { ensurePicture } from '@/server/pictures/pictures';
import { ensurePrintFile } from '@/server/prints/print-files';
import { loadBundle, loadDesign } from '@/server/products/bundle';
import { patchProduct } from '@/server/products/patch';
import { createProduct } from '@/server/products/products';
import {
  artworkFile,
  findBlank,
  jobOf,
  layerOf,
  makeActor,
  makeWorld,
  runJobs,
  streamOf,
  type World,
} from '../support/world';

let world: World;
let actor: Actor;
let dotId = '';

beforeAll(async () => {
  world = await makeWorld({ catalog: true });
  actor = await makeActor(world.ctx);
  // A black disc in the middle of a transparent square: its centroid is its place.
  const disc =
    '<svg xmlns="http://www.w3.org/2000/svg" width="400" height="400"><circle cx="200" cy="200" r="180" fill="#000"/></svg>';
  const png = await sharp(Buffer.from(disc)).png().toBuffer();
  dotId = (await uploadArtwork(world.ctx, actor, streamOf(png), 'disc.png')).id;
  await runJobs(world.ctx);
});
afterAll(() => world.close());

/** Across the disc in its square of 12 mm. */
const DISC_MM = 10.8;

/** A product with a disc in a square of 12 mm at each place on one area, for the sizes given. */
async function withDiscs(
  [partner, code]: readonly [partner: string, code: string],
  areaKey: string,
  variant: Record<string, string>,
  places: readonly (readonly [number, number])[],
) {
  const blank = await findBlank(world.ctx, partner, code);
  const area = blank.areas.find((a) => a.key === areaKey)!;
  const geometryId = geometryIdFor(area, variant)!;
  const product = await createProduct(world.ctx, actor, { blankId: blank.id });
  const layers = Object.fromEntries(
    places.map(([xMm, yMm], i) => [
      `d${i}`,
      { ...layerOf(dotId, geometryId, { xMm, yMm, widthMm: 12, rotationDeg: i * 20 }), order: `a${i}` },
    ]),
  );
  const key = blank.variants.find((v) =>
    Object.entries(variant).every(([code, value]) => v.values[code] === value),
  )!.key;
  await patchProduct(world.ctx, actor, product.id, 1, [
    { op: 'add', path: `/areas/${areaKey}`, value: { layers } },
    { op: 'add', path: `/variants/${key}`, value: {} },
  ]);
  return {
    bundle: await loadBundle(world.ctx, actor.workspaceId, product.id),
    blank,
    geometry: blank.geometries[geometryId]!,
    geometryId,
    area,
  };
}

/** Centroid of darkness in a window around a point, px with centers at +½. */
function centroid(
  gray: Uint8Array,
  width: number,
  weight: (value: number, i: number) => number,
  at: { x: number; y: number },
  radius: number,
) {
  let [sum, sx, sy] = [0, 0, 0];
  for (let y = Math.floor(at.y - radius); y <= at.y + radius; y += 1) {
    for (let x = Math.floor(at.x - radius); x <= at.x + radius; x += 1) {
      const w = weight(gray[y * width + x]!, y * width + x);
      sum += w;
      sx += w * (x + 0.5);
      sy += w * (y + 0.5);
    }
  }
  return { x: sx / sum, y: sy / sum };
}

const PLACES = [
  [40, 40],
  [152.5, 200],
  [250, 350],
  [60.7, 300.3],
] as const;

describe('print files', () => {
  it('are exactly mm × DPI, with alpha, density written (pHYs 11811 px/m, PNG third edition), and marks where the geometry says', async () => {
    const { bundle, geometry, geometryId } = await withDiscs(
      ['millrace', 'towpath-tee'],
      'main.front',
      { color: 'chalk', size: 'm' },
      PLACES,
    );
    const [plan] = planPrintFiles(bundle.product.document, bundle.blank, bundle.sources);
    const { sha256 } = await ensurePrintFile(world.ctx, actor, plan!);
    const bytes = await readBlob(world.ctx, sha256);
    // 305 × 406 mm at 300 DPI and 25.4 mm to the inch: 3602.4 × 4795.3
    expect(await sharp(bytes).metadata()).toMatchObject({
      width: 3602,
      height: 4795,
      hasAlpha: true,
      density: 300,
      format: 'png',
    });
    const pHYs = bytes.indexOf('pHYs');
    expect([bytes.readUInt32BE(pHYs + 4), bytes.readUInt32BE(pHYs + 8), bytes[pHYs + 12]]).toEqual([11811, 11811, 1]);
    const alpha = await sharp(bytes).extractChannel('alpha').raw().toBuffer();
    const scale = { x: 3602 / geometry.widthMm, y: 4795 / geometry.heightMm };
    for (const [i, layer] of Object.values(bundle.product.document.areas['main.front']!.layers).entries()) {
      const mm = apply(layerMatrix(layer, 1, geometryId, bundle.blank.geometries), { x: 0.5, y: 0.5 });
      expect([mm.x, mm.y]).toEqual([...PLACES[i]!].map((v) => expect.closeTo(v, 6)));
      const want = { x: mm.x * scale.x, y: mm.y * scale.y };
      const found = centroid(alpha, 3602, (v) => v, want, 90);
      expect(Math.hypot(found.x - want.x, found.y - want.y)).toBeLessThan(0.3);
    }
  }, 120_000);

  it('give the same bytes for the same input, in a job too, and are made once', async () => {
    const { bundle } = await withDiscs(['cinder-lane', 'galley-mug'], 'main.wrap', { size: '11oz' }, [[100, 42]]);
    const [plan] = planPrintFiles(bundle.product.document, bundle.blank, bundle.sources);
    const first = await ensurePrintFile(world.ctx, actor, plan!);
    await world.ctx.db.run('DELETE FROM rendering WHERE render_key = ?', [plan!.key]);
    const jobId = await enqueue(world.ctx.db, {
      workspaceId: actor.workspaceId,
      kind: 'make-print-files',
      title: 'x',
      payload: { productId: bundle.product.id },
    });
    await runJobs(world.ctx);
    expect(await jobOf(world.ctx, actor, jobId)).toMatchObject({ state: 'done', progressDone: 1, progressTotal: 1 });
    expect(await ensurePrintFile(world.ctx, actor, plan!)).toMatchObject({ sha256: first.sha256 });
    expect(
      crypto
        .createHash('sha256')
        .update(await readBlob(world.ctx, first.sha256))
        .digest('hex'),
    ).toBe(first.sha256);
  });

  it('are made although the partner has no price list in force; what costs is asked for its price', async () => {
    const { ctx } = world;
    const { product } = (await withDiscs(['cinder-lane', 'galley-mug'], 'main.wrap', { size: '11oz' }, [[60, 42]]))
      .bundle;
    await ctx.db.run('UPDATE price_list SET valid_from = valid_from + INTERVAL 900 YEAR WHERE workspace_id IS NULL');
    try {
      await expect(loadBundle(ctx, actor.workspaceId, product.id)).rejects.toMatchObject({
        code: 'price-list-missing',
      });
      const { document } = product;
      const { blank, sources } = await loadDesign(ctx, actor.workspaceId, product.id);
      const [plan] = planPrintFiles(document, blank, sources);
      const jobId = await enqueue(ctx.db, {
        workspaceId: actor.workspaceId,
        kind: 'make-print-files',
        title: 'Print files',
        payload: { productId: product.id },
      });
      await runJobs(ctx);
      expect(await jobOf(ctx, actor, jobId)).toMatchObject({ state: 'done', progressDone: 1 });
      expect(plan).toBeDefined();
    } finally {
      await ctx.db.run('UPDATE price_list SET valid_from = valid_from - INTERVAL 900 YEAR WHERE workspace_id IS NULL');
    }
  });

  it('of a poster hold the bleed, one for each size, and cover it where the fit is fill', async () => {
    const blank = await findBlank(world.ctx, 'oststern', 'river-poster');
    const area = blank.areas[0]!;
    const art = await sharp({ create: { width: 606, height: 852, channels: 3, background: '#246' } })
      .png()
      .toBuffer();
    const { id } = await uploadArtwork(world.ctx, actor, streamOf(art), 'full.png');
    await runJobs(world.ctx);
    const product = await createProduct(world.ctx, actor, { blankId: blank.id });
    await patchProduct(world.ctx, actor, product.id, 1, [
      {
        op: 'add',
        path: '/areas/main.sheet',
        value: {
          layers: {
            l: { ...layerOf(id, area.geometries[0]!.geometryId, { xMm: 105, yMm: 148.5, widthMm: 216 }), fit: 'fill' },
          },
        },
      },
      { op: 'replace', path: '/variants', value: Object.fromEntries(blank.variants.map((v) => [v.key, {}])) },
    ]);
    const bundle = await loadBundle(world.ctx, actor.workspaceId, product.id);
    const plans = planPrintFiles(bundle.product.document, bundle.blank, bundle.sources);
    // ISO 216 A4, A3 and A2, 18 × 24 in and 24 × 36 in, each with 3 mm of bleed on every side, at 300 DPI
    expect(plans.map((p) => [p.slug, p.widthPx, p.heightPx])).toEqual([
      ['sheet_a4', 2551, 3579],
      ['sheet_a3', 3579, 5031],
      ['sheet_a2', 5031, 7087],
      ['sheet_18x24', 5471, 7271],
      ['sheet_24x36', 7271, 10871],
    ]);
    const { sha256 } = await ensurePrintFile(world.ctx, actor, plans[3]!);
    const { channels } = await sharp(await readBlob(world.ctx, sha256)).stats();
    expect(channels[3]!.min).toBeGreaterThan(120);
    const box = printedBox(plans[0]!.sheet.geometry);
    expect(box).toEqual({ left: -3, top: -3, right: 213, bottom: 300 });
  }, 120_000);

  it('of a poster from a vector are all made in one job: no sheet’s pixels are still held when the next is drawn', async () => {
    const blank = await findBlank(world.ctx, 'oststern', 'river-poster');
    const area = blank.areas[0]!;
    const { id } = await uploadArtwork(world.ctx, actor, streamOf(artworkFile('river-chart')), 'river.svg');
    await runJobs(world.ctx);
    const product = await createProduct(world.ctx, actor, { blankId: blank.id });
    const layer = layerOf(id, area.geometries[0]!.geometryId, { xMm: 105, yMm: 148.5, widthMm: 216 });
    await patchProduct(world.ctx, actor, product.id, 1, [
      { op: 'add', path: '/areas/main.sheet', value: { layers: { l: { ...layer, fit: 'fill' } } } },
      { op: 'replace', path: '/variants', value: Object.fromEntries(blank.variants.map((v) => [v.key, {}])) },
    ]);
    const jobId = await enqueue(world.ctx.db, {
      workspaceId: actor.workspaceId,
      kind: 'make-print-files',
      title: 'x',
      payload: { productId: product.id },
    });
    await runJobs(world.ctx);
    expect(await jobOf(world.ctx, actor, jobId)).toMatchObject({ state: 'done', progressDone: 5 });
  }, 120_000);
});

describe('mock-ups', () => {
  it.each([
    [['millrace', 'towpath-tee'], 'main.front', { color: 'chalk', size: 'm' }, PLACES],
    [
      ['oststern', 'river-poster'],
      'main.sheet',
      { size: 'a3' },
      [
        [40, 40],
        [148.5, 210],
        [250, 380],
      ] as const,
    ],
  ])(
    'of %s show marks within a pixel of where the shot’s map says the print file has them',
    async (blank, areaKey, variant, places) => {
      const { bundle } = await withDiscs(blank as [string, string], areaKey, variant, places);
      const shot = bundle.shots.find((s) => s.document.areas[areaKey])!;
      const color = 'color' in variant ? String(variant.color) : null;
      const plan = planMockup(bundle.product.document, bundle.blank, shot, color, bundle.sources)!;
      const bare = planMockup({ ...bundle.product.document, areas: {} }, bundle.blank, shot, color, bundle.sources)!;
      const pixels = async (p: typeof plan) => {
        const { sha256, widthPx } = await ensurePicture(world.ctx, actor, p, 'full');
        return {
          data: await sharp(await readBlob(world.ctx, sha256))
            .toColourspace('b-w')
            .raw()
            .toBuffer(),
          widthPx,
        };
      };
      const [printed, empty] = [await pixels(plan), await pixels(bare)];
      const flat = shot.document.areas[areaKey]!.flat!;
      for (const [xMm, yMm] of places) {
        // The straight part of the map; folds bend it by up to a millimeter, which the map itself then says.
        const guess = { x: (xMm - flat.e) / flat.a, y: (yMm - flat.f) / flat.d };
        const want = await mapped(shot.id, shot.document, areaKey, xMm, yMm, guess, DISC_MM / 2, flat.a);
        const found = centroid(
          printed.data,
          printed.widthPx,
          (v, i) => Math.max(0, empty.data[i]! - v),
          want,
          14 / flat.a,
        );
        expect(Math.hypot(found.x - want.x, found.y - want.y)).toBeLessThan(1);
      }
    },
    120_000,
  );
});

/** Where a disc of `radiusMm` around a place in mm is seen, its centroid: by the shot's own map, read apart from the kernel. Over folds that is not where its middle is seen. */
async function mapped(
  shotId: string,
  { areas }: ShotDocument,
  areaKey: string,
  xMm: number,
  yMm: number,
  guess: { x: number; y: number },
  radiusMm: number,
  mmPerPx: number,
) {
  const map = areas[areaKey]!.map as TracedMap;
  const { leftPx, topPx, widthPx } = map.window!;
  const pass = await world.ctx.db.row<{ sha256: string }>(
    'SELECT sha256 FROM shot_pass WHERE shot_id = ? AND file = ?',
    [shotId, map.file],
  );
  const raw = await sharp(await readBlob(world.ctx, pass!.sha256))
    .toColourspace('rgb16')
    .raw({ depth: 'ushort' })
    .toBuffer();
  const values = new Uint16Array(raw.buffer.slice(raw.byteOffset, raw.byteOffset + raw.byteLength));
  const mm = (value: number, [from, to]: readonly [number, number]) => from + (value / 65535) * (to - from);
  let [sum, sx, sy] = [0, 0, 0];
  const reach = Math.ceil(radiusMm / mmPerPx) + 30;
  for (let y = Math.floor(guess.y) - reach; y < guess.y + reach; y += 1) {
    for (let x = Math.floor(guess.x) - reach; x < guess.x + reach; x += 1) {
      const i = ((y - topPx) * widthPx + x - leftPx) * 3;
      const away = Math.hypot(mm(values[i]!, map.uMm) - xMm, mm(values[i + 1]!, map.vMm) - yMm);
      const share = Math.min(1, Math.max(0, (radiusMm - away) / mmPerPx + 0.5));
      sum += share;
      sx += share * (x + 0.5);
      sy += share * (y + 0.5);
    }
  }
  return { x: sx / sum, y: sy / sum };
}
