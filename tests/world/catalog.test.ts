import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import sharp from 'sharp';
import { isTypicaError } from '@/core/errors';
import { variantKey } from '@/core/catalog/blank';
import { templateSvg } from '@/core/catalog/template';
import { planPrintFiles } from '@/core/print/plan';
import { matchSkus } from '@/core/variants/match';
import { uploadArtwork } from '@/server/artwork/artwork';
import { compareOffers } from '@/server/catalog/compare';
import type { PartnerCatalog } from '@/core/partner-file/partner-catalog';
import { importCatalog } from '@/server/catalog/import';
import { loadOffers } from '@/server/catalog/kept-offers';
import { csvBytes } from '@/server/csv/body';
import { readSoldItems } from '@/server/catalog/sold-items';
import { templatePng } from '@/server/images/template';
import { loadBundle } from '@/server/products/bundle';
import { patchProduct } from '@/server/products/patch';
import { createProduct } from '@/server/products/products';
import { usesOf } from '@/server/products/used-by';
import { loadCatalog, readPartnerCatalog } from '../../demo/catalog';
import {
  artworkFile,
  findBlank,
  layerOf,
  makeActor,
  makeWorld,
  runJobs,
  SHOTS,
  streamOf,
  type World,
  blankIds,
} from '../support/world';

let world: World;
let millrace: PartnerCatalog;
const demo = path.resolve(import.meta.dirname, '../../demo');
beforeAll(async () => {
  world = await makeWorld({ catalog: true });
  millrace = await readPartnerCatalog(path.join(demo, 'catalog/millrace'));
});
afterAll(() => world.close());
const noShots = async () => {
  throw new Error('no shot is read here');
};
const tee = async (workspaceId: string) => {
  const offers = await loadOffers(world.ctx, workspaceId, await blankIds(world.ctx));
  const { blank, list } = offers.find((o) => o.blank.code === 'towpath-tee' && o.blank.partner.code === 'millrace')!;
  return { blank, list: list! };
};

