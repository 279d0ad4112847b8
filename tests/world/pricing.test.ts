import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { diff } from '@/core/document/patch';
import type { ProductDocument } from '@/core/document/document';
import { setAimForAll, setAims } from '@/core/pricing/fixing';
import { baseOutlet } from '@/core/pricing/outlet';
import { pricer } from '@/core/pricing/pricer';
import type { Fee } from '@/core/pricing/fees';
import { PLAIN_SETTINGS, type MoneySettings } from '@/core/pricing/settings';
import { browseCatalog } from '@/server/catalog/shelf';
import { acceptFloor, withdrawFloor } from '@/server/listings/floor';
import { requestSend } from '@/server/listings/request-send';
import { prepareListing } from '@/server/listings/prepare';
import type { Actor } from '@/server/people/people';
import { NEWEST, priceHistory, type HistoryQuery } from '@/server/pricing/history';
import { deleteRule, listRules, saveRule } from '@/server/pricing/rules';
import { findStore, outletOf } from '@/server/stores/stores';
import { keepFees } from '@/server/stores/fees';
import { loadMoney, saveMoneySettings } from '@/server/pricing/settings';
import { exportPrices, previewCodes, previewPrices, refuseFaulty } from '@/server/pricing/sheet';
import { loadBundle } from '@/server/products/bundle';
import { patchProduct } from '@/server/products/patch';
import { createProduct, type Product } from '@/server/products/products';
import { splitProduct } from '@/server/products/split';
import { forgetRates, saveRates, loadExchangeRates, readRates } from '@/server/rates/rates';
import type { Store } from '@/server/stores/stores';
import { parseQuery } from '@/core/shelf/query';
import {
  connectStore,
  findBlank,
  makeActor,
  makeTee,
  makeWorld,
  runJobs,
  streamOf,
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
  await saveMoneySettings(world.ctx, actor, PLAIN_SETTINGS);
  ({ product } = await makeTee(world.ctx, actor));
});

const bundle = () => loadBundle(world.ctx, actor.workspaceId, product.id);
const change = async (next: (doc: ProductDocument) => ProductDocument, label = '') => {
  const { product: now } = await bundle();
  return patchProduct(world.ctx, actor, now.id, now.revision, diff(now.document, next(now.document)), { label });
};
const priced = async () => {
  const { product: now, blank, list, rates, settings, home } = await bundle();
  const outlet = baseOutlet('GBP', home, settings);
  return pricer(now.document, { blank, list, rates, outlet, settings })(Object.keys(now.document.variants)[0]!);
};

