import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { diff } from '@/core/document/patch';
import { setAimForAll } from '@/core/pricing/fixing';
import type { SaleScope } from '@/core/pricing/sale-scope';
import type { Context } from '@/server/context';
import { listingsOf, listingView } from '@/server/listings/listings';
import { requestSend } from '@/server/listings/request-send';
import { prepareListing } from '@/server/listings/prepare';
import type { Actor } from '@/server/people/people';
import { loadBundle } from '@/server/products/bundle';
import { patchProduct } from '@/server/products/patch';
import type { Product } from '@/server/products/products';
import { previewSale } from '@/server/sales/preview';
import { findSale, listSales, planSale, stopSale, turnSales, type SalePlan } from '@/server/sales/sales';
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
  ({ product } = await makeTee(world.ctx, actor, 'Sold tee', ['coal']));
  await requestSend(world.ctx, await loadBundle(world.ctx, actor.workspaceId, product.id), store, 'live');
  await runJobs(world.ctx);
});
afterAll(() => world.close());

const HOUR = 3_600_000;
/** The same desk, so many hours later. */
const later = (hours: number): Context => ({
  ...world.ctx,
  clock: { ...world.ctx.clock, now: () => new Date(Date.now() + hours * HOUR) },
});
const EVERYTHING: SaleScope = { storeIds: [], productIds: [], kinds: [], tags: [] };
const plan = (also: Partial<SalePlan> = {}): SalePlan => ({
  name: 'Ebb week',
  terms: { kind: 'share', ppm: 200_000 },
  scope: EVERYTHING,
  startsAt: new Date(Date.now() + 2 * HOUR),
  endsAt: new Date(Date.now() + 10 * HOUR),
  ...also,
});
const offers = async () => {
  const item = (await world.shopItems()).find(({ headline }) => headline.startsWith('Sold'))!;
  return item.offers as unknown as { sku: string; price: string; before: string | null }[];
};
const view = async (ctx: Context) => {
  const bundle = await loadBundle(ctx, actor.workspaceId, product.id);
  const [row] = await listingsOf(ctx.db, actor.workspaceId, [product.id]);
  return listingView(store, { number: 1, row: row! }, prepareListing(ctx, bundle, store));
};
const turn = async (hours: number) => {
  await turnSales(later(hours));
  await runJobs(later(hours));
};
const cents = (text: string) => Math.round(Number(text) * 100);

