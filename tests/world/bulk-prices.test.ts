import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { diff } from '@/core/document/patch';
import { setAims } from '@/core/pricing/fixing';
import { dropOldRows } from '@/server/chores/spans';
import type { Actor } from '@/server/people/people';
import { listBatches, undoBulk } from '@/server/pricing/bulk';
import { applyAllPrices, applyRule, exportAllPrices, previewAllPrices, previewRule } from '@/server/pricing/bulk-tasks';
import { saveRule } from '@/server/pricing/rules';
import { patchProduct } from '@/server/products/patch';
import { createProduct, findProduct, type Product } from '@/server/products/products';
import { connectStore, findBlank, makeActor, makeTee, makeWorld, type World } from '../support/world';

let world: World;
let actor: Actor;
let tee: Product;
let mug: Product;
const KEY = 'color=coal;size=m';
beforeAll(async () => {
  world = await makeWorld({ catalog: true });
  actor = await makeActor(world.ctx);
  await connectStore(world, actor);
  ({ product: tee } = await makeTee(world.ctx, actor, 'First, “tee”', ['coal']));
  const blank = await findBlank(world.ctx, 'cinder-lane', 'galley-mug');
  mug = await createProduct(world.ctx, actor, {
    blankId: blank.id,
    title: '=SUM(A1) mug',
    variants: blank.variants.slice(0, 2).map(({ key }) => ({ key })),
  });
});
afterAll(() => world.close());

const now = (product: Product) => findProduct(world.ctx, actor.workspaceId, product.id);
const preview = (text: string) =>
  previewAllPrices(world.ctx, { workspaceId: actor.workspaceId, csv: Buffer.from(text) });
const apply = (text: string) => applyAllPrices(world.ctx, { actor, csv: Buffer.from(text) });
const aimOf = async (product: Product, key: string) => (await now(product)).document.price.base.variants[key];
const thrown = (work: Promise<unknown>) => work.then(() => null).catch((error: { code: string }) => error.code);

describe('prices of all products as a file', () => {
  it('go out and come in again without a change', async () => {
    const csv = await exportAllPrices(world.ctx, { workspaceId: actor.workspaceId, of: { kinds: [], tags: [] } });
    const lines = csv.trimEnd().split('\r\n');
    expect(lines[0]).toBe('product,title,variant,sku,name,store,currency,cost,left,price,profit,margin,markup');
    // Seven sizes of the tee and two mugs, for all stores and for the one.
    expect(lines).toHaveLength(1 + 2 * (7 + 2));
    expect(csv).toContain(`${mug.id},'=SUM(A1) mug,`);
    const none = { workspaceId: actor.workspaceId, of: { kinds: ['No such kind'], tags: [] } };
    expect((await exportAllPrices(world.ctx, none)).trimEnd().split('\r\n')).toHaveLength(1);
    expect(await preview(csv)).toMatchObject({ products: 0, changes: 0, faults: [], same: 18, lines: [] });
  });

  it('are told before they are taken: before and after, what is left, and what loses money', async () => {
    const told = await preview(
      `product,variant,price\n${tee.id},${KEY},20.00\n${mug.id},${Object.keys(mug.document.variants)[0]},0.50\n`,
    );
    expect(told).toMatchObject({ products: 2, changes: 2, faults: [] });
    const [base] = told.lines.filter(({ productId, storeId }) => productId === tee.id && storeId === null);
    expect(base).toMatchObject({ variants: 1, then: [2000, 2000], losing: 0, currency: 'GBP' });
    expect(told.losing).toBeGreaterThan(0);
    expect((await now(tee)).revision).toBe(tee.revision);
  });

  it('are taken all or not at all, with faults by line', async () => {
    const bad = `product,variant,price\n${tee.id},${KEY},20.00\nnobody,${KEY},20.00\n${mug.id},no such,1\n${tee.id},${KEY},21.00\n`;
    expect((await preview(bad)).faults.map(({ line, code }) => [line, code])).toEqual([
      [3, 'csv-product-unknown'],
      [4, 'csv-variant-unknown'],
      [5, 'csv-variant-twice'],
    ]);
    expect(await thrown(apply(bad))).toBe('sheet-faulty');
    // A margin that no price meets is a fault of its line, not a product without a price.
    const impossible = await preview(`product,variant,store,margin\n${tee.id},${KEY},Brackwater Boathouse,99\n`);
    expect(impossible.faults[0]?.code ?? '').toMatch(/aim-impossible|csv-store-unknown/);
    expect((await now(tee)).revision).toBe(tee.revision);
    const stranger = await makeActor(world.ctx);
    const theirs = await previewAllPrices(world.ctx, {
      workspaceId: stranger.workspaceId,
      csv: Buffer.from(`product,variant,price\n${tee.id},${KEY},20.00\n`),
    });
    expect(theirs.faults).toMatchObject([{ code: 'csv-product-unknown' }]);
  });

  it('are one step that is undone whole, unless a price was changed since', async () => {
    const first = Object.keys(mug.document.variants)[0]!;
    const text = `product,variant,price\n${tee.id},${KEY},20.00\n${mug.id},${first},15.00\n`;
    const { batchId, products } = await apply(text);
    expect(products).toBe(2);
    expect([await aimOf(tee, KEY), await aimOf(mug, first)]).toEqual([
      { kind: 'retail', amountMinor: 2000 },
      { kind: 'retail', amountMinor: 1500 },
    ]);
    expect(await thrown(apply(text))).toBe('sheet-empty');
    const { document, revision } = await now(mug);
    const changed = setAims(document, null, [first], { kind: 'retail', amountMinor: 1600 });
    const { revision: next } = await patchProduct(world.ctx, actor, mug.id, revision, diff(document, changed));
    expect(await thrown(undoBulk(world.ctx, actor, batchId))).toBe('bulk-changed-since');
    expect(await aimOf(tee, KEY)).toEqual({ kind: 'retail', amountMinor: 2000 });
    await patchProduct(world.ctx, actor, mug.id, next, diff(changed, document));
    const stranger = await makeActor(world.ctx);
    expect(await thrown(undoBulk(world.ctx, stranger, batchId))).toBe('not-found');
    await undoBulk(world.ctx, actor, batchId);
    await undoBulk(world.ctx, actor, batchId);
    expect([await aimOf(tee, KEY), await aimOf(mug, first)]).toEqual([undefined, undefined]);
    expect((await listBatches(world.ctx, actor.workspaceId))[0]).toMatchObject({ products: 2, by: actor.personName });
  });
});