describe('what holds for all prices', () => {
  it('is kept whole, refused with all faults, and of no other workspace', async () => {
    const settings: MoneySettings = {
      ...PLAIN_SETTINGS,
      rateMarginPpm: 20_000,
      taxes: [{ country: 'GB', label: 'VAT', ratePpm: 200_000, inside: true }],
      discounts: {},
      mix: [{ country: 'US', weight: 3 }],
    };
    await saveMoneySettings(world.ctx, actor, settings);
    expect((await loadMoney(world.ctx, actor.workspaceId)).settings).toEqual(settings);
    await expect(
      saveMoneySettings(world.ctx, actor, { ...settings, rateMarginPpm: -1, mix: [{ country: 'X', weight: 0 }] }),
    ).rejects.toMatchObject({
      code: 'settings-invalid',
      fields: { faults: { length: 3 } },
    });
    const other = await makeActor(world.ctx);
    expect((await loadMoney(world.ctx, other.workspaceId)).settings).toEqual(PLAIN_SETTINGS);
  });

  it('counts a partner’s discount in every landed cost: on the bench and on Blanks', async () => {
    const { blank } = await bundle();
    const before = await priced();
    const landed = async () => {
      const found = await browseCatalog(
        world.ctx,
        actor,
        parseQuery(new URLSearchParams('q=towpath+tee&from=GB&to=GB'), actor.currency, actor.country),
      );
      return found.rows.find((row) => row.blank.id === blank.id)!.landedTotalMinor!;
    };
    const shelf = await landed();
    await saveMoneySettings(world.ctx, actor, { ...PLAIN_SETTINGS, discounts: { [blank.partner.id]: 100_000 } });
    const after = await priced();
    const taken = Math.round(before.terms.landed.makingMinor * 0.1);
    expect(after.terms.landed.makingMinor).toBe(before.terms.landed.makingMinor - taken);
    expect(after.quote.retailMinor).toBeLessThan(before.quote.retailMinor);
    expect(await landed()).toBeLessThan(shelf);
  });

  it('takes exchange rates that are typed or from a file, and goes back to the shared ones', async () => {
    const rate = async () =>
      (await loadExchangeRates(world.ctx, actor.workspaceId)).find((one) => one.from + one.to === 'GBPUSD')!;
    const shared = await rate();
    expect(shared.own).toBe(false);
    const keep = (from: string, to: string, rate: string, date: string, sure = false) =>
      saveRates(world.ctx, actor, [{ from, to, rate, date }], { source: 'typed in', sure });
    await keep('GBP', 'USD', '1.5', '2026-11-02');
    // A slip of the point is not taken, unless it is meant; a day that is not there never is.
    await expect(keep('GBP', 'USD', '13.12', '2026-11-02')).rejects.toMatchObject({ code: 'rate-jump' });
    await expect(keep('GBP', 'USD', '1.3', '2026-02-30')).rejects.toMatchObject({ code: 'rate-invalid' });
    await keep('GBP', 'JPY', '1900', '2020-01-03', true);
    // Its own holds in both directions, however old it is, until it is taken away.
    await keep('USD', 'GBP', '0.7', '2019-01-02');
    const pairs = (await loadExchangeRates(world.ctx, actor.workspaceId)).map((one) => one.from + one.to);
    expect(pairs.filter((pair) => pair.includes('GBP') && pair.includes('USD'))).toEqual(['GBPUSD', 'USDGBP']);
    expect(pairs.filter((pair) => pair.includes('GBP') && pair.includes('JPY'))).toEqual(['GBPJPY']);
    await forgetRates(world.ctx, actor, 'JPY-GBP');
    await world.ctx.db.run("DELETE FROM exchange_rate WHERE workspace_id = ? AND from_currency = 'USD'", [
      actor.workspaceId,
    ]);
    expect(await rate()).toMatchObject({ rate: '1.5', own: true, date: '2026-11-02' });
    expect(await readRates(world.ctx, actor, streamOf('from,to,rate,date\nGBP,USD,1.6,2026-11-03\n'))).toBe(1);
    expect((await rate()).rate).toBe('1.6');
    await expect(
      readRates(world.ctx, actor, streamOf('from,to,rate,date\nGBP,USD,0,2026-11-04\nGBP,EUR,1,soon\n')),
    ).rejects.toMatchObject({
      code: 'csv-faulty',
      fields: { faults: { length: 2 } },
    });
    await forgetRates(world.ctx, actor, 'GBP-USD');
    expect(await rate()).toEqual(shared);
  });
});

describe('what a store takes', () => {
  const fee = { id: 'own-1', label: 'Commission', of: 'item', ratePpm: 100_000, per: 'order', fixedMinor: 0 } as const;
  const taken = async () => outletOf(world.ctx, await findStore(world.ctx, actor.workspaceId, store.id)).fees;
  const keep = async (scope: 'store' | 'channel', fees: readonly Fee[] | null) =>
    keepFees(world.ctx, actor, await findStore(world.ctx, actor.workspaceId, store.id), scope, fees);

  it('is what the channel publishes, until it is typed for all stores on it, or for the one; the day decides, and each edit is kept', async () => {
    const published = await taken();
    expect(published.map(({ id }) => id)).toEqual(['commission', 'payment', 'listing']);
    await keep('channel', [fee, { ...fee, id: 'own-2', firstDay: '2099-01-01' }]);
    expect((await taken()).map(({ id }) => id)).toEqual(['own-1']);
    // Sums are in a currency: another one's stores keep what is published.
    const currencyIs = (code: string) =>
      world.ctx.db.run('UPDATE store SET currency = ? WHERE id = ?', [code, store.id]);
    await currencyIs('EUR');
    expect((await taken()).map(({ id }) => id)).toEqual(['commission', 'payment', 'listing']);
    await currencyIs('USD');
    await keep('store', [{ ...fee, ratePpm: 1 }]);
    expect(await taken()).toEqual([{ ...fee, ratePpm: 1 }]);
    await keep('store', null);
    expect((await taken()).map(({ ratePpm }) => ratePpm)).toEqual([100_000]);
    const told = await keep('channel', null);
    expect(await taken()).toEqual(published);
    expect(told.history.map(({ scope, fees }) => [scope, fees?.length ?? null])).toEqual([
      ['channel', null],
      ['store', null],
      ['store', 1],
      ['channel', 2],
    ]);
    await expect(keep('store', [fee, { ...fee, id: 'own-2', ratePpm: 900_000 }])).rejects.toMatchObject({
      code: 'fees-invalid',
      message: expect.stringContaining('would take 100 % of the price'),
    });
    const stranger = await makeActor(world.ctx);
    await expect(findStore(world.ctx, stranger.workspaceId, store.id)).rejects.toMatchObject({ code: 'not-found' });
  });
});