describe('the catalog', () => {
  it('loads twice without a second of anything', async () => {
    const count = async () =>
      world.ctx.db.rows(
        'SELECT (SELECT COUNT(*) FROM blank) b, (SELECT COUNT(*) FROM price_list) p, (SELECT COUNT(*) FROM geometry) g, (SELECT COUNT(*) FROM shot) s, (SELECT COUNT(*) FROM blank_variant) v',
      );
    const before = await count();
    await loadCatalog(world.ctx, demo, SHOTS);
    expect(await count()).toEqual(before);
    expect(before).toMatchObject([{ b: 21, p: 3, s: 11 }]);
  });

  it('chooses geometry and cost by option values, and knows what is out of stock', async () => {
    const { blank, list } = await tee((await makeActor(world.ctx)).workspaceId);
    const key = (color: string, size: string) => variantKey({ color, size });
    expect(list.baseCostMinor[key('chalk', 'm')]).toBe(690);
    expect(list.baseCostMinor[key('coal', 'xxl')]).toBe(890);
    expect(blank.variants.find((v) => v.key === key('kelp', 'xxl'))!.inStock).toBe(false);
    expect(blank.areas[0]!.geometries.map((g) => blank.geometries[g.geometryId]!.widthMm)).toEqual([305, 356]);
    expect(blank.variants.find((v) => v.key === key('coal', 'm'))!.partnerSku).toBe('MW-TOWPATHTEE-COAL-M');
  });

  it('takes a newer price list from its date on, and a workspace’s own over it, for that workspace alone', async () => {
    const [one, two] = [await makeActor(world.ctx), await makeActor(world.ctx)];
    const dearer = (validFrom: string, by: number): PartnerCatalog => ({
      ...millrace,
      validFrom,
      blanks: millrace.blanks.map((b) => ({
        ...b,
        shots: [],
        costs: b.costs.map((c) => ({ ...c, costMinor: c.costMinor + by })),
      })),
    });
    await importCatalog(world.ctx, dearer('2026-11-01', 50), noShots);
    await importCatalog(world.ctx, dearer('2099-01-01', 900), noShots);
    const m = variantKey({ color: 'coal', size: 'm' });
    expect((await tee(one.workspaceId)).list).toMatchObject({ validFrom: '2026-11-01', baseCostMinor: { [m]: 790 } });
    const { blank, list } = await tee(one.workspaceId);
    await world.ctx.db.run(
      "INSERT INTO price_list (id, partner_id, workspace_id, currency, valid_from) VALUES ('x-own', ?, ?, 'GBP', '2026-01-01')",
      [blank.partner.id, one.workspaceId],
    );
    await world.ctx.db.run(
      "INSERT INTO price_list_variant (price_list_id, blank_id, variant_key, base_cost_minor) SELECT 'x-own', blank_id, variant_key, 600 FROM price_list_variant WHERE price_list_id = ? AND blank_id = ?",
      [list.id, blank.id],
    );
    expect((await tee(one.workspaceId)).list.baseCostMinor[m]).toBe(600);
    expect((await tee(two.workspaceId)).list.baseCostMinor[m]).toBe(790);
    // Up and down again on one day: the last word holds, and saying it twice changes nothing.
    await importCatalog(world.ctx, dearer('2026-11-01', 80), noShots);
    expect((await tee(two.workspaceId)).list.baseCostMinor[m]).toBe(820);
    await importCatalog(world.ctx, dearer('2026-11-01', 50), noShots);
    const { list: again } = await tee(two.workspaceId);
    expect(again.baseCostMinor[m]).toBe(790);
    await importCatalog(world.ctx, dearer('2026-11-01', 50), noShots);
    expect((await tee(two.workspaceId)).list.id).toBe(again.id);
  });

  it('refuses a geometry that cannot be printed, before anything is written', async () => {
    const [first, ...rest] = millrace.blanks;
    const [name, geometry] = Object.entries(first!.geometries)[0]!;
    const flat = {
      ...millrace,
      blanks: [{ ...first!, geometries: { ...first!.geometries, [name]: { ...geometry, widthMm: 0 } } }, ...rest],
    };
    await expect(importCatalog(world.ctx, flat, noShots)).rejects.toSatisfy((e) =>
      isTypicaError(e, 'geometry-invalid'),
    );
  });
});