describe('a price rule', () => {
  it('is put to all products of a kind, or with a tag, with the same look and the same undo', async () => {
    const rule = await saveRule(world.ctx, actor, {
      name: 'Half',
      rule: { aim: { kind: 'margin', ppm: 500_000 }, ending: '.99', shipping: 'charged', differences: {} },
      forNew: false,
    });
    const kind = (await world.ctx.db.row<{ kind: string }>(
      'SELECT g.kind FROM blank b JOIN good g ON g.id = b.good_id WHERE b.id = ?',
      [mug.blankId],
    ))!.kind;
    const to = { ruleId: rule.id, kinds: [kind], tags: [] };
    const told = await previewRule(world.ctx, { workspaceId: actor.workspaceId, to });
    expect(told.products).toBe(1);
    expect(new Set(told.lines.map(({ productId }) => productId))).toEqual(new Set([mug.id]));
    const { batchId } = await applyRule(world.ctx, { actor, to });
    expect((await now(mug)).document.price.base.aim).toEqual({ kind: 'margin', ppm: 500_000 });
    expect((await now(tee)).document.price.base.aim).not.toEqual({ kind: 'margin', ppm: 500_000 });
    expect(await thrown(applyRule(world.ctx, { actor, to }))).toBe('bulk-empty');
    await undoBulk(world.ctx, actor, batchId);
    expect((await now(mug)).document.price).toEqual(mug.document.price);
  });
});

describe('what could be undone', () => {
  it('goes after half a year, with the prices of its products, and nothing younger does', async () => {
    const { db } = world.ctx;
    const first = Object.keys(mug.document.variants)[0]!;
    const { batchId: old } = await apply(`product,variant,price\n${mug.id},${first},15.00\n`);
    const { batchId: young } = await apply(`product,variant,price\n${mug.id},${first},16.00\n`);
    const past = 'UPDATE price_batch SET made_at = UTC_TIMESTAMP(3) - INTERVAL ? DAY WHERE id = ?';
    await db.run(past, [181, old]);
    await db.run(past, [179, young]);
    await dropOldRows(world.ctx);
    const left = async (batchId: string): Promise<number> =>
      (await db.rows('SELECT product_id FROM price_batch_product WHERE batch_id = ?', [batchId])).length;
    expect([await left(old), await left(young)]).toEqual([0, 1]);
    expect(await thrown(undoBulk(world.ctx, actor, old))).toBe('not-found');
    await undoBulk(world.ctx, actor, young);
  });
});
