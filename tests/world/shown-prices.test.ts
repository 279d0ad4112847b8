import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { diff } from '@/core/document/patch';
import type { ProductDocument } from '@/core/document/document';
import { setAimForAll, setAims } from '@/core/pricing/fixing';
import { withRule, type PriceRule } from '@/core/pricing/rule';
import { PLAIN_SETTINGS } from '@/core/pricing/settings';
import { requestSend } from '@/server/listings/request-send';
import { MAX_SHOWN, shownPrices, type ShownQuery } from '@/server/listings/shown-prices';
import type { Actor } from '@/server/people/people';
import { applyAllPrices } from '@/server/pricing/bulk-tasks';
import { priceHistory } from '@/server/pricing/history';
import { saveRule } from '@/server/pricing/rules';
import { saveMoneySettings } from '@/server/pricing/settings';
import { loadBundle } from '@/server/products/bundle';
import { patchProduct } from '@/server/products/patch';
import type { Product } from '@/server/products/products';
import { saveRates } from '@/server/rates/rates';
import { planSale, turnSales } from '@/server/sales/sales';
import { keepFees } from '@/server/stores/fees';
import { findStore, type Store } from '@/server/stores/stores';
import { connectStore, makeActor, makeTee, makeWorld, runJobs, type World } from '../support/world';

let world: World;
let actor: Actor;
let store: Store;
let product: Product;
let key: string;
beforeAll(async () => {
  world = await makeWorld({ catalog: true });
  actor = await makeActor(world.ctx);
  store = await connectStore(world, actor);
  ({ product } = await makeTee(world.ctx, actor, 'Shown tee', ['coal']));
  key = Object.keys(product.document.variants)[0]!;
  await edit((doc) => setAimForAll(doc, null, { kind: 'margin', ppm: 400_000 }));
});
afterAll(() => world.close());

const ALL: ShownQuery = { store: null, variant: null, person: null, cause: null, before: null, limit: MAX_SHOWN };
const shown = (also: Partial<ShownQuery> = {}) => shownPrices(world.ctx, product.id, { ...ALL, ...also });
const bundle = () => loadBundle(world.ctx, actor.workspaceId, product.id);
const edit = async (next: (doc: ProductDocument) => ProductDocument) => {
  const { product: now } = await bundle();
  await patchProduct(world.ctx, actor, now.id, now.revision, diff(now.document, next(now.document)));
};
/** Sends the product; gives what the shop shows of it that it did not show before. */
const send = async () => {
  const [last] = await shown({ limit: 1 });
  await requestSend(world.ctx, await bundle(), await findStore(world.ctx, actor.workspaceId, store.id), 'live');
  await runJobs(world.ctx);
  return (await shown()).filter(({ id }) => id > (last?.id ?? 0));
};
const offered = async () => {
  const item = (await world.shopItems()).find(({ headline }) => headline.startsWith('Shown'))!;
  return (item.offers as unknown as { price: string }[]).map(({ price }) => Math.round(Number(price) * 100)).toSorted();
};
const causesOf = (prices: readonly { causes: readonly string[] }[]) => [
  ...new Set(prices.map(({ causes }) => causes.join())),
];

