import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { dailyRates } from '@/adapters/rates/daily';
import type { Context } from '@/server/context';
import type { Actor } from '@/server/people/people';
import { bringRates, viewRateFeed } from '@/server/rates/feed';
import { forgetRates, saveRates, loadExchangeRates } from '@/server/rates/rates';
import { createRates, workingDay } from '@/sim/rates/server';
import { makeActor, makeWorld, type World } from '../support/world';

let world: World;
let actor: Actor;
let ctx: Context;
let publisher: Awaited<ReturnType<typeof createRates>>;
/** The publisher's own day; the database takes rates up to its own today. */
let now: Date;
const daysAgo = (days: number) => new Date(Date.now() - days * 86_400_000);
beforeAll(async () => {
  world = await makeWorld({ catalog: true });
  actor = await makeActor(world.ctx);
  publisher = await createRates({ port: 0, now: () => now });
  ctx = { ...world.ctx, rateFeed: dailyRates(publisher.url) };
});
afterAll(async () => {
  await publisher.close();
  await world.close();
});
beforeEach(async () => {
  now = daysAgo(14);
  Object.assign(publisher.faults, { unavailable: 0, slowMs: 0, usdTimes: 1, page: false, endless: false });
  await ctx.db.run("DELETE FROM exchange_rate WHERE source <> 'Typica demo'");
  await ctx.db.run("UPDATE rate_feed SET fault = NULL, newest_date = NULL, held = '[]', moved = '[]'");
  // What is known is older than all that comes.
  await ctx.db.run(
    "UPDATE exchange_rate SET rate_date = '2026-01-02', rate = IF(to_currency = 'USD' AND from_currency = 'GBP', 1.3120, rate)",
  );
});

const rateOf = async (pair: string) =>
  (await loadExchangeRates(ctx, actor.workspaceId)).find(({ from, to }) => from + to === pair);
const told = async () => (await viewRateFeed(ctx))!;

describe('rates that come by themselves', () => {
  it('are of the last working day, hold in every workspace, and come once', async () => {
    await bringRates(ctx);
    const day = workingDay(now);
    expect(await rateOf('GBPUSD')).toMatchObject({ date: day, own: false });
    expect(await rateOf('GBPJPY')).toMatchObject({ date: day });
    expect(await told()).toMatchObject({ newestDate: day, fault: null, held: [] });
    const count = async () => (await ctx.db.row<{ n: number }>('SELECT COUNT(*) AS n FROM exchange_rate'))!.n;
    const before = await count();
    await Promise.all([bringRates(ctx), bringRates(ctx)]);
    expect(await count()).toBe(before);
  });

  it('leave a rate of a workspace’s own as it is, in both directions', async () => {
    await saveRates(ctx, actor, [{ from: 'USD', to: 'GBP', rate: '0.75', date: '2026-01-03' }], { source: 'typed in' });
    await bringRates(ctx);
    expect([await rateOf('GBPUSD'), await rateOf('USDGBP')]).toMatchObject([undefined, { rate: '0.75', own: true }]);
    await forgetRates(ctx, actor, 'USD-GBP');
    expect(await rateOf('GBPUSD')).toMatchObject({ date: workingDay(now) });
  });

  it('hold a jump back, say so, and take it when a later day says the same', async () => {
    publisher.faults.usdTimes = 100;
    await bringRates(ctx);
    expect(await rateOf('GBPUSD')).toMatchObject({ rate: '1.312', date: '2026-01-02' });
    expect(await rateOf('GBPJPY')).toMatchObject({ date: workingDay(now) });
    expect((await told()).held.map(({ from, to, known }) => [from, to, known])).toEqual([
      ['GBP', 'USD', '1.312'],
      ['EUR', 'USD', '1.1448'],
    ]);
    await bringRates(ctx);
    expect(await rateOf('GBPUSD')).toMatchObject({ rate: '1.312' });
    // Mended on the next day: nothing is held any longer.
    [now, publisher.faults.usdTimes] = [daysAgo(10), 1];
    await bringRates(ctx);
    expect([(await rateOf('GBPUSD'))!.date, (await told()).held]).toEqual([workingDay(now), []]);
    // Said on two days: it is so.
    [now, publisher.faults.usdTimes] = [daysAgo(7), 2];
    await bringRates(ctx);
    expect((await told()).held).toHaveLength(2);
    now = daysAgo(3);
    await bringRates(ctx);
    expect([Number((await rateOf('GBPUSD'))!.rate) > 2.4, (await told()).held]).toEqual([true, []]);
    expect((await told()).moved.map(({ from, to }) => from + to)).toContain('GBPUSD');
  });

  it.each([
    ['does not answer', { unavailable: 1 }, 'did not answer'],
    ['sends a page', { page: true }, 'no list of rates'],
    ['never ends', { endless: true }, 'far longer'],
  ])('stay as they are where the publisher %s, and it is told why', async (_what, fault, says) => {
    Object.assign(publisher.faults, fault);
    await bringRates(ctx);
    expect((await told()).fault).toContain(says);
    expect(await rateOf('GBPUSD')).toMatchObject({ date: '2026-01-02' });
    Object.assign(publisher.faults, { unavailable: 0, page: false, endless: false });
    await bringRates(ctx);
    expect(await told()).toMatchObject({ fault: null, newestDate: workingDay(now) });
  });

  it('are not asked for where no publisher is named', async () => {
    expect(await viewRateFeed(world.ctx)).toBeNull();
    await bringRates(world.ctx);
    expect(await rateOf('GBPUSD')).toMatchObject({ date: '2026-01-02' });
  });

  it('are read by the index alone, however many days there are', async () => {
    const days = Array.from({ length: 3000 }, (_, i) => new Date(Date.UTC(2017, 0, 1 + i)).toISOString().slice(0, 10));
    await ctx.db.insertMany(
      'exchange_rate',
      ['from_currency', 'to_currency', 'rate_date', 'rate', 'source'],
      days.map((day) => ['GBP', 'USD', day, '1.3', 'old']),
    );
    await ctx.db.run('ANALYZE TABLE exchange_rate');
    expect(await rateOf('GBPUSD')).toMatchObject({ date: '2026-01-02', rate: '1.312' });
    const plan = await ctx.db.rows<{ Extra: string | null; table: string }>(
      "EXPLAIN SELECT workspace_id, from_currency, to_currency, MAX(rate_date) FROM exchange_rate WHERE workspace_id IN ('', 'x') AND rate_date <= UTC_DATE() GROUP BY workspace_id, from_currency, to_currency",
    );
    expect(plan[0]!.Extra).toContain('Using index for group-by');
  });
});
