import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { WantedVisibility } from '@/core/sync/send-step';
import { dropOldRows } from '@/server/chores/spans';
import { claim } from '@/server/jobs/claim';
import { handlers } from '@/server/jobs/handlers';
import { runJob } from '@/server/jobs/worker';
import { listingHistory, listingsOf } from '@/server/listings/listings';
import type { Actor } from '@/server/people/people';
import { insertProduct } from '@/server/products/insert';
import { patchProduct } from '@/server/products/patch';
import { findProduct, type Product } from '@/server/products/products';
import { archiveProduct } from '@/server/products/shelving';
import { takeFixes } from '@/server/listings/fixes';
import { fixSend, sendFixes } from '@/server/sends/fixes';
import { findSend } from '@/server/sends/send-row';
import { beginSend, holdSend, planSend, retrySend, stopSend, type SendSelection } from '@/server/sends/sends';
import { sendItems, viewSend } from '@/server/sends/view';
import type { Store } from '@/server/stores/stores';
import { codeOf, connectStore, makeActor, makeTee, makeWorld, runJobs, type World } from '../support/world';

let world: World;
let actor: Actor;
let store: Store;
const tees: Product[] = [];
beforeAll(async () => {
  world = await makeWorld({ catalog: true, requestsPerSecond: 200 });
  actor = await makeActor(world.ctx);
  store = await connectStore(world, actor);
  for (const title of ['Ebb tee', 'Flood tee', 'Slack tee'])
    tees.push((await makeTee(world.ctx, actor, title, ['coal'])).product);
});
afterAll(() => world.close());

const ids = () => tees.map(({ id }) => id);
const plan = (selection: SendSelection, visibility: WantedVisibility = 'as-is', by: Actor = actor) =>
  planSend(world.ctx, by, selection, visibility);
const planAll = (visibility: WantedVisibility = 'as-is') =>
  plan({ productIds: ids(), storeIds: [store.id] }, visibility);
const send = (id: string) => findSend(world.ctx, actor.workspaceId, id);
const view = async (id: string) => viewSend(world.ctx, await send(id));
const inStore = async (id: string) => (await view(id)).stores[0]!;
const begin = async (id: string, at: Date | null = null) => beginSend(world.ctx, await send(id), at);
/** Runs jobs until none is left, whatever their time: but for those that are put off for long. */
async function finish(): Promise<void> {
  for (let i = 0; i < 40; i += 1) {
    await world.ctx.db.run(
      "UPDATE job SET run_after = UTC_TIMESTAMP(3) WHERE state = 'queued' AND run_after < UTC_TIMESTAMP(3) + INTERVAL 10 MINUTE",
    );
    await runJobs(world.ctx);
    const open = await world.ctx.db.row(
      "SELECT 1 AS one FROM job WHERE state IN ('queued', 'running') AND held = FALSE AND run_after < UTC_TIMESTAMP(3) + INTERVAL 10 MINUTE",
    );
    if (!open) return;
  }
  throw new Error('jobs go on and on');
}
async function retitle(which: number, title: string): Promise<void> {
  const { id } = tees[which]!;
  const { revision } = await findProduct(world.ctx, actor.workspaceId, id);
  await patchProduct(world.ctx, actor, id, revision, [{ op: 'replace', path: '/words/base/title', value: title }]);
}