describe('prices', () => {
  it('have a history: who fixed what, and when', async () => {
    const [key] = Object.keys(product.document.variants);
    await change((doc) => setAims(doc, null, [key!], { kind: 'retail', amountMinor: 2500 }));
    await change((doc) => setAims(doc, store.id, [key!], { kind: 'profit', amountMinor: 700 }));
    const history = await priceHistory(world.ctx, product.id);
    expect(history.slice(0, 2)).toMatchObject([
      {
        storeId: store.id,
        variantKey: key,
        what: 'aim',
        was: null,
        now: { kind: 'profit', amountMinor: 700 },
        by: actor.personName,
      },
      { storeId: null, variantKey: key, now: { kind: 'retail', amountMinor: 2500 } },
    ]);
    // A page at a time, down to the first change of all.
    const pages: string[] = [];
    for (let before: number | null = null; ;) {
      const page = await priceHistory(world.ctx, product.id, { ...NEWEST, before, limit: 1 });
      if (page.length === 0) break;
      pages.push(page[0]!.storeId ?? 'base');
      before = page[0]!.id;
    }
    expect(pages).toEqual([store.id, 'base']);
    const only = async (also: Partial<HistoryQuery>) =>
      (await priceHistory(world.ctx, product.id, { ...NEWEST, ...also })).length;
    expect([
      await only({ store: 'base' }),
      await only({ store: store.id }),
      await only({ variant: 'no=such' }),
      await only({ person: actor.personId }),
      await only({ person: 'nobody' }),
    ]).toEqual([1, 1, 0, 2, 0]);
  });

  it('go out as CSV and come back: what would change is told first, faults by line, and a file with faults changes nothing', async () => {
    const csv = await exportPrices(world.ctx, await bundle());
    const lines = csv.trim().split('\r\n');
    expect(lines[0]).toBe('variant,sku,name,store,currency,cost,left,price,profit,margin,markup');
    const variants = Object.keys(product.document.variants).length;
    // For all stores, and for the one.
    expect(lines).toHaveLength(1 + 2 * variants);
    expect(await previewPrices(world.ctx, await bundle(), Buffer.from(csv))).toMatchObject({
      changes: [],
      faults: [],
      same: 2 * variants,
    });
    const dearer = `${lines[0]}\r\n${lines[1]!.replace(/,[^,]*,[^,]*,[^,]*,[^,]*$/, ',25.00,,,')}\r\nnobody,,,,,,,10,,,\r\n`;
    const preview = await previewPrices(world.ctx, await bundle(), Buffer.from(dearer));
    expect(preview.changes).toMatchObject([{ line: 2, now: { kind: 'retail', amountMinor: 2500 } }]);
    expect(preview.faults).toMatchObject([{ line: 3, code: 'csv-variant-unknown' }]);
    expect(() => refuseFaulty(preview)).toThrow(/line 3/);
    const codes = await previewCodes(
      await bundle(),
      Buffer.from(`variant,gtin\n${Object.keys(product.document.variants)[0]},6291041500213\n`),
    );
    expect(codes).toMatchObject({ changes: [{ gtin: '6291041500213' }], faults: [] });
  });

  it('below the floor keep a product from being sent until somebody takes it upon themselves, as it stands', async () => {
    await change((doc) => setAimForAll(doc, null, { kind: 'retail', amountMinor: 100 }));
    const send = async () => requestSend(world.ctx, await bundle(), store, 'draft');
    const floor = async () =>
      prepareListing(world.ctx, await bundle(), store).rules.find((rule) => rule.id === 'floor')!;
    await expect(send()).rejects.toMatchObject({ code: 'rules-broken' });
    expect(await floor()).toMatchObject({ kept: false, acceptable: true });
    await acceptFloor(world.ctx, actor, await bundle(), store);
    expect(await floor()).toMatchObject({ kept: true, acceptedBy: actor.personName });
    await expect(send()).resolves.toHaveProperty('jobId');
    await runJobs(world.ctx);
    // What loses less is covered; what loses more, or where nothing was lost, is open again.
    await change((doc) => setAimForAll(doc, null, { kind: 'retail', amountMinor: 110 }));
    expect((await floor()).kept).toBe(true);
    await change((doc) => setAimForAll(doc, null, { kind: 'retail', amountMinor: 90 }));
    expect(await floor()).toMatchObject({ kept: false, acceptable: true });
    await acceptFloor(world.ctx, actor, await bundle(), store);
    await withdrawFloor(world.ctx, actor, product.id, store.id);
    expect((await floor()).kept).toBe(false);
    await change((doc) => setAimForAll(doc, null, { kind: 'margin', ppm: 400_000 }));
    await expect(acceptFloor(world.ctx, actor, await bundle(), store)).rejects.toMatchObject({ code: 'floor-kept' });
  });
});

