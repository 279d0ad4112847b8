import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import type { StandingRules } from '@/core/sync/standing-rules';
import { listingHistory, prepareListed, requestCheck, standingOf } from '@/server/listings/listings';
import { changedThere } from '@/server/listings/changed-there';
import { requestSettleMany } from '@/server/listings/settle-many.job';
import { listingAt } from '@/server/listings/place';
import { requestSend } from '@/server/listings/request-send';
import { differencesOf, settle, settleAll, type Settlement, type Settles } from '@/server/listings/settle';
import type { Actor } from '@/server/people/people';
import { loadBundle } from '@/server/products/bundle';
import { patchProduct } from '@/server/products/patch';
import { findProduct, type Product } from '@/server/products/products';
import { changeSettings } from '@/server/stores/settings';
import type { Store } from '@/server/stores/stores';
import { codeOf, connectStore, jobOf, makeActor, makeTee, makeWorld, runJobs, type World } from '../support/world';

let world: World;
let actor: Actor;
let store: Store;
let product: Product;

beforeAll(async () => {
  world = await makeWorld({ catalog: true });
  actor = await makeActor(world.ctx);
  store = await connectStore(world, actor);
});
afterAll(() => world.close());
const listOne = async () => {
  ({ product } = await makeTee(world.ctx, actor));
  await send();
};

const bundleNow = () => loadBundle(world.ctx, actor.workspaceId, product.id);
const rowNow = async () => (await listingAt(world.ctx, actor.workspaceId, product.id, store.id, 1))!;
async function send(seenHash?: string): Promise<void> {
  await requestSend(world.ctx, await bundleNow(), store, 'live', { seenHash });
  await runJobs(world.ctx);
}
type Article = ReturnType<World['shop']['world']['articles']['all']>[number];
/** Somebody changes the listing in the shop, and it is looked at. */
async function changeThere(change: (article: Article) => Partial<Article>): Promise<void> {
  const { articles } = world.shop.world;
  const row = await rowNow();
  const article = articles.get(row.externalId!)!;
  articles.put(article.id, { ...article, ...change(article) });
  await requestCheck(world.ctx, row, store.name);
  await runJobs(world.ctx);
}
const there = async () => world.shop.world.articles.get((await rowNow()).externalId!)!;
async function now() {
  const [bundle, row] = [await bundleNow(), await rowNow()];
  const prepared = prepareListed(world.ctx, bundle, store, row);
  return {
    state: standingOf(row, prepared),
    form: prepared.form!,
    differences: differencesOf(row, prepared.form),
    row,
  };
}
const decide = async (settles: Settles, over: Partial<Settlement> = {}) => {
  const [bundle, row] = [await bundleNow(), await rowNow()];
  return settle(world.ctx, actor, bundle, store, row, { settles, where: 'store', thereHash: row.thereHash!, ...over });
};
const rename = async (title: string) => {
  const { revision } = await findProduct(world.ctx, actor.workspaceId, product.id);
  const change = [{ op: 'replace' as const, path: '/words/base/title', value: title }];
  await patchProduct(world.ctx, actor, product.id, revision, change);
};
const dearer = ({ variants }: Article) =>
  variants.map((one, i) => (i === 0 ? { ...one, priceMinor: one.priceMinor + 111 } : one));