describe('a plan', () => {
  it('says what would be sent and what it costs, and sends nothing', async () => {
    await retitle(2, 'x'.repeat(114));
    const id = await planAll('live');
    const told = await view(id);
    expect(told).toMatchObject({ state: 'planned', total: 3, unseen: 0, by: actor.personName });
    expect(told.stores[0]).toMatchObject({ steps: { new: 2, stopped: 1 }, goLive: 2, feeMinor: 15 });
    const [first] = await sendItems(world.ctx, await send(id), 0);
    expect(first).toMatchObject({ productId: tees[2]!.id, what: 'stopped', jobState: null });
    expect(first!.reason).toMatch(/114 characters.*110/);
    await finish();
    expect(await world.shopItems()).toEqual([]);
  });

  it('of drafts costs nothing', async () => {
    expect((await inStore(await planAll())).goLive).toBe(0);
  });

  it.each([
    ['send-empty', () => plan({ productIds: [], storeIds: [store.id] })],
    ['send-empty', () => plan({ productIds: ids(), storeIds: [] })],
    ['send-empty', () => plan({ found: { query: 'q=no+such+words' }, storeIds: [store.id] })],
    ['send-selection', () => plan({ productIds: ids(), found: { query: '' }, storeIds: [store.id] })],
    ['send-selection', () => plan({ storeIds: [store.id] })],
    ['not-found', () => plan({ productIds: ids(), storeIds: ['nosuch'] })],
    ['not-found', () => plan({ listings: [{ productId: tees[0]!.id, storeId: 'nosuch' }] })],
  ] as const)('is refused with %s', async (code, work) => {
    expect(await codeOf(work())).toBe(code);
  });

  it('takes nothing of another workspace', async () => {
    const stranger = await makeActor(world.ctx);
    expect(await codeOf(plan({ productIds: ids(), storeIds: [store.id] }, 'live', stranger))).toBe('not-found');
    const own = await connectStore(world, stranger);
    expect(await codeOf(plan({ productIds: ids(), storeIds: [own.id] }, 'live', stranger))).toBe('send-empty');
    expect(await codeOf(findSend(world.ctx, stranger.workspaceId, await planAll()))).toBe('not-found');
  });

  it('of what is found takes what the search finds, and pairs take just those', async () => {
    expect(await view(await plan({ found: { query: 'q=flood' }, storeIds: [store.id] }))).toMatchObject({ total: 1 });
    const pair = { productId: tees[0]!.id, storeId: store.id };
    expect(await view(await plan({ listings: [pair, pair] }))).toMatchObject({ total: 1 });
  });
});

describe('fixes', () => {
  it('are looked at, then taken for the store alone in a revision that can be undone, and the plan is right again', async () => {
    const title = 'A very long title of a tee '.repeat(5).trim();
    await retitle(2, title);
    const id = await planAll();
    const [item, ...more] = await sendFixes(world.ctx, await send(id));
    expect(more).toEqual([]);
    expect(item).toMatchObject({ productId: tees[2]!.id, fixes: [{ says: 'Fit the title', before: title }] });
    expect(await fixSend(world.ctx, actor, await send(id))).toEqual({ fixed: 1 });
    expect((await inStore(id)).steps).toEqual({ new: 3 });
    const { document, revision } = await findProduct(world.ctx, actor.workspaceId, tees[2]!.id);
    expect(document.words.base.title).toBe(title);
    expect(document.words.stores[store.id]!.title).toBe(item!.fixes[0]!.after);
    expect(await fixSend(world.ctx, actor, await send(id))).toEqual({ fixed: 0 });
    expect(await codeOf(takeFixes(world.ctx, actor, tees[2]!.id, store, { where: 'store', number: 1 }))).toBe(
      'not-found',
    );
    await patchProduct(world.ctx, actor, tees[2]!.id, revision, [{ op: 'remove', path: `/words/stores/${store.id}` }]);
    const all = await takeFixes(world.ctx, actor, tees[2]!.id, store, {
      rules: ['title'],
      where: 'everywhere',
      number: 1,
    });
    expect(all.fixes).toHaveLength(1);
    const after = await findProduct(world.ctx, actor.workspaceId, tees[2]!.id);
    expect([after.title, after.document.words.stores]).toEqual([item!.fixes[0]!.after, {}]);
    await retitle(2, 'x'.repeat(114));
  });
});

