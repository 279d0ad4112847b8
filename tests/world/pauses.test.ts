import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { claim } from '@/server/jobs/claim';
import { handlers } from '@/server/jobs/handlers';
import { runJob } from '@/server/jobs/worker';
import { listingHistory, listingsOf } from '@/server/listings/listings';
import { requestSend } from '@/server/listings/request-send';
import { renewEnding } from '@/server/listings/renew.job';
import type { Actor } from '@/server/people/people';
import { loadBundle } from '@/server/products/bundle';
import type { Product } from '@/server/products/products';
import { pauseStore } from '@/server/stores/pause';
import { changeSettings } from '@/server/stores/settings';
import { findStore, type Store } from '@/server/stores/stores';
import { codeOf, connectStore, makeActor, makeTee, makeWorld, runJobs, type World } from '../support/world';

let world: World;
let actor: Actor;
let store: Store;
let shown: Product;
let draft: Product;
beforeAll(async () => {
  world = await makeWorld({ catalog: true, requestsPerSecond: 200 });
  actor = await makeActor(world.ctx);
  store = await connectStore(world, actor);
  ({ product: shown } = await makeTee(world.ctx, actor, 'Shown tee', ['coal']));
  ({ product: draft } = await makeTee(world.ctx, actor, 'Draft tee', ['coal']));
  await send(shown, 'live');
  await send(draft, 'draft');
});
afterAll(() => world.close());

const reread = async () => (store = await findStore(world.ctx, actor.workspaceId, store.id));
async function send(product: Product, visibility: 'draft' | 'live'): Promise<void> {
  await requestSend(world.ctx, await loadBundle(world.ctx, actor.workspaceId, product.id), store, visibility);
  await runJobs(world.ctx);
}
const rowOf = async ({ id }: Product) => (await listingsOf(world.ctx.db, actor.workspaceId, [id]))[0]!;
const stages = async () =>
  Object.fromEntries((await world.shopItems()).map(({ headline, stage }) => [headline.split(' ')[0], stage]));
const article = async () => world.shop.world.articles.get((await rowOf(shown)).externalId!)!;

describe('a pause', () => {
  it('takes off sale what is live, and shows just that again', async () => {
    expect(await stages()).toEqual({ Shown: 'open', Draft: 'draft' });
    const { liveUntil } = await article();
    await pauseStore(world.ctx, store, true);
    await runJobs(world.ctx);
    expect(await stages()).toEqual({ Shown: 'draft', Draft: 'draft' });
    expect(await codeOf(pauseStore(world.ctx, store, true))).toBe('store-paused');
    await reread();
    expect(store.pausedAt).toBeInstanceOf(Date);
    await pauseStore(world.ctx, store, false);
    await runJobs(world.ctx);
    expect(await stages()).toEqual({ Shown: 'open', Draft: 'draft' });
    expect(await codeOf(pauseStore(world.ctx, store, false))).toBe('store-not-paused');
    // What was paid for is not paid again.
    expect((await article()).liveUntil).toBe(liveUntil);
    const history = await listingHistory(world.ctx, actor.workspaceId, (await rowOf(shown)).id);
    expect(history.slice(0, 2).map(({ says }) => says)).toEqual([
      'Shown again after the pause.',
      `Taken off sale: ${store.name} is paused.`,
    ]);
  });

  it('lets drafts be sent and nothing go live', async () => {
    await pauseStore(world.ctx, store, true);
    await runJobs(world.ctx);
    await reread();
    expect(await codeOf(send(draft, 'live'))).toBe('store-paused');
    expect(await codeOf(send(draft, 'draft'))).toBeNull();
    await pauseStore(world.ctx, store, false);
    await runJobs(world.ctx);
    await reread();
    expect(await stages()).toEqual({ Shown: 'open', Draft: 'draft' });
  });

  it('that ends before it was carried out hides nothing', async () => {
    await pauseStore(world.ctx, store, true);
    await pauseStore(world.ctx, store, false);
    await runJobs(world.ctx);
    expect(await stages()).toEqual({ Shown: 'open', Draft: 'draft' });
  });
});

describe('a listing that ends', () => {
  const endSoon = async () => {
    const held = await article();
    const liveUntil = world.shop.world.now() + 24 * 3_600_000;
    world.shop.world.articles.put(held.id, { ...held, liveUntil });
    await world.ctx.db.run('UPDATE listing SET ends_at = ? WHERE external_id = ?', [new Date(liveUntil), held.id]);
    return liveUntil;
  };

  it('is let end unless the rule says otherwise', async () => {
    await endSoon();
    expect(await renewEnding(world.ctx)).toBe(0);
  });

  it('is renewed once for its fee, also where the answer is lost', async () => {
    await changeSettings(world.ctx, store, { renewal: 'renew' });
    const ends = await endSoon();
    world.shop.world.faults.now.loseAnswers = 1;
    expect(await renewEnding(world.ctx)).toBe(1);
    for (let i = 0; i < 10; i += 1) {
      await world.ctx.db.run("UPDATE job SET run_after = UTC_TIMESTAMP(3) WHERE state = 'queued'");
      await runJobs(world.ctx);
    }
    const until = ends + 90 * 24 * 3_600_000;
    expect((await article()).liveUntil).toBe(until);
    expect((await rowOf(shown)).endsAt!.getTime()).toBe(until);
    expect(await renewEnding(world.ctx)).toBe(0);
  });

  it('is not renewed by a job that was asked for twice', async () => {
    const ends = await endSoon();
    await renewEnding(world.ctx);
    const lease = (await claim(world.ctx, ['renew-listing']))!;
    // While the first one runs, the chore comes by once more.
    await renewEnding(world.ctx);
    await runJob(world.ctx, lease, handlers['renew-listing']!);
    await runJobs(world.ctx);
    expect((await article()).liveUntil).toBe(ends + 90 * 24 * 3_600_000);
  });
});