describe('the demo’s catalog', () => {
  it('has full data for every blank: sizes, weights, stock, colors, costs, shipping, a guide where there are sizes', async () => {
    const actor = await makeActor(world.ctx);
    const offers = await loadOffers(world.ctx, actor.workspaceId, await blankIds(world.ctx));
    for (const { blank, list } of offers) {
      const name = `${blank.name}, ${blank.partner.name}`;
      expect(blank.description.length, name).toBeGreaterThan(40);
      expect(blank.facts.Care, name).toBeTruthy();
      expect(blank.material, name).toBeTruthy();
      expect(blank.areas.length, name).toBeGreaterThan(0);
      const colors = blank.options.find((option) => option.values.some((value) => value.hex));
      if (colors) {
        expect(colors.values.length, name).toBeGreaterThanOrEqual(4);
        expect(colors.values.length, name).toBeLessThanOrEqual(14);
      }
      if (blank.options.some((option) => option.code === 'size')) expect(blank.sizeGuide, name).not.toBeNull();
      for (const variant of blank.variants) {
        expect(variant.packWeightG, `${name} ${variant.key}`).toBeGreaterThan(5);
        expect(variant.partnerSku, name).toMatch(/^(MW|CL|OS)-/);
        expect(list!.baseCostMinor[variant.key], `${name} ${variant.key}`).toBeGreaterThan(100);
      }
      for (const line of list!.shipping) expect(line.furtherMinor, name).toBeLessThan(line.firstMinor);
      expect(
        list!.shipping.some((line) => line.countries.includes('*')),
        name,
      ).toBe(true);
    }
  });

  it('offers some goods at two partners, at different costs', async () => {
    const goods = await world.ctx.db.rows<{ code: string; partners: number }>(
      'SELECT g.code, COUNT(DISTINCT b.partner_id) AS partners FROM good g JOIN blank b ON b.good_id = g.id GROUP BY g.id HAVING partners > 1 ORDER BY g.code',
    );
    expect(goods.map((good) => good.code)).toEqual([
      'galley-mug',
      'landing-tote',
      'river-poster',
      'slipway-hoodie',
      'towpath-tee',
    ]);
  });

  it('sells a gift set as one thing: variants from the choices of its pieces, files of their own for each', async () => {
    const actor = await makeActor(world.ctx);
    const set = await findBlank(world.ctx, 'oststern', 'dawn-outing-set');
    expect(set.pieces.map((piece) => piece.code)).toEqual(['cup', 'towel', 'stickers']);
    expect(set.options.map((option) => [option.pieceCode, option.values.length])).toEqual([
      ['cup', 4],
      ['towel', 2],
    ]);
    expect(set.variants).toHaveLength(8);
    const artwork = await uploadArtwork(world.ctx, actor, streamOf(artworkFile('tideline')), 'Tideline.svg');
    await runJobs(world.ctx);
    const product = await createProduct(world.ctx, actor, {
      blankId: set.id,
      variants: set.variants.map(({ key }) => ({ key })),
    });
    const layers = set.areas.map((area) => ({
      op: 'add' as const,
      path: `/areas/${area.key}`,
      value: {
        layers: { wave: layerOf(artwork.id, area.geometries[0]!.geometryId, { xMm: 50, yMm: 35, widthMm: 60 }) },
      },
    }));
    await patchProduct(world.ctx, actor, product.id, 1, layers);
    const bundle = await loadBundle(world.ctx, actor.workspaceId, product.id);
    const files = planPrintFiles(bundle.product.document, bundle.blank, bundle.sources);
    expect(files.map((file) => [file.slug, file.variantKeys.length])).toEqual([
      ['cup-wrap', 8],
      ['towel-face', 8],
      ['stickers-sheet', 8],
    ]);
    // 190 × 70 mm at 300 DPI, 460 × 660 mm at 150 DPI, and ISO 216 A6 with 2 mm of bleed at 300 DPI
    expect(files.map((file) => [file.widthPx, file.heightPx])).toEqual([
      [2244, 827],
      [2717, 3898],
      [1287, 1795],
    ]);
    expect(bundle.list.baseCostMinor['cup-color=coal;towel-weave=waffle']).toBe(2050);
  });
});

describe('templates', () => {
  it('are PNG at the pixel size of the print file, with its density written and see-through', async () => {
    const poster = await findBlank(world.ctx, 'oststern', 'river-poster');
    const a4 = poster.geometries[poster.areas[0]!.geometries[0]!.geometryId]!;
    const png = await templatePng(templateSvg(a4, 'A4'), a4.dpi);
    const { width, height, density, hasAlpha } = await sharp(png).metadata();
    // ISO 216 A4 with 3 mm of bleed on each side, 216 × 303 mm, at 300 DPI
    expect({ width, height, density, hasAlpha }).toEqual({ width: 2551, height: 3579, density: 300, hasAlpha: true });
    const { channels } = await sharp(png).ensureAlpha().stats();
    expect(channels[3]!.min).toBe(0);
    expect(channels[3]!.mean).toBeLessThan(10);
  });
});

describe('comparing', () => {
  it('puts a good of two partners side by side, to three destinations, the seller’s own first', async () => {
    const actor = await makeActor(world.ctx);
    const [one, two] = [
      await findBlank(world.ctx, 'oststern', 'galley-mug'),
      await findBlank(world.ctx, 'cinder-lane', 'galley-mug'),
    ];
    const compared = await compareOffers(world.ctx, actor, [one.id, two.id, one.id], ['US'], 2);
    expect(compared.destinations).toEqual(['US', 'GB', 'DE']);
    expect(compared.blanks.map((blank) => blank.partner)).toEqual(['Oststern', 'Cinder Lane']);
    expect(compared.sections.map((section) => section.title)).toContain('Landed cost of 2 in a parcel, 11 oz');
    await expect(compareOffers(world.ctx, actor, [], [], 1)).rejects.toSatisfy((e) =>
      isTypicaError(e, 'compare-empty'),
    );
    await expect(compareOffers(world.ctx, actor, ['b-none'], [], 1)).rejects.toSatisfy((e) =>
      isTypicaError(e, 'not-found'),
    );
    await expect(compareOffers(world.ctx, actor, [one.id], ['Mars'], 1)).rejects.toSatisfy((e) =>
      isTypicaError(e, 'destination-wrong'),
    );
  });
});

