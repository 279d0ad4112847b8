import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { compare } from '@/core/sync/merge';
import { treeOf } from '@/core/sync/tree';
import { isTypicaError } from '@/core/errors';
import { listingHistory, listingsOf, listingView, requestCheck } from '@/server/listings/listings';
import { requestSend } from '@/server/listings/request-send';
import { prepareListing } from '@/server/listings/prepare';
import type { Actor } from '@/server/people/people';
import { loadBundle } from '@/server/products/bundle';
import { patchProduct } from '@/server/products/patch';
import { type Product } from '@/server/products/products';
import { disconnectStore } from '@/server/stores/connect';
import { findStore, type Store } from '@/server/stores/stores';
import {
  connectStore,
  eventually,
  jobOf,
  makeActor,
  makeTee,
  makeWorld,
  runJobs,
  startWorker,
  type World,
} from '../support/world';

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
beforeEach(async () => {
  ({ product } = await makeTee(world.ctx, actor));
});
afterEach(() => {
  Object.assign(world.shop.faults, { loseAnswers: 0, unavailable: 0, tooMany: 0, slowMs: 0 });
});

const send = async (visibility: 'draft' | 'live' = 'live') =>
  requestSend(world.ctx, await loadBundle(world.ctx, actor.workspaceId, product.id), store, visibility);
const view = async () => {
  const [bundle, rows] = [
    await loadBundle(world.ctx, actor.workspaceId, product.id),
    await listingsOf(world.ctx.db, actor.workspaceId, [product.id]),
  ];
  return listingView(store, { number: 1, row: rows[0] ?? null }, prepareListing(world.ctx, bundle, store));
};
const edit = (path: string, value: unknown) =>
  patchProduct(world.ctx, actor, product.id, product.revision, [{ op: 'replace', path, value }]);
/** Skips back-offs: what waits is due now. */
const due = () => world.ctx.db.run("UPDATE job SET run_after = UTC_TIMESTAMP(3) WHERE state = 'queued'");
describe('sending', () => {
  it('goes from not listed over on its way to in step, live, with pictures and prices', async () => {
    expect((await view()).state).toBe('not-listed');
    const { jobId } = await send();
    expect((await view()).state).toBe('on-its-way');
    expect(await send()).toMatchObject({ jobId });
    await runJobs(world.ctx);
    expect(await jobOf(world.ctx, actor, jobId)).toMatchObject({ state: 'done' });
    const listing = await view();
    expect(listing).toMatchObject({ state: 'in-step', visibility: 'live' });
    const item = (await world.shopItems()).find((i) => i.id === listing.externalId)!;
    expect(item).toMatchObject({ stage: 'open', headline: 'Crossed Blades tee' });
    expect(item.offers).toHaveLength(14);
    // Two colors, and one from near.
    expect(item.pictures).toHaveLength(3);
    expect((await fetch(listing.url!)).status).toBe(200);
  });

  it('sends a change of price as one, on the same listing, and no picture again', async () => {
    await send('draft');
    await runJobs(world.ctx);
    const before = await view();
    expect(before).toMatchObject({ state: 'in-step', visibility: 'draft' });
    const pictures = (await world.shopItems()).find((i) => i.id === before.externalId)!.pictures;
    await edit('/price/base/aim', { kind: 'margin', ppm: 450_000 });
    expect((await view()).state).toBe('ahead');
    await send('draft');
    await runJobs(world.ctx);
    const after = await view();
    expect(after).toMatchObject({ state: 'in-step', externalId: before.externalId });
    expect((await world.shopItems()).find((i) => i.id === before.externalId)!.pictures).toEqual(pictures);
  });

  it('is not begun while a rule is broken, and says all of them', async () => {
    await edit('/words/base/description', '');
    await expect(send()).rejects.toSatisfy(
      (e) => isTypicaError(e, 'rules-broken') && JSON.stringify(e.fields.rules).includes('description'),
    );
    expect((await view()).state).toBe('not-listed');
  });

  it('keeps the shop’s own words when it refuses, until something here changes', async () => {
    await edit('/words/base/title', 'A dupe of the crest');
    const { jobId } = await send();
    await runJobs(world.ctx);
    expect((await jobOf(world.ctx, actor, jobId)).state).toBe('failed');
    const refused = await view();
    expect(refused).toMatchObject({
      state: 'refused',
      refusal: { words: expect.stringContaining('do not allow goods described as copies'), fields: ['headline'] },
    });
    await patchProduct(world.ctx, actor, product.id, product.revision + 1, [
      { op: 'replace', path: '/words/base/title', value: 'The crest' },
    ]);
    expect((await view()).state).toBe('not-listed');
    await send();
    await runJobs(world.ctx);
    expect(await view()).toMatchObject({ state: 'in-step', refusal: null });
  });
});