describe('prices that a shop shows', () => {
  it('are written down as the shop has them, once, from the first', async () => {
    const first = await send();
    expect(first.map(({ priceMinor }) => priceMinor).toSorted()).toEqual(await offered());
    expect(first[0]).toMatchObject({
      storeId: store.id,
      currency: 'USD',
      causes: ['first'],
      by: null,
      compareAtMinor: null,
    });
    expect(await send()).toEqual([]);
  });

  it('are told with the edit that moved them, and whose it was', async () => {
    await edit((doc) => setAims(doc, null, [key], { kind: 'margin', ppm: 450_000 }));
    const typed = await send();
    expect(typed).toMatchObject([
      { variantKey: key, causes: ['typed'], by: actor.personName, personId: actor.personId },
    ]);
    const rule: PriceRule = {
      aim: { kind: 'margin', ppm: 500_000 },
      ending: '.99',
      shipping: 'charged',
      differences: {},
    };
    await saveRule(world.ctx, actor, { name: 'Half', rule, forNew: false });
    await edit((doc) => withRule(doc, rule));
    const ruled = await send();
    expect([ruled.length, causesOf(ruled)]).toEqual([7, ['rule']]);
    expect((await priceHistory(world.ctx, product.id))[0]!.cause).toBe('rule');
    const { batchId } = await applyAllPrices(world.ctx, {
      actor,
      csv: Buffer.from(`product,variant,price\n${product.id},${key},30.00\n`),
    });
    expect(batchId).toBeTruthy();
    expect(await send()).toMatchObject([{ variantKey: key, causes: ['file'] }]);
  });

  it('are told with what moved them from outside: a rate, a fee, a setting', async () => {
    const rate = (text: string) =>
      saveRates(world.ctx, actor, [{ from: 'GBP', to: 'USD', rate: text, date: '2026-11-20' }], {
        source: 'typed in',
        sure: true,
      });
    await rate('1.5');
    expect(causesOf(await send())).toEqual(['rate']);
    const fee = { id: 'own-1', label: 'Cut', of: 'item', ratePpm: 150_000, per: 'order', fixedMinor: 0 } as const;
    await keepFees(world.ctx, actor, await findStore(world.ctx, actor.workspaceId, store.id), 'store', [fee]);
    const feed = await send();
    expect([causesOf(feed), feed[0]!.by]).toEqual([['fee'], null]);
    await saveMoneySettings(world.ctx, actor, { ...PLAIN_SETTINGS, rateMarginPpm: 100_000 });
    expect(causesOf(await send())).toEqual(['settings']);
  });

  it('are told with a sale, at its begin and at its end, also where an edit waits', async () => {
    const HOUR = 3_600_000;
    const at = (hours: number) => ({
      ...world.ctx,
      clock: { ...world.ctx.clock, now: () => new Date(Date.now() + hours * HOUR) },
    });
    await planSale(world.ctx, actor, {
      name: 'Ebb week',
      terms: { kind: 'share', ppm: 100_000 },
      scope: { storeIds: [], productIds: [], kinds: [], tags: [] },
      startsAt: new Date(Date.now() + HOUR),
      endsAt: new Date(Date.now() + 5 * HOUR),
    });
    const before = await offered();
    const turn = async (hours: number) => {
      const [last] = await shown({ limit: 1 });
      await turnSales(at(hours));
      await runJobs(at(hours));
      return (await shown()).filter(({ id }) => id > last!.id);
    };
    const begun = await turn(2);
    expect([begun.length, causesOf(begun)]).toEqual([7, ['sale']]);
    expect(begun.map(({ compareAtMinor }) => compareAtMinor).toSorted()).toEqual(before);
    await edit((doc) => setAimForAll(doc, null, { kind: 'margin', ppm: 300_000 }));
    const ended = await turn(6);
    expect([ended.length, causesOf(ended)]).toEqual([7, ['sale']]);
    expect(ended.map(({ priceMinor }) => priceMinor).toSorted()).toEqual(before);
    // The edit goes out with the next sending, and is told then.
    expect(causesOf(await send())).toEqual(['typed']);
  });

  it('are found by store, variant, person and cause, a page at a time down to the first', async () => {
    const whole = await shown();
    const pages: number[] = [];
    for (let before: number | null = null; ;) {
      const page = await shown({ before, limit: 10 });
      if (page.length === 0) break;
      pages.push(...page.map(({ id }) => id));
      before = page.at(-1)!.id;
    }
    expect(pages).toEqual(whole.map(({ id }) => id));
    expect(await shown({ store: 'no-such' })).toEqual([]);
    expect(await shown({ variant: key })).toEqual(whole.filter(({ variantKey }) => variantKey === key));
    expect(await shown({ cause: 'sale' })).toEqual(whole.filter(({ causes }) => causes.includes('sale')));
    expect(await shown({ person: actor.personId })).toEqual(whole.filter(({ by }) => by !== null));
  });

  it('end where a variant is taken out', async () => {
    await edit((doc) => {
      const { [key]: _out, ...variants } = doc.variants;
      return { ...doc, variants };
    });
    expect(await send()).toMatchObject([{ variantKey: key, priceMinor: null, causes: ['gone'] }]);
  });
});