describe('price rules', () => {
  it('are kept by name, and one of them prices new products', async () => {
    const { ctx } = world;
    const own = await makeActor(ctx);
    const rule = {
      aim: { kind: 'markup', ppm: 1_200_000 },
      ending: '.95',
      shipping: 'folded',
      differences: {},
    } as const;
    const kept = await saveRule(ctx, own, { name: 'Tees', rule, forNew: true });
    await saveRule(ctx, own, { name: 'Posters', rule: { ...rule, ending: '.00' }, forNew: false });
    const { id: blankId } = await findBlank(ctx, 'millrace', 'towpath-tee');
    const { document } = await createProduct(ctx, own, { blankId });
    expect(document.price.base).toMatchObject({ aim: rule.aim, ending: '.95', shipping: 'folded' });
    // The same name again takes its place, and there is one for new products at the most.
    await saveRule(ctx, own, { name: 'Posters', rule, forNew: true });
    expect((await listRules(ctx, own.workspaceId)).map(({ name, forNew }) => [name, forNew])).toEqual([
      ['Posters', true],
      ['Tees', false],
    ]);
    await expect(
      saveRule(ctx, own, { name: 'x', rule: { ...rule, aim: { kind: 'margin', ppm: 2_000_000 } }, forNew: false }),
    ).rejects.toMatchObject({ code: 'rule-invalid' });
    await expect(deleteRule(ctx, actor, kept.id)).rejects.toMatchObject({ code: 'not-found' });
    await deleteRule(ctx, own, kept.id);
    expect(await listRules(ctx, own.workspaceId)).toHaveLength(1);
  });
});

describe('variants', () => {
  it('keep the SKU that a shop has seen, whatever pattern comes later', async () => {
    await requestSend(world.ctx, await bundle(), store, 'draft');
    await runJobs(world.ctx);
    const before = prepareListing(world.ctx, await bundle(), store).form!;
    await change((doc) => ({ ...doc, skuPattern: 'NEW-{options}' }));
    const after = await bundle();
    expect(prepareListing(world.ctx, after, store).form!.variants).toEqual(before.variants);
    expect(Object.keys(after.sentSkus)).toHaveLength(Object.keys(before.variants).length);
  });

  it('that are out of stock are left out of listings by choice', async () => {
    const { blank } = await bundle();
    const keys = Object.keys(product.document.variants);
    const gone = keys[0]!;
    const b = await bundle();
    const thin = {
      ...b,
      blank: {
        ...blank,
        variants: blank.variants.map((v) => (v.key === gone ? { ...v, stock: 0, inStock: false } : v)),
      },
    };
    expect(prepareListing(world.ctx, thin, store).form!.variants[gone]).toMatchObject({ inStock: false });
    const hidden = {
      ...thin,
      product: { ...thin.product, document: { ...thin.product.document, whenOut: 'hidden' as const } },
    };
    expect(Object.keys(prepareListing(world.ctx, hidden, store).form!.variants)).toHaveLength(keys.length - 1);
  });

  it('split into two products by color: the second with the same design, prices and words', async () => {
    const keys = Object.keys(product.document.variants);
    const moved = keys.slice(0, keys.length / 2);
    const { first, second } = await splitProduct(world.ctx, actor, product.id, {
      variantKeys: moved,
      title: 'The other half',
    });
    expect(Object.keys(first.document.variants).sort()).toEqual(keys.filter((key) => !moved.includes(key)).sort());
    expect(Object.keys(second.document.variants).sort()).toEqual([...moved].sort());
    expect(second.document.areas).toEqual(product.document.areas);
    expect(second).toMatchObject({ title: 'The other half' });
    await expect(splitProduct(world.ctx, actor, first.id, { variantKeys: moved, title: '' })).rejects.toMatchObject({
      code: 'split-empty',
    });
  });
});