describe('what was changed in the shop', () => {
  beforeEach(listOne);

  it('is taken into the product for that store alone, in one revision, and nothing is sent', async () => {
    await changeThere((article) => ({
      title: 'Named there',
      tags: [...article.tags, 'from there'],
      variants: dearer(article),
    }));
    const before = await now();
    expect(before.state).toBe('behind');
    const asThere = await there();
    const { revision, fields } = await decide(() => 'theirs');
    expect(fields).toHaveLength(before.differences.length);
    const after = await now();
    expect([after.state, after.differences]).toEqual(['in-step', []]);
    expect(after.form).toMatchObject({ title: 'Named there' });
    expect(await there()).toEqual(asThere);
    const kept = await findProduct(world.ctx, actor.workspaceId, product.id);
    expect(kept.revision).toBe(revision);
    expect([kept.title, kept.document.words.stores[store.id]!.title]).toEqual([product.title, 'Named there']);
    // What follows from a title stays as the shop has it.
    expect(after.form.pageAddress).toBe(before.form.pageAddress);
    expect(kept.document.price.base).toEqual(product.document.price.base);
    const [line] = await listingHistory(world.ctx, actor.workspaceId, after.row.id);
    expect(line).toMatchObject({ what: 'settled', by: actor.personName, fields: ['words', 'price'] });
    expect(line!.says).toMatch(/^Settled: \d+ fields taken from the shop for this store\.$/);
  });

  it('is taken for all stores where that is asked', async () => {
    await changeThere(() => ({ title: 'For all of them' }));
    await decide(({ field }) => (field === '/title' ? 'theirs' : null), { where: 'everywhere' });
    const kept = await findProduct(world.ctx, actor.workspaceId, product.id);
    expect([kept.title, kept.document.words.stores]).toEqual(['For all of them', {}]);
  });

  it('is replaced with the next send where ours is kept, and only then', async () => {
    await changeThere((article) => ({ title: 'Named there', variants: dearer(article) }));
    await decide(() => 'ours');
    const after = await now();
    expect(after.state).toBe('ahead');
    expect((await there()).title).toBe('Named there');
    await send();
    expect((await there()).title).not.toBe('Named there');
    expect((await now()).state).toBe('in-step');
  });

  it('is settled field by field: what nobody has settled still stops a send', async () => {
    await changeThere((article) => ({ title: 'Named there', variants: dearer(article) }));
    await decide(({ field }) => (field === '/title' ? 'theirs' : null));
    const half = await now();
    expect(half.state).toBe('behind');
    expect(half.differences.map(({ field }) => field)).toEqual([expect.stringMatching(/priceMinor$/)]);
    await decide(({ field }) => (field.endsWith('/priceMinor') ? 'ours' : null));
    expect((await now()).state).toBe('ahead');
  });

  it('gives way to something else that is written', async () => {
    await changeThere(() => ({ title: 'Named there' }));
    await decide(({ field }) => (field === '/title' ? { value: 'A third' } : null));
    expect(await now()).toMatchObject({ state: 'ahead', form: { title: 'A third' } });
    await send();
    expect((await there()).title).toContain('A third');
  });
});

describe('a store’s rules', () => {
  const rule = async (rules: StandingRules) => {
    store = await changeSettings(world.ctx, store, { standing: { rules, by: actor.personId } });
  };
  beforeEach(listOne);
  afterEach(() => rule({}));

  it('settle what they speak of as soon as it is seen, in the name of who made them, and leave the rest to a person', async () => {
    await rule({ words: 'theirs' });
    await changeThere((article) => ({ title: 'By rule', variants: dearer(article) }));
    const after = await now();
    expect([after.state, after.form.title]).toEqual(['behind', 'By rule']);
    expect(after.differences.map(({ field }) => field)).toEqual([expect.stringMatching(/priceMinor$/)]);
    const lines = await listingHistory(world.ctx, actor.workspaceId, after.row.id);
    expect(lines[0]).toMatchObject({ what: 'settled', by: actor.personName, fields: ['words'] });
    expect(lines[0]!.says).toMatch(/^Settled by the store’s rules/);
  });

  it('take what can be taken where something else of its kind cannot', async () => {
    await rule({ price: 'theirs', variants: 'theirs' });
    await changeThere((article) => ({
      variants: dearer(article).map((one, i) => (i === 1 ? { ...one, sku: `RENAMED-${article.id}` } : one)),
    }));
    const after = await now();
    expect(after.differences.map(({ field }) => field)).toEqual([expect.stringMatching(/sku$/)]);
  });

  it('let a send write over what the shop changed where ours holds in all of it, and only there', async () => {
    await rule({ words: 'ours' });
    const { articles } = world.shop.world;
    const article = await there();
    articles.put(article.id, { ...article, title: 'Overwritten by rule' });
    await rename('Ours, and newer');
    await send();
    expect((await there()).title).toContain('Ours, and newer');
    const lines = await listingHistory(world.ctx, actor.workspaceId, (await rowNow()).id);
    expect(lines.filter(({ what }) => what === 'settled')).toHaveLength(1);
    articles.put(article.id, { ...(await there()), title: 'Again', variants: dearer(await there()) });
    await rename('Ours, and newer still');
    await send();
    expect((await there()).title).toBe('Again');
    expect((await now()).state).toBe('split');
  });
});