describe('never twice', () => {
  it('when the answer to the creation is lost', async () => {
    const count = (await world.shopItems()).length;
    world.shop.faults.loseAnswers = 1;
    const { jobId } = await send();
    await runJobs(world.ctx);
    expect(await jobOf(world.ctx, actor, jobId)).toMatchObject({
      state: 'queued',
      error: { code: 'shop-unreachable' },
    });
    await due();
    await runJobs(world.ctx);
    expect((await view()).state).toBe('in-step');
    expect((await world.shopItems()).length).toBe(count + 1);
    expect(
      (await listingHistory(world.ctx, actor.workspaceId, (await view()).listingId!)).map((h) => h.what),
    ).toContain('made');
  });

  it('when the shop asks to slow down, or is down for a while', async () => {
    const count = (await world.shopItems()).length;
    world.shop.faults.tooMany = 1;
    await send();
    await runJobs(world.ctx);
    world.shop.faults.unavailable = 2;
    for (let i = 0; i < 4; i += 1) {
      await due();
      await runJobs(world.ctx);
    }
    expect((await view()).state).toBe('in-step');
    expect((await world.shopItems()).length).toBe(count + 1);
  });

  it('when a worker process is killed in the middle, again and again', async () => {
    const count = (await world.shopItems()).length;
    world.shop.faults.slowMs = 60;
    await send();
    const { jobId } = await view();
    for (const kill of ['made', 'pictures', 'never'] as const) {
      const worker = startWorker(world.env);
      if (kill === 'never') {
        await eventually(async () => (await jobOf(world.ctx, actor, jobId!)).state === 'done', 'the listing', 60);
        worker.kill('SIGTERM');
        await new Promise((resolve) => worker.once('exit', resolve));
        break;
      }
      await eventually(
        async () => {
          const [row] = await listingsOf(world.ctx.db, actor.workspaceId, [product.id]);
          return kill === 'made' ? row?.sendKey !== null : row?.sentPictureIds !== null;
        },
        kill,
        60,
      );
      worker.kill('SIGKILL');
      await new Promise((resolve) => worker.once('exit', resolve));
      await world.ctx.db.run(
        "UPDATE job SET lease_until = UTC_TIMESTAMP(3) - INTERVAL 1 SECOND WHERE state = 'running'",
      );
    }
    expect((await view()).state).toBe('in-step');
    expect((await world.shopItems()).length).toBe(count + 1);
  }, 180_000);

  it('with two workers on one database', async () => {
    const count = (await world.shopItems()).length;
    const workers = [startWorker(world.env), startWorker(world.env)];
    await Promise.all([send(), send(), send()]);
    await eventually(async () => (await view()).state === 'in-step', 'the listing', 60);
    for (const worker of workers) worker.kill('SIGTERM');
    await Promise.all(workers.map((worker) => new Promise((resolve) => worker.once('exit', resolve))));
    expect((await world.shopItems()).length).toBe(count + 1);
  }, 120_000);
});

describe('what happens in the shop', () => {
  it('is seen: a price changed there is behind, changed in both is split, deleted is not listed', async () => {
    await send();
    await runJobs(world.ctx);
    const { externalId } = await view();
    const [row] = await listingsOf(world.ctx.db, actor.workspaceId, [product.id]);
    const { articles } = world.shop.world;
    articles.put(externalId!, { ...articles.get(externalId!)!, title: 'Renamed in the shop' });
    await requestCheck(world.ctx, row!, store.name);
    await runJobs(world.ctx);
    expect((await view()).state).toBe('behind');
    const [changed] = await listingsOf(world.ctx.db, actor.workspaceId, [product.id]);
    const tree = (form: string | null) => treeOf(JSON.parse(form!) as Parameters<typeof treeOf>[0]);
    const [agreed, there] = [tree(changed!.agreedForm), tree(changed!.thereForm)];
    expect(compare({ agreed, here: agreed, there })).toMatchObject([
      { field: '/title', change: 'there', there: 'Renamed in the shop' },
    ]);
    await edit('/words/base/title', 'Renamed here');
    expect((await view()).state).toBe('split');
    articles.drop(externalId!);
    const { jobId } = await requestCheck(world.ctx, changed!, store.name);
    await runJobs(world.ctx);
    // A shop can fail to find what it has: it is believed after a second look, a minute later.
    expect((await view()).state).toBe('split');
    expect(await jobOf(world.ctx, actor, jobId)).toMatchObject({ state: 'queued', error: { code: 'listing-missing' } });
    await world.ctx.db.run('UPDATE job SET run_after = UTC_TIMESTAMP(3) WHERE id = ?', [jobId]);
    await world.ctx.db.run('UPDATE listing SET missing_since = missing_since - INTERVAL 2 MINUTE');
    await runJobs(world.ctx);
    expect((await view()).state).toBe('not-listed');
    // What it was there is kept in its history.
    const gone = await world.ctx.db.row('SELECT external_id AS id FROM activity WHERE what = ?', ['gone']);
    expect(gone).toEqual({ id: externalId });
    await send();
    await runJobs(world.ctx);
    expect((await view()).externalId).not.toBe(externalId);
  });

  it('cannot go on once the store is disconnected: its keys are forgotten, and a send says so', async () => {
    const sealed = await world.ctx.db.row<{ sealed: Buffer }>('SELECT sealed FROM store_secret WHERE store_id = ?', [
      store.id,
    ]);
    expect(sealed!.sealed.toString('latin1')).not.toContain('access');
    await send('draft');
    await runJobs(world.ctx);
    expect((await view()).state).toBe('in-step');
    await disconnectStore(world.ctx, store);
    expect((await findStore(world.ctx, actor.workspaceId, store.id)).state).toBe('disconnected');
    expect(await world.ctx.db.rows('SELECT 1 FROM store_secret WHERE store_id = ?', [store.id])).toEqual([]);
    await edit('/words/base/title', 'After goodbye');
    const { jobId } = await send('draft');
    await runJobs(world.ctx);
    expect(await jobOf(world.ctx, actor, jobId)).toMatchObject({
      state: 'failed',
      error: { code: 'store-disconnected' },
    });
    store = await connectStore(world, actor);
  });
});
