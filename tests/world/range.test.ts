import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { WHOLE_RANGE, type RangeFilter } from '@/core/range';
import { judgeDue } from '@/server/outcomes/judge';
import { requestSend } from '@/server/listings/request-send';
import { ALL_SCOPES } from '@/server/people/scopes';
import type { Actor } from '@/server/people/people';
import { loadBundle } from '@/server/products/bundle';
import { findProduct, type Product } from '@/server/products/products';
import { patchProduct } from '@/server/products/patch';
import { archiveProduct } from '@/server/products/shelving';
import { rangeCounts } from '@/server/range/counts';
import { changeItems, findChange } from '@/server/range/many/change-row';
import { beginChange, undoChange, viewChange } from '@/server/range/many/changes';
import { planChange, type ChangeSelection } from '@/server/range/many/plan';
import { rangePage } from '@/server/range/page';
import type { Store } from '@/server/stores/stores';
import { codeOf, connectStore, makeActor, makeTee, makeWorld, runJobs, type World } from '../support/world';

let world: World;
let actor: Actor;
let store: Store;
const products: Product[] = [];
beforeAll(async () => {
  world = await makeWorld({ catalog: true });
  actor = await makeActor(world.ctx);
  store = await connectStore(world, actor);
  for (const title of ['Ebb tee', 'Flood tee', 'Slack mug of tees'])
    products.push((await makeTee(world.ctx, actor, title, ['coal'])).product);
  const [first] = products;
  await requestSend(world.ctx, await loadBundle(world.ctx, actor.workspaceId, first!.id), store, 'live');
  await settle();
});
afterAll(() => world.close());

async function settle(): Promise<void> {
  await runJobs(world.ctx);
  while ((await judgeDue(world.ctx)) > 0);
}
const find = async (part: Partial<RangeFilter>) => {
  const filter = { ...WHOLE_RANGE, ...part };
  const page = await rangePage(world.ctx, actor.workspaceId, filter, { sort: 'title', limit: 50, after: null });
  const counts = await rangeCounts(world.ctx, actor.workspaceId, filter);
  expect(counts.total).toBe(page.rows.length);
  return { titles: page.rows.map(({ title }) => title), counts, rows: page.rows };
};
const of = (list: readonly { value: string; n: number }[], value: string) =>
  list.find((one) => one.value === value)?.n ?? 0;
const now = (product: Product) => findProduct(world.ctx, actor.workspaceId, product.id);

describe('the range', () => {
  it('tells where each product stands, with its prices, what is left and what it shows, as it was judged', async () => {
    const { rows } = await find({ words: 'ebb' });
    expect(rows).toHaveLength(1);
    expect(rows[0]).toMatchObject({ variants: expect.any(Number), isDue: false, picture: { color: 'coal' } });
    const cell = rows[0]!.cells[store.id]!;
    expect(cell).toMatchObject({ state: 'in-step', visibility: 'live', listings: 1, broken: 0 });
    expect(cell.lowMinor).toBeLessThanOrEqual(cell.highMinor!);
    expect(cell.leftMinor).toBeGreaterThan(0);
  });

  it('counts what each choice would leave, with all else as it is', async () => {
    const { counts } = await find({});
    expect([counts.total, of(counts.states, 'in-step'), of(counts.states, 'not-listed')]).toEqual([3, 1, 2]);
    expect([of(counts.stores, store.id), counts.partners[0]!.n, counts.underFloor]).toEqual([3, 3, 0]);
    const listed = await find({ states: ['in-step'] });
    expect(listed.titles).toEqual(['Ebb tee']);
    // The other states are counted as if none were chosen.
    expect([of(listed.counts.states, 'not-listed'), of(listed.counts.stores, store.id)]).toEqual([2, 1]);
    expect((await find({ states: ['not-listed'], words: 'flood' })).titles).toEqual(['Flood tee']);
    expect((await find({ states: ['in-step'], stores: ['elsewhere'] })).titles).toEqual([]);
    expect((await find({ marginBelowPpm: 999_999 })).titles).toHaveLength(3);
    expect((await find({ marginBelowPpm: 0 })).titles).toEqual([]);
    expect((await find({ changedSince: '2999-01-01' })).titles).toEqual([]);
    expect(
      (await find({ kinds: [counts.kinds[0]!.value], partners: [counts.partners[0]!.value] })).titles,
    ).toHaveLength(3);
  });

  it('tells what is on its way as such, and finds it by that alone', async () => {
    const [, flood] = products;
    await requestSend(world.ctx, await loadBundle(world.ctx, actor.workspaceId, flood!.id), store, 'draft');
    const travelling = await find({ states: ['on-its-way'] });
    expect(travelling.titles).toEqual(['Flood tee']);
    expect(of(travelling.counts.states, 'not-listed')).toBe(1);
    expect((await find({ states: ['not-listed'] })).titles).toEqual(['Slack mug of tees']);
    await settle();
    expect((await find({ states: ['in-step'] })).titles).toEqual(['Ebb tee', 'Flood tee']);
  });

  it('leaves out what was archived, in rows and in every count', async () => {
    const [, , slack] = products;
    await archiveProduct(world.ctx, actor, slack!.id);
    await settle();
    const { titles, counts } = await find({});
    expect(titles).toEqual(['Ebb tee', 'Flood tee']);
    expect([of(counts.states, 'not-listed'), of(counts.stores, store.id)]).toEqual([0, 2]);
  });
});