it('fields of one kind are settled in all listings of a store at once, each written to its log, and the rest stays', async () => {
  const all: Product[] = [];
  for (let i = 0; i < 2; i += 1) {
    await listOne();
    all.push(product);
    await changeThere((article) => ({ title: `Named there ${i}`, variants: dearer(article) }));
  }
  const { kinds, listings } = await changedThere(world.ctx, store);
  expect(kinds).toMatchObject({ words: expect.any(Number) as number, price: expect.any(Number) as number });
  expect(listings).toBeGreaterThanOrEqual(2);
  const { jobId } = await requestSettleMany(world.ctx, actor, store, { kind: 'price', hold: 'theirs' });
  await runJobs(world.ctx);
  expect(await jobOf(world.ctx, actor, jobId)).toMatchObject({ state: 'done' });
  for (const [i, one] of all.entries()) {
    product = one;
    const { state, form, row } = await now();
    expect([state, form.title]).toEqual(['behind', one.title]);
    expect(await there()).toMatchObject({ title: `Named there ${i}` });
    const [line] = await listingHistory(world.ctx, actor.workspaceId, row.id);
    expect(line).toMatchObject({ what: 'settled', fields: ['price'], by: actor.personName });
  }
  expect((await changedThere(world.ctx, store)).kinds.price).toBeUndefined();
});

describe('refused, with nothing written', () => {
  beforeAll(async () => {
    await listOne();
    await changeThere(({ variants }) => ({
      title: 'B',
      variants: variants.map((one, i) => (i === 0 ? { ...one, sku: 'THEIRS-1' } : one)),
    }));
  });

  it.each<[string, string, Settles, Partial<Settlement>]>([
    ['listing-moved-on', 'what somebody has not seen', () => 'ours', { thereHash: 'older' }],
    ['nothing-differs', 'a field that does not differ', () => null, {}],
    ['settle-value', 'a value of another kind', () => ({ value: 5 }), {}],
    ['settle-value', 'a list', () => ({ value: ['B'] }), {}],
    [
      'document-invalid',
      'a text without end',
      ({ field }) => (field === '/title' ? { value: 'x '.repeat(200_000) } : null),
      {},
    ],
    ['not-takable', 'a SKU', () => 'theirs', {}],
  ])('%s: %s', async (code, _, settles, over) => {
    const before = await now();
    expect(await codeOf(decide(settles, over))).toBe(code);
    expect(await now()).toEqual(before);
  });

  it('all of theirs: what can be taken is, the rest is left and named, and by itself refused', async () => {
    const all = async () => {
      const [bundle, row] = [await bundleNow(), await rowNow()];
      const how = { hold: 'theirs', where: 'store', thereHash: row.thereHash! } as const;
      return settleAll(world.ctx, actor, bundle, store, row, how);
    };
    const { left, fields } = await all();
    expect(left).toMatchObject([{ field: expect.stringMatching(/sku$/), why: expect.any(String) }]);
    expect(fields).toContain('/title');
    const after = await now();
    expect([after.form.title, after.state]).toEqual(['B', 'behind']);
    expect(await codeOf(all())).toBe('not-takable');
    expect(await now()).toEqual(after);
  });

  it('listing-busy: while it is on its way', async () => {
    const { row } = await now();
    await requestSend(world.ctx, await bundleNow(), store, 'live', { seenHash: row.thereHash! });
    expect(await codeOf(decide(() => 'theirs'))).toBe('listing-busy');
    await runJobs(world.ctx);
  });
});