describe('what is sold elsewhere', () => {
  it('comes in as CSV, all its faults told at once', async () => {
    const items = await readSoldItems(Buffer.from('sku,title,price\r\nA-1,"Crest tee, Coal, M",21.50\r\n'), 'GBP');
    expect(items).toEqual([{ line: 2, sku: 'A-1', text: 'Crest tee, Coal, M', priceMinor: 2150 }]);
    const wrong = await readSoldItems(Buffer.from('sku,title,price\nA,x,-1\n,y,3\nA,z,4\n'), 'GBP').catch(
      (e: unknown) => e,
    );
    expect(isTypicaError(wrong, 'csv-faulty')).toBe(true);
    expect((wrong as { fields: { faults: { line: number }[] } }).fields.faults.map((fault) => fault.line)).toEqual([
      2, 3, 4,
    ]);
    for (const [text, code] of [
      ['', 'csv-empty'],
      ['sku,title\n', 'csv-empty'],
    ] as const)
      await expect(readSoldItems(Buffer.from(text), 'GBP'), code).rejects.toSatisfy((e) => isTypicaError(e, code));
    await expect(csvBytes(streamOf('x'.repeat(5_500_000)), 5)).rejects.toSatisfy((e) =>
      isTypicaError(e, 'csv-too-large'),
    );
  });

  it('is not read on when it is all wrong', async () => {
    const wrong = await readSoldItems(Buffer.from(`sku,title\n${',\n'.repeat(500_000)}`), 'GBP').catch(
      (e: unknown) => e,
    );
    const { faults } = (wrong as { fields: { faults: { code: string }[] } }).fields;
    expect(faults).toHaveLength(201);
    expect(faults.at(-1)!.code).toBe('csv-many-faults');
  });

  it('becomes a product without artwork that keeps SKUs and prices', async () => {
    const actor = await makeActor(world.ctx);
    const blank = await findBlank(world.ctx, 'millrace', 'towpath-tee');
    const [match] = matchSkus(blank, [{ line: 2, sku: 'OLD-7', text: 'Crest tee, coal, medium', priceMinor: 2150 }]);
    const { document } = await createProduct(world.ctx, actor, {
      blankId: blank.id,
      title: 'Crest tee',
      variants: [{ key: match!.variantKey!, sku: match!.sku, retailMinor: match!.priceMinor! }],
    });
    expect(document).toMatchObject({
      areas: {},
      variants: { 'color=coal;size=m': { sku: 'OLD-7' } },
      price: { base: { variants: { 'color=coal;size=m': { kind: 'retail', amountMinor: 2150 } } } },
    });
    expect(await usesOf(world.ctx, actor.workspaceId, blank)).toMatchObject([
      { title: 'Crest tee', variants: 1, troubles: [] },
    ]);
    const [m, l] = ['color=coal;size=m', 'color=coal;size=l'];
    for (const [variants, code] of [
      [[{ key: 'color=none;size=m' }], 'variant-unknown'],
      [[{ key: m }, { key: m }], 'variant-twice'],
      [
        [
          { key: m, sku: 'X' },
          { key: l, sku: 'X' },
        ],
        'sku-twice',
      ],
    ] as const)
      await expect(createProduct(world.ctx, actor, { blankId: blank.id, variants }), code).rejects.toSatisfy((e) =>
        isTypicaError(e, code),
      );
  });
});
