import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { SaleScope } from '@/core/pricing/sale-scope';
import type { Context } from '@/server/context';
import { requestSend } from '@/server/listings/request-send';
import type { Actor } from '@/server/people/people';
import { loadBundle } from '@/server/products/bundle';
import type { Product } from '@/server/products/products';
import { planLookedAt } from '@/server/sales/plan';
import { previewSale } from '@/server/sales/preview';
import { findSale, planSale, stopSale, turnSales, type SalePlan } from '@/server/sales/sales';
import { openStore } from '@/server/stores/keys';
import { type Store } from '@/server/stores/stores';
import { connectStore, makeActor, makeTee, makeWorld, runJobs, type World } from '../support/world';

let world: World;
let actor: Actor;
let store: Store;
let product: Product;
beforeAll(async () => {
  world = await makeWorld({ catalog: true });
  actor = await makeActor(world.ctx);
  store = await connectStore(world, actor);
  ({ product } = await makeTee(world.ctx, actor, 'Coded tee', ['coal']));
  await requestSend(world.ctx, await loadBundle(world.ctx, actor.workspaceId, product.id), store, 'live');
  await runJobs(world.ctx);
});
afterAll(() => world.close());

const HOUR = 3_600_000;
const later = (hours: number): Context => ({
  ...world.ctx,
  clock: { ...world.ctx.clock, now: () => new Date(Date.now() + hours * HOUR) },
});
const EVERYTHING: SaleScope = { storeIds: [], productIds: [], kinds: [], tags: [] };
const plan = (also: Partial<SalePlan> = {}): SalePlan => ({
  name: 'Rowers',
  code: 'EBB10',
  terms: { kind: 'share', ppm: 50_000 },
  scope: EVERYTHING,
  startsAt: new Date(Date.now() + 2 * HOUR),
  endsAt: new Date(Date.now() + 10 * HOUR),
  ...also,
});
const thereNow = async () => (await openStore(world.ctx, store)).codes();
const turn = async (hours: number) => {
  await turnSales(later(hours));
  await runJobs(later(hours));
};
const prices = async () =>
  (await world.shopItems()).flatMap(({ offers }) =>
    (offers as unknown as { price: string }[]).map(({ price }) => price),
  );

