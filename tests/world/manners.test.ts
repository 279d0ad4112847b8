import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { memoryShop } from '@/adapters/memory/channel';
import { about } from '@/adapters/pennyquay/about';
import type { ChannelAbout } from '@/ports/channel';
import type { Context } from '@/server/context';
import { listingsOf } from '@/server/listings/listings';
import { requestSend } from '@/server/listings/request-send';
import type { Actor } from '@/server/people/people';
import { loadBundle } from '@/server/products/bundle';
import { beginConnect, finishConnect } from '@/server/stores/connect';
import { declarePartner } from '@/server/stores/shop-facts';
import { type Store } from '@/server/stores/stores';
import { jobOf, makeActor, makeTee, makeWorld, runJobs, type World } from '../support/world';

let world: World;
beforeAll(async () => {
  world = await makeWorld({ catalog: true });
});
afterAll(() => world.close());

/** The same sending code against a shop with other manners: the channel is the only thing that differs. */
async function withShop(
  onceOnly: ChannelAbout['onceOnly'],
): Promise<{ ctx: Context; shop: ReturnType<typeof memoryShop>; actor: Actor; store: Store }> {
  const shop = memoryShop({ ...about, code: 'memory', name: 'Memory', onceOnly });
  const ctx: Context = { ...world.ctx, channels: new Map([['memory', shop.channel]]) };
  const actor = await makeActor(ctx);
  const ask = new URL((await beginConnect(ctx, actor, 'memory')).authorizeUrl);
  let store = await finishConnect(ctx, actor, { state: ask.searchParams.get('state')!, code: 'any' });
  for (const { id } of await ctx.db.rows<{ id: string }>('SELECT id FROM partner'))
    store = await declarePartner(ctx, store, id);
  return { ctx, shop, actor, store };
}

describe('a lost answer makes no second listing', () => {
  it.each(['idempotency-key', 'look-up', 'delayed-look-up'] as const)('in a shop with %s', async (onceOnly) => {
    const { ctx, shop, actor, store } = await withShop(onceOnly);
    let clock = Date.now();
    shop.now = () => clock;
    shop.visibleAfterMs = onceOnly === 'delayed-look-up' ? 600_000 : 0;
    const { product } = await makeTee(ctx, actor);
    shop.loseAnswers = 1;
    const { jobId } = await requestSend(ctx, await loadBundle(ctx, actor.workspaceId, product.id), store, 'live');
    const due = () => ctx.db.run("UPDATE job SET run_after = UTC_TIMESTAMP(3) WHERE state = 'queued'");
    await runJobs(ctx);
    expect(await jobOf(ctx, actor, jobId)).toMatchObject({ state: 'queued', error: { code: 'shop-unreachable' } });
    await due();
    await runJobs(ctx);
    if (onceOnly === 'delayed-look-up') {
      // Absence proves nothing yet: it waits and asks again, for as long as the shop needs, without making anything.
      expect(await jobOf(ctx, actor, jobId)).toMatchObject({ state: 'queued', error: { code: 'shop-unsettled' } });
      expect(shop.listings.size).toBe(1);
      clock += 601_000;
      await due();
      await runJobs(ctx);
    }
    expect((await jobOf(ctx, actor, jobId)).state).toBe('done');
    expect(shop.listings.size).toBe(1);
    const [row] = await listingsOf(ctx.db, actor.workspaceId, [product.id]);
    expect(row).toMatchObject({
      externalId: [...shop.listings.keys()][0],
      visibility: 'live',
      agreedHash: row!.thereHash,
    });
  });

  it('and an attempt that never arrived is made after all', async () => {
    const { ctx, shop, actor, store } = await withShop('delayed-look-up');
    const { product } = await makeTee(ctx, actor);
    await requestSend(ctx, await loadBundle(ctx, actor.workspaceId, product.id), store, 'draft');
    // The worker died after writing the attempt down and before the request left: ten minutes ago.
    await ctx.db.run(
      "UPDATE listing SET send_key = 'k-lost', sent_at = UTC_TIMESTAMP(3) - INTERVAL 10 MINUTE WHERE product_id = ?",
      [product.id],
    );
    shop.visibleAfterMs = 60_000;
    await runJobs(ctx);
    expect(shop.listings.size).toBe(1);
  });

  it('nor when the answer to a second try is lost: the wait counts from the newest try', async () => {
    const { ctx, shop, actor, store } = await withShop('delayed-look-up');
    const { product } = await makeTee(ctx, actor);
    let clock = Date.now();
    shop.now = () => clock;
    shop.visibleAfterMs = 60_000;
    const { jobId } = await requestSend(ctx, await loadBundle(ctx, actor.workspaceId, product.id), store, 'draft');
    await ctx.db.run(
      "UPDATE listing SET send_key = 'k-lost', sent_at = UTC_TIMESTAMP(3) - INTERVAL 10 MINUTE WHERE product_id = ?",
      [product.id],
    );
    shop.loseAnswers = 1;
    const again = async () => {
      await ctx.db.run("UPDATE job SET run_after = UTC_TIMESTAMP(3) WHERE state = 'queued'");
      await runJobs(ctx);
    };
    await again();
    expect(shop.listings.size).toBe(1);
    await again();
    expect(await jobOf(ctx, actor, jobId)).toMatchObject({ state: 'queued', error: { code: 'shop-unsettled' } });
    expect(shop.listings.size).toBe(1);
    clock += 61_000;
    await again();
    expect((await jobOf(ctx, actor, jobId)).state).toBe('done');
    expect(shop.listings.size).toBe(1);
  });
});