describe('a send', () => {
  it('sends what is new, then nothing, then what changed, each as the plan said', async () => {
    const first = await planAll();
    await begin(first);
    await finish();
    expect(await view(first)).toMatchObject({ state: 'laid' });
    expect((await inStore(first)).progress).toMatchObject({ done: 2, failed: 0, open: 0, lastMinute: 2 });
    expect((await world.shopItems()).map(({ stage }) => stage)).toEqual(['draft', 'draft']);
    const again = await planAll();
    expect((await inStore(again)).steps).toEqual({ unchanged: 2, stopped: 1 });
    await retitle(0, 'Ebb tee, new words');
    const third = await planAll();
    expect(await inStore(third)).toMatchObject({
      steps: { changed: 1, unchanged: 1, stopped: 1 },
      changed: { words: 1 },
    });
    await begin(third);
    await finish();
    const [row] = await listingsOf(world.ctx.db, actor.workspaceId, [tees[0]!.id]);
    const [last] = await listingHistory(world.ctx, actor.workspaceId, row!.id);
    expect(last).toMatchObject({ what: 'sent', by: actor.personName, fields: ['words'] });
  });

  it('makes drafts live in one go, and takes them off sale', async () => {
    const live = await planAll('live');
    expect(await inStore(live)).toMatchObject({ steps: { shown: 2, stopped: 1 }, goLive: 2 });
    await begin(live);
    await finish();
    expect((await world.shopItems()).map(({ stage }) => stage)).toEqual(['open', 'open']);
    const draft = await planAll('draft');
    expect(await inStore(draft)).toMatchObject({ steps: { shown: 2 }, goLive: 0 });
    await begin(draft);
    await finish();
    expect((await world.shopItems()).map(({ stage }) => stage)).toEqual(['draft', 'draft']);
  });

  it('looks again when it begins: what changed since the plan is as it is then', async () => {
    await retitle(0, 'Ebb tee, planned');
    const id = await planAll();
    await retitle(0, 'x'.repeat(111));
    await retitle(1, 'Flood tee, after the plan');
    await begin(id);
    await finish();
    expect((await inStore(id)).steps).toEqual({ changed: 1, stopped: 2 });
    await retitle(0, 'Ebb tee');
  });

  it('writes over nothing that was changed in the shop', async () => {
    const { articles } = world.shop.world;
    const held = articles.all().find(({ title }) => title.startsWith('Flood'))!;
    articles.put(held.id, { ...held, title: 'Changed there' });
    await retitle(1, 'Flood tee, changed here');
    const id = await planAll();
    await begin(id);
    await finish();
    expect(articles.get(held.id)!.title).toBe('Changed there');
    const items = await sendItems(world.ctx, await send(id), 0);
    const one = items.find(({ productId }) => productId === tees[1]!.id)!;
    expect(one).toMatchObject({ jobState: 'failed' });
    expect(one.trouble).toMatch(/changed this listing/);
    // And from then on the plan knows it.
    expect((await inStore(await planAll())).steps.stopped).toBe(2);
  });

  it('waits for what an earlier job carries, and then sends what is newer', async () => {
    await retitle(0, 'Ebb tee, under way');
    const first = await planAll();
    await begin(first);
    // Its listing is on its way, with what it was a moment ago.
    const lease = (await claim(world.ctx, ['begin-send']))!;
    await runJob(world.ctx, lease, handlers['begin-send']!);
    const second = await planAll();
    expect((await inStore(second)).steps.busy).toBe(1);
    await begin(second);
    await retitle(0, 'Ebb tee, newer');
    await finish();
    expect(await view(second)).toMatchObject({ state: 'laid' });
    expect((await world.shopItems()).map(({ headline }) => headline)).toContain('Ebb tee, newer');
  });

  it('is not held up by what earlier jobs carry, wherever that stands in it', async () => {
    const all: string[] = [];
    for (const n of [1, 2, 3, 4, 5]) all.push((await makeTee(world.ctx, actor, `Held tee ${n}`, ['coal'])).product.id);
    // Products are laid out by their ids, a few first.
    const [last, ...first] = all.sort().reverse();
    const layOut = async () => {
      const lease = (await claim(world.ctx, ['begin-send']))!;
      await runJob(world.ctx, lease, handlers['begin-send']!);
    };
    await begin(await plan({ productIds: first, storeIds: [store.id] }));
    await layOut();
    const second = await plan({ productIds: all, storeIds: [store.id] });
    expect((await inStore(second)).steps).toMatchObject({ busy: 4, new: 1 });
    await begin(second);
    await layOut();
    const items = await sendItems(world.ctx, await send(second), 0);
    expect(items.find(({ productId }) => productId === last)?.jobState).toBe('queued');
    await finish();
    expect((await view(second)).state).toBe('laid');
  });

  it('is not held up in one store because enough waits for another', async () => {
    const { db } = world.ctx;
    const columns = (await db.rows<{ Field: string; Extra: string }>('SHOW COLUMNS FROM store'))
      .filter(({ Field, Extra }) => !/GENERATED/.test(Extra) && Field !== 'id' && Field !== 'shop_id')
      .map(({ Field }) => Field)
      .join(',');
    await db.run(
      `INSERT INTO store (id, shop_id, ${columns}) SELECT 's-slow', 'slow', ${columns} FROM store WHERE id = ?`,
      [store.id],
    );
    const { product } = await makeTee(world.ctx, actor, 'Tee of two stores', ['coal']);
    const id = await plan({ productIds: [product.id], storeIds: [store.id, 's-slow'] });
    await begin(id);
    const { groupId } = await send(id);
    await db.insertMany(
      'job',
      ['id', 'workspace_id', 'group_id', 'kind', 'title', 'payload', 'state', 'held', 'store_id'],
      Array.from({ length: 60 }, (_, n) => [
        `j-slow-${n}`,
        actor.workspaceId,
        groupId,
        'send-listing',
        'Slow',
        '{}',
        'queued',
        true,
        's-slow',
      ]),
    );
    const layOut = async () => {
      await db.run("UPDATE job SET run_after = UTC_TIMESTAMP(3) WHERE kind = 'begin-send'");
      await runJob(world.ctx, (await claim(world.ctx, ['begin-send']))!, handlers['begin-send']!);
      const items = await sendItems(world.ctx, await send(id), 0);
      return Object.fromEntries(items.map(({ storeId, jobState }) => [storeId, jobState]));
    };
    expect(await layOut()).toEqual({ [store.id]: 'queued', 's-slow': null });
    expect((await send(id)).state).toBe('begun');
    await db.run("UPDATE job SET state = 'done' WHERE id LIKE 'j-slow-%'");
    expect(await layOut()).toMatchObject({ 's-slow': 'queued' });
    expect((await send(id)).state).toBe('laid');
    for (const table of ['listing', 'job']) await db.run(`DELETE FROM ${table} WHERE store_id = 's-slow'`);
    await db.run("DELETE FROM store WHERE id = 's-slow'");
    await finish();
  });

  it('begins once', async () => {
    const id = await planAll();
    expect(await Promise.all([codeOf(begin(id)), codeOf(begin(id))]).then((codes) => codes.toSorted())).toEqual(
      ['send-begun', null].toSorted(),
    );
    await finish();
    expect(await codeOf(begin(id))).toBe('send-begun');
    expect(await codeOf(fixSend(world.ctx, actor, await send(id)))).toBe('send-begun');
    const late = new Date(Date.now() + 400 * 86_400_000);
    expect(await codeOf(begin(await planAll(), late))).toBe('send-too-far');
  });

  it('is put off to a moment', async () => {
    await retitle(0, 'Ebb tee, tomorrow');
    const id = await planAll();
    await begin(id, new Date(Date.now() + 24 * 3_600_000));
    await finish();
    expect(await view(id)).toMatchObject({ state: 'begun' });
    expect((await inStore(id)).progress).toMatchObject({ done: 0, open: 0 });
    await stopSend(world.ctx, await send(id), actor.personName);
    expect(await codeOf(stopSend(world.ctx, await send(id), actor.personName))).toBe('send-ended');
    await world.ctx.db.run("UPDATE job SET run_after = UTC_TIMESTAMP(3) WHERE state = 'queued'");
    await finish();
    expect((await inStore(id)).progress.done).toBe(0);
  });

  it('is held and let go on, and stopped', async () => {
    const id = await planAll();
    expect(await codeOf(holdSend(world.ctx, await send(id), true))).toBe('send-ended');
    await begin(id);
    await holdSend(world.ctx, await send(id), true);
    expect(await claim(world.ctx, Object.keys(handlers))).toBeNull();
    expect(await view(id)).toMatchObject({ paused: true });
    await holdSend(world.ctx, await send(id), false);
    await finish();
    expect((await inStore(id)).progress.done).toBeGreaterThan(0);
  });

  it('tries again what failed', async () => {
    await retitle(0, 'Ebb tee, tried again');
    const id = await planAll();
    await begin(id);
    world.shop.world.faults.now.unavailable = 1000;
    await finish().catch(() => undefined);
    await world.ctx.db.run("UPDATE job SET state = 'failed' WHERE kind = 'send-listing' AND state = 'queued'");
    world.shop.world.faults.now.unavailable = 0;
    expect((await inStore(id)).progress).toMatchObject({ failed: 1, open: 0 });
    expect(await retrySend(world.ctx, await send(id))).toEqual({ retried: 1, left: 0 });
    await finish();
    expect((await inStore(id)).progress).toMatchObject({ done: 1, failed: 0 });
  });

  it('says why it goes no further, and goes on where it stood', async () => {
    await retitle(0, 'Ebb tee, halted');
    const id = await planAll();
    await begin(id);
    const error = JSON.stringify({ code: 'job-kills-worker', message: 'It stopped over and over.', fields: {} });
    await world.ctx.db.run(
      "UPDATE job SET state = 'failed', error = ? WHERE kind = 'begin-send' AND state = 'queued'",
      [error],
    );
    expect(await view(id)).toMatchObject({ state: 'begun', halted: 'It stopped over and over.' });
    expect(await retrySend(world.ctx, await send(id))).toEqual({ retried: 1, left: 0 });
    await finish();
    expect(await view(id)).toMatchObject({ state: 'laid', halted: null });
    expect((await inStore(id)).progress).toMatchObject({ done: 1, failed: 0 });
  });

  it('of more than two hundred is looked at by a job, and leaves out what was archived meanwhile', async () => {
    const { document } = await findProduct(world.ctx, actor.workspaceId, tees[0]!.id);
    const many: string[] = [];
    await world.ctx.pools.transaction(async (db) => {
      for (let i = 0; i < 201; i += 1) many.push(await insertProduct(db, actor, { ...document, variants: {} }));
    });
    const id = await plan({ productIds: many, storeIds: [store.id] });
    expect(await view(id)).toMatchObject({ total: 201, unseen: 201 });
    await archiveProduct(world.ctx, actor, many[0]!);
    await finish();
    expect(await view(id)).toMatchObject({ unseen: 0 });
    expect((await inStore(id)).steps).toEqual({ stopped: 201 });
    const reasons = new Set<string | null>();
    for (const from of [0, 100, 200])
      for (const { reason } of await sendItems(world.ctx, await send(id), from)) reasons.add(reason);
    expect([...reasons].some((reason) => reason?.includes('no longer in the range'))).toBe(true);
  });

  it('is kept for half a year, and its listings go before it', async () => {
    const id = await planAll();
    await world.ctx.db.run('UPDATE send SET made_at = made_at - INTERVAL 181 DAY WHERE id = ?', [id]);
    const other = await planAll();
    await dropOldRows(world.ctx);
    expect(await codeOf(send(id))).toBe('not-found');
    expect((await view(other)).total).toBe(3);
  });
});