describe('a sale', () => {
  it('is looked at before it is planned, product by product, and held to the floor', async () => {
    const { lines, products, held, losing } = await previewSale(world.ctx, actor, plan());
    expect([products, lines.length, held, losing]).toEqual([1, 1, 0, 0]);
    const [line] = lines;
    expect(line).toMatchObject({ productId: product.id, storeId: store.id, currency: 'USD', variants: 7 });
    expect(line!.then[0]).toBe(line!.before[0] - Math.round(line!.before[0] * 0.2));
    const deep = await previewSale(world.ctx, actor, plan({ terms: { kind: 'share', ppm: 900_000 } }));
    expect([deep.held, deep.losing]).toEqual([7, 0]);
    const none = await previewSale(world.ctx, actor, plan({ scope: { ...EVERYTHING, kinds: ['Cap'] } }));
    expect(none.products).toBe(0);
    await expect(
      previewSale(world.ctx, actor, plan({ endsAt: new Date(0), terms: { kind: 'share', ppm: 1_000_000 } })),
    ).rejects.toMatchObject({ code: 'sale-invalid', fields: { faults: { length: 3 } } });
  });

  it('begins and ends by the clock, with the price to compare with, once', async () => {
    const before = await offers();
    const { id } = await planSale(world.ctx, actor, plan());
    await turn(1);
    expect(await offers()).toEqual(before);
    await Promise.all([turnSales(later(3)), turnSales(later(3))]);
    await runJobs(later(3));
    const during = await offers();
    for (const [i, { price, before: was }] of during.entries()) {
      expect(was).toBe(before[i]!.price);
      expect(cents(price)).toBe(cents(before[i]!.price) - Math.round(cents(before[i]!.price) * 0.2));
    }
    expect((await view(later(3))).state).toBe('in-step');
    expect(await findSale(world.ctx, actor.workspaceId, id)).toMatchObject({
      state: 'running',
      report: { begun: { sent: 1, left: [] } },
    });
    await turn(11);
    expect(await offers()).toEqual(before);
    expect((await view(later(11))).state).toBe('in-step');
    expect(await findSale(world.ctx, actor.workspaceId, id)).toMatchObject({
      state: 'ended',
      report: { ended: { sent: 1, left: [] } },
    });
  });

  it('sends no edit that was not sent, and says so; stopping it takes it back', async () => {
    const { document, revision } = (await loadBundle(world.ctx, actor.workspaceId, product.id)).product;
    const edited = {
      ...document,
      words: { ...document.words, base: { ...document.words.base, title: 'Sold tee, edited' } },
    };
    const patched = await patchProduct(world.ctx, actor, product.id, revision, diff(document, edited));
    const before = await offers();
    const { id } = await planSale(world.ctx, actor, plan({ name: 'Left alone' }));
    await turn(3);
    expect(await offers()).toEqual(before);
    expect((await findSale(world.ctx, actor.workspaceId, id)).report?.begun).toEqual({
      sent: 0,
      left: [{ productId: product.id, storeId: store.id, why: 'It has changes that were not sent.' }],
    });
    await stopSale(world.ctx, actor, id);
    await patchProduct(world.ctx, actor, product.id, patched.revision, diff(edited, document));
    await runJobs(later(4));
    const again = await planSale(world.ctx, actor, plan({ name: 'Stopped' }));
    await turn(3);
    expect(await offers()).not.toEqual(before);
    expect(await stopSale(world.ctx, actor, again.id)).toMatchObject({ state: 'stopped' });
    await runJobs(later(4));
    expect(await offers()).toEqual(before);
    expect(await stopSale(world.ctx, actor, again.id)).toMatchObject({ state: 'stopped' });
  });

  it('is taken back from a product that was edited while it ran, and the edit stays unsent', async () => {
    const before = await offers();
    const { id } = await planSale(world.ctx, actor, plan({ name: 'Edited in it' }));
    await turn(3);
    expect(await offers()).not.toEqual(before);
    const { document, revision } = (await loadBundle(world.ctx, actor.workspaceId, product.id)).product;
    const edited = {
      ...document,
      words: { ...document.words, base: { ...document.words.base, title: 'Sold tee, edited in it' } },
    };
    const patched = await patchProduct(world.ctx, actor, product.id, revision, diff(document, edited));
    await turn(11);
    expect(await offers()).toEqual(before);
    expect((await world.shopItems()).some(({ headline }) => headline === 'Sold tee, edited in it')).toBe(false);
    expect((await view(later(11))).state).toBe('ahead');
    expect((await findSale(world.ctx, actor.workspaceId, id)).report?.ended).toEqual({ sent: 1, left: [] });
    await patchProduct(world.ctx, actor, product.id, patched.revision, diff(edited, document));
    expect((await view(later(11))).state).toBe('in-step');
  });

  it('that was over before anybody looked is ended and not sent; it is of its workspace alone', async () => {
    const before = await offers();
    const { id } = await planSale(world.ctx, actor, plan({ name: 'Missed' }));
    await turn(50);
    expect(await findSale(world.ctx, actor.workspaceId, id)).toMatchObject({ state: 'ended', report: null });
    expect(await offers()).toEqual(before);
    const stranger = await makeActor(world.ctx);
    await expect(stopSale(world.ctx, stranger, id)).rejects.toMatchObject({ code: 'not-found' });
    expect(await listSales(world.ctx, stranger.workspaceId)).toEqual([]);
    expect((await previewSale(world.ctx, stranger, plan())).products).toBe(0);
  });

  it('moves no price that loses money already, and none up', async () => {
    const { document, revision } = (await loadBundle(world.ctx, actor.workspaceId, product.id)).product;
    const cheap = setAimForAll(document, null, { kind: 'retail', amountMinor: 100 });
    await patchProduct(world.ctx, actor, product.id, revision, diff(document, cheap));
    const { lines } = await previewSale(
      world.ctx,
      actor,
      plan({ terms: { kind: 'price', amountMinor: 9900, currency: 'GBP' } }),
    );
    expect(lines[0]!.then).toEqual(lines[0]!.before);
    const down = await previewSale(world.ctx, actor, plan());
    expect(down.lines[0]!.then).toEqual(down.lines[0]!.before);
    expect(down.losing).toBe(7);
  });
});
