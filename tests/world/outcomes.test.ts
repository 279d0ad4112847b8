import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { parseVariantKey } from '@/core/catalog/blank';
import type { ListingForm } from '@/core/listing/form';
import type { Operation } from '@/core/document/patch';
import { emit } from '@/server/events/events';
import { forgetHere } from '@/server/listings/agreement';
import { listingsOf, requestRemoval } from '@/server/listings/listings';
import { requestSend } from '@/server/listings/request-send';
import { prepareListing } from '@/server/listings/prepare';
import { judge } from '@/server/outcomes/outcome';
import { judgeDue, judgeNewDay } from '@/server/outcomes/judge';
import { standingsOf } from '@/server/outcomes/read';
import type { Actor } from '@/server/people/people';
import { loadBundle } from '@/server/products/bundle';
import { patchProduct } from '@/server/products/patch';
import { findProduct, type Product } from '@/server/products/products';
import { archiveProduct, restoreProduct } from '@/server/products/shelving';
import { disconnectStore } from '@/server/stores/connect';
import { changeSettings } from '@/server/stores/settings';
import { standings } from '@/server/stores/standing';
import type { Store } from '@/server/stores/stores';
import { connectStore, makeActor, makeTee, makeWorld, runJobs, type World } from '../support/world';

let world: World;
let actor: Actor;
let store: Store;
let product: Product;
beforeAll(async () => {
  world = await makeWorld({ catalog: true });
  actor = await makeActor(world.ctx);
  store = await connectStore(world, actor);
  ({ product } = await makeTee(world.ctx, actor, 'Judged tee', ['coal']));
});
afterAll(() => world.close());

async function settle(): Promise<void> {
  while ((await judgeDue(world.ctx)) > 0);
}
const now = () => findProduct(world.ctx, actor.workspaceId, product.id);
const isDue = async () =>
  (await world.ctx.db.row('SELECT 1 AS one FROM judge_due WHERE product_id = ?', [product.id])) !== null;
const stored = () =>
  world.ctx.db.rows<{ state: string; broken: number; hereHash: string | null; lowMinor: number | null }>(
    'SELECT state, broken, here_hash AS hereHash, low_minor AS lowMinor FROM listing_outcome WHERE product_id = ?',
    [product.id],
  );
async function patch(operations: readonly Operation[]): Promise<void> {
  const { revision } = await now();
  await patchProduct(world.ctx, actor, product.id, revision, operations);
}
const retitle = (title: string) => patch([{ op: 'replace', path: '/words/base/title', value: title }]);
const standing = async () =>
  (await standingsOf(world.ctx, actor.workspaceId, [await now()], [store]))(product.id, store.id)[0]!;