describe('a change of many', () => {
  const signedIn = () => ({ ...actor, credential: { kind: 'session', id: 'x', scopes: ALL_SCOPES } }) as never;
  const both: ChangeSelection = { found: { query: 'q=tee' } };
  const plan = async (...asked: Parameters<typeof planChange> extends [unknown, unknown, ...infer R] ? R : never) => {
    const id = await planChange(world.ctx, signedIn(), ...asked);
    await settle();
    return id;
  };
  const view = async (id: string) => viewChange(world.ctx, await findChange(world.ctx, actor.workspaceId, id));
  const go = async (id: string, step: typeof beginChange) => {
    await step(world.ctx, signedIn(), id);
    await settle();
    return view(id);
  };
  const tagsOf = async (product: Product) =>
    Object.values((await now(product)).document.words.base.tags).map(({ text }) => text);

  it('is looked at, done once, and undone where nothing was changed since', async () => {
    const [ebb, flood] = products as [Product, Product];
    const id = await plan('tag-add', { tag: 'river' }, both);
    expect(await view(id)).toMatchObject({ state: 'planned', counts: { change: 2 }, title: 'Add the tag “river”' });
    expect(await tagsOf(ebb)).toEqual([]);
    await beginChange(world.ctx, signedIn(), id);
    expect(await go(id, beginChange)).toMatchObject({ state: 'done', counts: { done: 2 }, canUndo: true });
    expect([await tagsOf(ebb), await tagsOf(flood)]).toEqual([['river'], ['river']]);
    const { revision } = await now(flood);
    const [tagId] = Object.keys((await now(flood)).document.words.base.tags);
    await patchProduct(world.ctx, actor, flood.id, revision, [
      { op: 'replace', path: `/words/base/tags/${tagId}/text`, value: 'stream' },
    ]);
    expect(await go(id, undoChange)).toMatchObject({ state: 'undone', counts: { undone: 1, kept: 1 }, canUndo: false });
    expect([await tagsOf(ebb), await tagsOf(flood)]).toEqual([[], ['stream']]);
  });

  it('of prices tells before and after, and what is left, store by store', async () => {
    const id = await plan('raise', { ppm: 100_000 }, { productIds: [products[0]!.id] });
    const [item] = await changeItems(world.ctx, id, { what: null, after: '' });
    const line = item!.prices.find(({ storeId }) => storeId === store.id)!;
    // A tenth more than before, to the cent, reckoned here.
    expect(line.then[0]).toBeCloseTo(line.before[0] * 1.1, -1);
    await go(id, beginChange);
    const { rows } = await find({ words: 'ebb' });
    expect(rows[0]!.cells[store.id]).toMatchObject({ state: 'ahead', changed: ['price'], lowMinor: line.then[0] });
    await go(id, undoChange);
    expect((await find({ words: 'ebb' })).rows[0]!.cells[store.id]).toMatchObject({ state: 'in-step' });
  });

  it('says of each product why it is left as it is, and does the others', async () => {
    const id = await plan('delete', {}, both);
    expect(await view(id)).toMatchObject({ counts: { left: 2 }, canUndo: false });
    const made = await plan('duplicate', { blankId: products[0]!.blankId }, { productIds: [products[0]!.id] });
    expect(await go(made, beginChange)).toMatchObject({ counts: { done: 1 } });
    expect((await find({ words: 'copy' })).titles).toEqual(['Ebb tee (copy)']);
    expect(await go(made, undoChange)).toMatchObject({ counts: { undone: 1 } });
    expect((await find({ words: 'copy' })).titles).toEqual([]);
    const looked = await plan('check', {}, { listings: [{ productId: products[0]!.id, storeId: store.id }] });
    expect(await go(looked, beginChange)).toMatchObject({ state: 'done', canUndo: false });
    expect(await codeOf(undoChange(world.ctx, signedIn(), looked))).toBe('change-final');
  });

  it('is refused where it says what cannot be done', async () => {
    const refused = (...asked: Parameters<typeof plan>) => codeOf(plan(...asked));
    expect(await refused('tag-add', { tag: '  ' }, both)).toBe('change-asked');
    expect(await refused('raise', { ppm: 0 }, both)).toBe('change-asked');
    expect(await refused('ending', { ending: '12345' }, both)).toBe('change-asked');
    expect(await refused('archive', {}, { found: { query: 'state=nowhere' } })).toBe('filter-wrong');
    expect(await refused('archive', {}, { found: { query: 'q=nothing' } })).toBe('change-empty');
    expect(await refused('archive', {}, { listings: [{ productId: 'x', storeId: 'y' }] })).toBe('change-selection');
    expect(await refused('archive', {}, {})).toBe('change-selection');
  });
});