describe('a discount code', () => {
  it('is looked at first: what is paid, what is lost, and the deepest that still pays', async () => {
    const { lines, losing, deepest } = await previewSale(world.ctx, actor, plan());
    expect(lines[0]).toMatchObject({ variants: 7, losing: 0, held: 0 });
    expect(lines[0]!.then[0]).toBe(lines[0]!.before[0] - Math.round(lines[0]!.before[0] * 0.05));
    expect([losing, deepest.length]).toEqual([0, 1]);
    const { sharePpm, sumMinor } = deepest[0]!;
    // As deep as it says pays; a tenth of a percent, or a cent, more does not.
    const loses = async (terms: SalePlan['terms']) => (await previewSale(world.ctx, actor, plan({ terms }))).losing > 0;
    expect(await loses({ kind: 'share', ppm: sharePpm! })).toBe(false);
    expect(await loses({ kind: 'share', ppm: sharePpm! + 1000 })).toBe(true);
    expect(await loses({ kind: 'sum', amountMinor: sumMinor!, currency: 'USD' })).toBe(false);
    expect(await loses({ kind: 'sum', amountMinor: sumMinor! + 1, currency: 'USD' })).toBe(true);
  });

  it('is not planned where it loses money, unless that is accepted; nor one that cannot be typed, nor a second of its name', async () => {
    const deep = plan({ code: 'DEEP', terms: { kind: 'share', ppm: 900_000 } });
    await expect(planLookedAt(world.ctx, actor, deep)).rejects.toMatchObject({
      code: 'code-loses',
      fields: { losing: 7 },
      message: expect.stringMatching(/7 variants lose money: in .+ \d+\.\d % or \d+\.\d\d USD off still pays/),
    });
    const { id } = await planLookedAt(world.ctx, actor, { ...deep, acceptLosses: true });
    await expect(planLookedAt(world.ctx, actor, { ...deep, acceptLosses: true })).rejects.toMatchObject({
      code: 'code-taken',
    });
    await stopSale(world.ctx, actor, id);
    for (const code of ['ebb', 'A B', '', 'É10'])
      await expect(planLookedAt(world.ctx, actor, plan({ code }))).rejects.toMatchObject({ code: 'sale-invalid' });
    await expect(
      planLookedAt(world.ctx, actor, plan({ terms: { kind: 'price', amountMinor: 900, currency: 'GBP' } })),
    ).rejects.toMatchObject({ code: 'sale-invalid' });
  });

  it('is planned once, however many ask for it at the same time', async () => {
    const asked = await Promise.allSettled(
      Array.from({ length: 8 }, () => planSale(world.ctx, actor, plan({ code: 'ATONCE' }))),
    );
    const planned = asked.flatMap((one) => (one.status === 'fulfilled' ? [one.value] : []));
    expect(planned).toHaveLength(1);
    for (const one of asked) if (one.status === 'rejected') expect(one.reason).toMatchObject({ code: 'code-taken' });
    await stopSale(world.ctx, actor, planned[0]!.id);
  });

  it('holds in the shop from its begin to its end by the clock, and no price moves', async () => {
    const before = await prices();
    const { id } = await planLookedAt(world.ctx, actor, plan());
    await turn(1);
    expect(await thereNow()).toEqual([]);
    await Promise.all([turnSales(later(3)), turnSales(later(3))]);
    await runJobs(later(3));
    expect(await thereNow()).toEqual([{ code: 'EBB10', off: { kind: 'share', ppm: 50_000 }, externalIds: null }]);
    expect(await prices()).toEqual(before);
    await turn(11);
    expect(await thereNow()).toEqual([]);
    expect(await findSale(world.ctx, actor.workspaceId, id)).toMatchObject({
      state: 'ended',
      report: { begun: { sent: 1, left: [] }, ended: { sent: 1, left: [] } },
    });
  });

  it('names the listings that it is for, in the shop’s currency; ending it by hand takes it out', async () => {
    const { kind } = (await loadBundle(world.ctx, actor.workspaceId, product.id)).blank;
    const scope = { ...EVERYTHING, kinds: [kind] };
    const sum = { kind: 'sum', amountMinor: 100, currency: 'GBP' } as const;
    const { id } = await planLookedAt(world.ctx, actor, plan({ code: 'TEES', terms: sum, scope }));
    await turn(3);
    const [there] = await thereNow();
    // 1.00 GBP at 1.312
    expect(there).toMatchObject({
      code: 'TEES',
      off: { kind: 'sum', amountMinor: 131 },
      externalIds: [expect.any(String)],
    });
    await stopSale(world.ctx, actor, id);
    await runJobs(world.ctx);
    expect(await thereNow()).toEqual([]);
    const none = await planLookedAt(world.ctx, actor, plan({ code: 'CAPS', scope: { ...EVERYTHING, kinds: ['Cap'] } }));
    await turn(3);
    expect((await findSale(world.ctx, actor.workspaceId, none.id)).report?.begun).toMatchObject({
      sent: 0,
      left: [{ productId: null, storeId: store.id, why: expect.stringContaining('None of what it is for') }],
    });
    await stopSale(world.ctx, actor, none.id);
    await runJobs(world.ctx);
  });

  it('is left to a person where a shop takes no codes, and tried again where it is down', async () => {
    const { id } = await planLookedAt(world.ctx, actor, plan({ code: 'BYHAND' }));
    const shop = world.ctx.channels.get('pennyquay')!;
    const deaf = {
      ...later(3),
      channels: new Map([['pennyquay', { ...shop, about: { ...shop.about, takesCodes: false } }]]),
    };
    await turnSales(deaf);
    await runJobs(deaf);
    expect((await findSale(world.ctx, actor.workspaceId, id)).report?.begun).toMatchObject({
      sent: 0,
      left: [{ why: expect.stringContaining('make it there by hand') }],
    });
    await stopSale(world.ctx, actor, id);
    await runJobs(world.ctx);
    const again = await planLookedAt(world.ctx, actor, plan({ code: 'AGAIN' }));
    await (await fetch(`${world.shop.url}/control/faults`, { method: 'POST', body: '{"unavailable":1}' })).text();
    await turn(3);
    await world.ctx.db.run("UPDATE job SET run_after = UTC_TIMESTAMP(3) WHERE state = 'queued'");
    await runJobs(later(3));
    expect((await thereNow()).map(({ code }) => code)).toEqual(['AGAIN']);
    await stopSale(world.ctx, actor, again.id);
    await runJobs(world.ctx);
  });

  it('counts the sales of its time in, and is told where a sale is planned over it', async () => {
    const sale = await planSale(
      world.ctx,
      actor,
      plan({ name: 'Ebb week', code: null, terms: { kind: 'share', ppm: 900_000 } }),
    );
    const onSale = await previewSale(world.ctx, actor, plan());
    // The sale lies at the floor: whatever is taken off more is lost.
    expect([onSale.losing, onSale.deepest[0]!.sumMinor]).toEqual([7, 0]);
    await stopSale(world.ctx, actor, sale.id);
    const code = await planLookedAt(world.ctx, actor, plan());
    const deep = await previewSale(world.ctx, actor, plan({ code: null, terms: { kind: 'share', ppm: 900_000 } }));
    expect([deep.held, deep.losing, deep.losingWithCode]).toEqual([7, 0, 7]);
    const apart = await previewSale(
      world.ctx,
      actor,
      plan({
        code: null,
        terms: { kind: 'share', ppm: 900_000 },
        startsAt: new Date(Date.now() + 10 * HOUR),
        endsAt: new Date(Date.now() + 12 * HOUR),
      }),
    );
    expect(apart.losingWithCode).toBe(0);
    await stopSale(world.ctx, actor, code.id);
  });

  it('is of its workspace alone', async () => {
    const { id } = await planLookedAt(world.ctx, actor, plan({ code: 'MINE' }));
    const stranger = await makeActor(world.ctx);
    await expect(stopSale(world.ctx, stranger, id)).rejects.toMatchObject({ code: 'not-found' });
    await planLookedAt(world.ctx, stranger, plan({ code: 'MINE' }));
    await stopSale(world.ctx, actor, id);
  });
});