describe('outcomes', () => {
  it('are stored once what they depend on has changed, and are what judging anew gives', async () => {
    expect(await isDue()).toBe(true);
    await settle();
    expect(await isDue()).toBe(false);
    const [fresh] = await judge(world.ctx, actor.workspaceId, [await now()], [store], { designs: true });
    expect(await stored()).toEqual([
      { state: 'not-listed', broken: 0, hereHash: fresh!.hereHash, lowMinor: fresh!.lowMinor },
    ]);
    expect(fresh!.hereHash).toMatch(/^[0-9a-f]{64}$/);
  });

  it('are never read old: what is marked is judged for the page', async () => {
    await retitle('x'.repeat(111));
    expect((await stored())[0]!.broken).toBe(0);
    const { broken, state } = await standing();
    expect([broken.map(({ id }) => id), state]).toEqual([['title'], 'not-listed']);
    await settle();
    expect(await stored()).toMatchObject([{ broken: 1 }]);
    await retitle('Judged tee');
    await settle();
    expect(await stored()).toMatchObject([{ broken: 0 }]);
  });

  it.each([
    ['money', {}],
    ['catalog', {}],
    ['sale', {}],
    ['store', {}],
  ] as const)('are marked for all products when %s changes', async (topic, payload) => {
    await settle();
    await emit(world.ctx.db, actor.workspaceId, topic, payload);
    expect(await isDue()).toBe(true);
  });

  it('are marked for what is concerned alone', async () => {
    await settle();
    const { workspaceId } = actor;
    await emit(world.ctx.db, workspaceId, 'job', { jobId: 'j' });
    await emit(world.ctx.db, workspaceId, 'product', { productId: 'another' });
    await emit(world.ctx.db, (await makeActor(world.ctx)).workspaceId, 'money', {});
    expect(await isDue()).toBe(false);
    const artworkId = Object.values((await now()).document.areas)
      .flatMap(({ layers }) => Object.values(layers))
      .flatMap((layer) => ('artworkId' in layer ? [layer.artworkId] : []))[0]!;
    await emit(world.ctx.db, workspaceId, 'artwork', { artworkId });
    expect(await isDue()).toBe(true);
  });

  it('follow a listing to the shop and back, also in the counts of its store', async () => {
    const counts = async () => (await standings(world.ctx, actor.workspaceId))(store.id).states;
    await settle();
    expect(await counts()).toEqual({ 'not-listed': 1 });
    const bundle = await loadBundle(world.ctx, actor.workspaceId, product.id);
    await requestSend(world.ctx, bundle, store, 'draft', { by: 'Nora' });
    expect([(await standing()).state, await counts()]).toEqual(['on-its-way', { 'not-listed': 0, 'on-its-way': 1 }]);
    await runJobs(world.ctx);
    await settle();
    expect([(await standing()).state, await counts()]).toEqual(['in-step', { 'in-step': 1 }]);
    await retitle('Judged tee, longer');
    await settle();
    expect(await standing()).toMatchObject({ state: 'ahead', changed: ['words'] });
    const [row] = await listingsOf(world.ctx.db, actor.workspaceId, [product.id]);
    await forgetHere(world.ctx, row!, store.name);
    await settle();
    expect((await standing()).state).toBe('not-listed');
  });

  it('follow the settings of their store: a rule for prices, and sizes under the description', async () => {
    await settle();
    const before = (await stored())[0]!;
    store = await changeSettings(world.ctx, store, { priceRule: { differencePpm: 250_000 }, sizesIn: 'both' });
    expect(await isDue()).toBe(true);
    await settle();
    const after = (await stored())[0]!;
    const all = await loadBundle(world.ctx, actor.workspaceId, product.id);
    const form = prepareListing(world.ctx, all, store).form!;
    const plain = prepareListing(world.ctx, all, { ...store, settings: { ...store.settings, priceRule: undefined } });
    expect(form.description).toMatch(/\n\nSizes, cm and inches/);
    expect(plain.hash).not.toBe(after.hereHash);
    expect(after.lowMinor).toBe(Math.min(...Object.values(form.variants).map(({ priceMinor }) => priceMinor)));
    expect(after.hereHash).not.toBe(before.hereHash);
    const bad = changeSettings(world.ctx, store, { priceRule: { differencePpm: 0.5, ending: 'x' } });
    await expect(bad).rejects.toMatchObject({ code: 'price-rule-invalid' });
    store = await changeSettings(world.ctx, store, { priceRule: null, sizesIn: null });
    await settle();
    expect(await stored()).toEqual([before]);
    expect(Object.keys(store.settings)).not.toContain('priceRule');
    const nothing = { expectedSales: null } as unknown as Parameters<typeof changeSettings>[2];
    expect((await changeSettings(world.ctx, store, nothing)).settings.expectedSales).toBe(store.settings.expectedSales);
  });

  it('leave out what a store does not sell, with its colors’ pictures', async () => {
    await settle();
    const { document } = await now();
    const [first] = Object.keys(document.variants);
    const bundle = async () => loadBundle(world.ctx, actor.workspaceId, product.id);
    const formOf = async () => prepareListing(world.ctx, await bundle(), store).form;
    const all = Object.keys((await formOf())!.variants).length;
    await patch([{ op: 'add', path: '/leftOut', value: { [store.id]: { [first!]: true } } }]);
    expect(Object.keys((await formOf())!.variants)).toHaveLength(all - 1);
    const none = Object.fromEntries(Object.keys(document.variants).map((key) => [key, true]));
    await patch([{ op: 'replace', path: `/leftOut/${store.id}`, value: none }]);
    await settle();
    expect(await stored()).toMatchObject([{ broken: 1, hereHash: null }]);
    await patch([{ op: 'remove', path: '/leftOut' }]);
    await settle();
    expect(Object.keys((await formOf())!.variants)).toHaveLength(all);
  });

  it('are one for each listing of a product in a store: sent, judged and counted by itself', async () => {
    const two = await makeTee(world.ctx, actor, 'Two listings', ['coal', 'kelp']);
    const { id } = two.product;
    const one = async () => findProduct(world.ctx, actor.workspaceId, id);
    const edit = async (operations: readonly Operation[]) =>
      patchProduct(world.ctx, actor, id, (await one()).revision, operations);
    const there = async () => (await standingsOf(world.ctx, actor.workspaceId, [await one()], [store]))(id, store.id);
    const listings = { '1': {}, '2': { values: { kelp: true }, title: 'Two listings, kelp' } };
    await edit([{ op: 'add', path: '/split', value: { [store.id]: { option: 'color', listings } } }]);
    await settle();
    const bundle = await loadBundle(world.ctx, actor.workspaceId, id);
    await Promise.all([1, 2].map((number) => requestSend(world.ctx, bundle, store, 'live', { number })));
    await runJobs(world.ctx);
    await settle();
    expect((await there()).map(({ number, state }) => [number, state])).toEqual([
      [1, 'in-step'],
      [2, 'in-step'],
    ]);
    const rows = await listingsOf(world.ctx.db, actor.workspaceId, [id]);
    const forms = rows.map(({ agreedForm }) => JSON.parse(agreedForm!) as ListingForm);
    const colorsOf = ({ variants }: ListingForm) => [
      ...new Set(Object.keys(variants).map((key) => parseVariantKey(key).color)),
    ];
    expect(Object.fromEntries(forms.map((form) => [form.title, colorsOf(form)]))).toEqual({
      'Two listings': ['coal'],
      'Two listings, kelp': ['kelp'],
    });
    expect(new Set(rows.map(({ externalId }) => externalId)).size).toBe(2);
    // Kelp goes into the first again: that is ahead, and the second has nothing to sell and is still in the shop.
    await edit([{ op: 'remove', path: '/split' }]);
    await settle();
    const [first, second] = await there();
    expect([first!.state, second!.state, second!.broken.map((rule) => rule.id)]).toEqual([
      'ahead',
      'ahead',
      ['left-over'],
    ]);
    await requestSend(world.ctx, await loadBundle(world.ctx, actor.workspaceId, id), store, 'live');
    await runJobs(world.ctx);
    // What the second shows no longer the first shows: no price went.
    await requestRemoval(
      world.ctx,
      rows.find(({ number }) => number === 2)!,
      store.name,
    );
    await runJobs(world.ctx);
    await settle();
    expect((await there()).map(({ number, state }) => [number, state])).toEqual([[1, 'in-step']]);
    const gone = await world.ctx.db.row("SELECT 1 AS one FROM shown_price WHERE product_id = ? AND causes = 'gone'", [
      id,
    ]);
    expect(gone).toBeNull();
    await archiveProduct(world.ctx, actor, id);
    await settle();
  });

  it('keep a mark that was set while they were judged', async () => {
    for (let i = 0; i < 8; i += 1) {
      await Promise.all([
        judgeDue(world.ctx),
        retitle(`Judged tee ${i} ${'x'.repeat(i % 2 ? 110 : 5)}`),
        judgeDue(world.ctx),
      ]);
      await settle();
      expect(await stored()).toMatchObject([{ broken: i % 2 }]);
    }
    expect(await isDue()).toBe(false);
  });

  it('have one writer: whose lease went to another keeps nothing', async () => {
    await retitle('Judged tee');
    await world.ctx.db.run(
      "UPDATE judge_due SET lease_token = 'another', lease_until = UTC_TIMESTAMP(3) + INTERVAL 60 SECOND",
    );
    expect(await judgeDue(world.ctx)).toBe(0);
    await world.ctx.db.run('UPDATE judge_due SET lease_until = UTC_TIMESTAMP(3) - INTERVAL 1 SECOND');
    expect(await judgeDue(world.ctx)).toBeGreaterThan(0);
  });

  it('are none for what left the range, and come back with it', async () => {
    await archiveProduct(world.ctx, actor, product.id);
    await settle();
    expect(await stored()).toEqual([]);
    await restoreProduct(world.ctx, actor, product.id);
    await settle();
    expect(await stored()).toHaveLength(1);
  });

  it('say in one broken rule what keeps a product from being judged, and hold up no other', async () => {
    const other = await makeTee(world.ctx, actor, 'Another', ['coal']);
    await world.ctx.db.run(
      "UPDATE price_list SET valid_from = '2099-01-01' WHERE partner_id = (SELECT id FROM partner WHERE code = 'millrace')",
    );
    await emit(world.ctx.db, actor.workspaceId, 'catalog', {});
    await settle();
    const rows = await world.ctx.db.rows<{ rules: string }>(
      'SELECT rules FROM listing_outcome WHERE workspace_id = ?',
      [actor.workspaceId],
    );
    expect(rows).toHaveLength(2);
    for (const { rules } of rows) expect(JSON.parse(rules)).toMatchObject([{ id: 'price-list-missing' }]);
    expect(other.product.id).not.toBe(product.id);
  });

  it('are judged anew on another day, and are gone with their store', async () => {
    await settle();
    await judgeNewDay(world.ctx);
    expect(await isDue()).toBe(false);
    await world.ctx.db.run('UPDATE listing_outcome SET judged_at = judged_at - INTERVAL 1 DAY');
    await judgeNewDay(world.ctx);
    expect(await isDue()).toBe(true);
    await changeSettings(world.ctx, store, { expectedSales: 3 });
    await disconnectStore(world.ctx, store);
    await settle();
    expect(await stored()).toEqual([]);
  });
});
