import { parse } from 'csv-parse/sync';
import { Decimal } from 'decimal.js';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { csvLine } from '@/core/partner-file/price-csv';
import { EMPTY_QUERY } from '@/core/shelf/shelf';
import { isTypicaError } from '@/core/errors';
import { baseOutlet } from '@/core/pricing/outlet';
import { pricer } from '@/core/pricing/pricer';
import { variantTroubles } from '@/core/variants/trouble';
import { listsInForce } from '@/server/catalog/offers';
import { browseCatalog } from '@/server/catalog/shelf';
import { requestSend } from '@/server/listings/request-send';
import type { Actor } from '@/server/people/people';
import { exportPriceList } from '@/server/price-lists/export';
import {
  dropPriceList,
  findPriceList,
  listPartners,
  takePriceList,
  uploadPriceList,
  variantChanges,
  type PriceListRow,
  undoPriceList,
} from '@/server/price-lists/price-lists';
import { readPriceList } from '@/server/price-lists/read.job';
import { loadMoney } from '@/server/pricing/settings';
import { loadBundle } from '@/server/products/bundle';
import { createProduct } from '@/server/products/products';
import {
  connectStore,
  findBlank,
  jobOf,
  makeActor,
  makeTee,
  makeWorld,
  runJobs,
  streamOf,
  type World,
} from '../support/world';

let world: World;
let partnerId: string;
beforeAll(async () => {
  world = await makeWorld({ catalog: true });
  partnerId = (await findBlank(world.ctx, 'millrace', 'towpath-tee')).partner.id;
});
afterAll(() => world.close());

type Row = Record<'sku' | 'blank' | 'variant' | 'cost' | 'currency' | 'stock' | 'ended', string>;
const HEADINGS = ['sku', 'blank', 'variant', 'cost', 'currency', 'stock', 'ended'] as const;

/** The list in force as CSV, read by a general CSV package and changed row by row. */
async function csv(actor: Actor, change: (row: Row) => Row | null = (row) => row): Promise<string> {
  let text = '';
  for await (const part of exportPriceList(world.ctx, actor.workspaceId, partnerId)) text += part;
  const rows = parse(text, { columns: true }) as Row[];
  return (
    csvLine(HEADINGS) +
    rows
      .map(change)
      .filter((row) => row !== null)
      .map((row) => csvLine(HEADINGS.map((column) => row[column])))
      .join('')
  );
}
const bring = async (
  actor: Actor,
  text: string | Uint8Array,
  validFrom: string | null = null,
): Promise<PriceListRow> => {
  const { id } = await uploadPriceList(world.ctx, actor, partnerId, streamOf(text), { fileName: 'new.csv', validFrom });
  await runJobs(world.ctx);
  return findPriceList(world.ctx, actor.workspaceId, id);
};
const inForce = async (actor: Actor, day?: string) =>
  (await listsInForce(world.ctx.db, actor.workspaceId, [partnerId], day ?? null)).get(partnerId)!.id;
const rowsOf = async (id: string) =>
  Number(
    (await world.ctx.db.row<{ n: number }>('SELECT COUNT(*) AS n FROM price_list_variant WHERE price_list_id = ?', [
      id,
    ]))!.n,
  );
const thrown = (code: string) => expect.toSatisfy((e: unknown) => isTypicaError(e, code));
const isTee = (row: Row) => row.sku.startsWith('MW-TOWPATHTEE-');
const raised = (by: string) => (row: Row) =>
  isTee(row) ? { ...row, cost: new Decimal(row.cost).plus(by).toFixed(2) } : row;
const teeRow = async (actor: Actor) =>
  (await browseCatalog(world.ctx, actor, { ...EMPTY_QUERY, text: 'towpath', partners: [partnerId] })).rows[0]!;

describe('a partner’s price list', () => {
  it('goes out and comes in again without a change', async () => {
    const actor = await makeActor(world.ctx);
    const text = await csv(actor);
    const list = await bring(actor, text);
    expect(list).toMatchObject({ state: 'ready', report: { blanks: [], effects: [], remarks: [], faultCount: 0 } });
    const rows = text.trimEnd().split('\r\n').length - 1;
    expect(list.report!.totals).toMatchObject({ rows, unchanged: rows, unnamed: 0, up: 0, added: 0 });
    await takePriceList(world.ctx, actor, list.id);
    expect(await csv(actor)).toBe(text);
  });

  it('is compared, taken whole, and holds in one workspace alone', async () => {
    const [one, two] = [await makeActor(world.ctx), await makeActor(world.ctx)];
    const before = await teeRow(one);
    const list = await bring(
      one,
      await csv(one, (row) => {
        const now = raised('0.50')(row);
        if (row.sku === 'MW-TOWPATHTEE-COAL-M') return { ...now, stock: '0' };
        if (row.sku === 'MW-TOWPATHTEE-GORSE-S') return { ...now, ended: 'yes' };
        return row.sku.startsWith('MW-LANDINGTOTE') ? { ...row, cost: '6.00' } : now;
      }),
    );
    const tee = await findBlank(world.ctx, 'millrace', 'towpath-tee');
    // 84 tees in 12 colors and 7 sizes, and 5 totes
    expect(list.report!.totals).toMatchObject({ up: 84, down: 5, ends: 1, runsOut: 1 });
    expect(list.report!.blanks.find((blank) => blank.blankId === tee.id)).toMatchObject({
      up: 84,
      ends: 1,
      runsOut: 1,
    });
    const changes = await variantChanges(world.ctx, list, tee.id);
    expect(changes.find((change) => change.sku === 'MW-TOWPATHTEE-COAL-M')).toMatchObject({
      name: 'Coal, M',
      beforeMinor: 740,
      afterMinor: 790,
      stockAfter: 0,
    });
    // Nothing holds before it is taken.
    expect((await teeRow(one)).listCostMinor).toBe(before.listCostMinor);
    await takePriceList(world.ctx, one, list.id);
    await takePriceList(world.ctx, one, list.id);
    expect(await teeRow(one)).toMatchObject({
      listCostMinor: before.listCostMinor + 50,
      fitting: before.fitting - 1,
      inStock: before.inStock - 2,
    });
    expect((await teeRow(two)).listCostMinor).toBe(before.listCostMinor);
    expect((await listPartners(world.ctx, one.workspaceId)).find((p) => p.id === partnerId)!.inForce).toMatchObject({
      own: true,
    });
    expect((await listPartners(world.ctx, two.workspaceId)).find((p) => p.id === partnerId)!.inForce).toMatchObject({
      own: false,
    });
    await expect(findPriceList(world.ctx, two.workspaceId, list.id)).rejects.toThrow(thrown('not-found'));
    await expect(takePriceList(world.ctx, two, list.id)).rejects.toThrow(thrown('not-found'));
  });

  it('keeps what a short file does not name, and charges, inserts and shipping', async () => {
    const actor = await makeActor(world.ctx);
    const list = await bring(actor, 'sku,cost,currency\r\nMW-TOWPATHTEE-COAL-M,7.90,GBP\r\n');
    expect(list.report!.totals).toMatchObject({ rows: 1, up: 1, unnamed: 183 });
    await takePriceList(world.ctx, actor, list.id);
    const { product, blank } = await makeTee(world.ctx, actor);
    const bundle = await loadBundle(world.ctx, actor.workspaceId, product.id);
    expect(bundle.list.baseCostMinor).toMatchObject({ 'color=coal;size=m': 790, 'color=coal;size=l': 740 });
    expect(bundle.list.extraAreaMinor['main.back']).toBe(410);
    expect(bundle.list.inserts.length).toBeGreaterThan(0);
    expect(bundle.list.shipping.length).toBeGreaterThan(1);
    expect(bundle.blank.variants.find((v) => v.key === 'color=coal;size=m')!.stock).toBe(
      blank.variants.find((v) => v.key === 'color=coal;size=m')!.stock,
    );
  });

  it('with a day to come holds from that day on', async () => {
    const actor = await makeActor(world.ctx);
    await makeTee(world.ctx, actor);
    const day = new Date(Date.now() + 40 * 86_400_000).toISOString().slice(0, 10);
    const now = await inForce(actor);
    const list = await bring(actor, await csv(actor, raised('1.00')), day);
    await takePriceList(world.ctx, actor, list.id);
    await runJobs(world.ctx);
    expect(await inForce(actor)).toBe(now);
    expect(await inForce(actor, day)).toBe(list.id);
    for (const wrong of ['2020-01-01', '2026-13-01', 'soon'])
      await expect(bring(actor, 'sku\r\n', wrong)).rejects.toThrow(thrown('date-wrong'));
  });
});

describe('nothing is half applied', () => {
  it('of a file with faults, which are all told with line and column', async () => {
    const actor = await makeActor(world.ctx);
    const was = await inForce(actor);
    const list = await bring(
      actor,
      [
        'sku,cost,currency,stock',
        'MW-TOWPATHTEE-COAL-M,7.90,GBP,5',
        'MW-TOWPATHTEE-COAL-L,-7.90,GBP,5',
        'MW-TOWPATHTEE-COAL-S,790.00,GBP,5',
        'MW-TOWPATHTEE-COAL-M,7.90,GBP,5',
        'MW-TOWPATHTEE-COAL-XL,7.90,XYZ,few',
        'MW-NONE,7.90,GBP,5',
        '',
      ].join('\r\n'),
    );
    expect(list.state).toBe('faulty');
    const faults = list.report!.faults.flatMap((group) => group.faults);
    expect(faults.map((fault) => [fault.line, fault.column])).toEqual([
      [3, 'cost'],
      [4, 'cost'],
      [5, 'sku'],
      [6, 'currency'],
      [6, 'stock'],
      [7, 'sku'],
    ]);
    expect(await rowsOf(list.id)).toBe(0);
    expect(await inForce(actor)).toBe(was);
    await expect(takePriceList(world.ctx, actor, list.id)).rejects.toThrow(thrown('price-list-not-ready'));
  });

  it.each([
    ['semicolons', 'sku;cost;currency\r\nMW-A;7,90;GBP\r\n', 'csv-separator'],
    ['a missing column', 'sku,currency\r\nMW-A,GBP\r\n', 'csv-column-missing'],
    ['headings alone', 'sku,cost,currency\r\n', 'csv-empty'],
    ['an older encoding', Buffer.from('sku,variant,cost,currency\nMW-A,Gicl\xe9e,1,GBP\n', 'latin1'), 'csv-encoding'],
    ['a quote that is not closed', 'sku,cost,currency\r\n"MW-A,7.90,GBP\r\n', 'csv-cut-off'],
  ])('of a file with %s', async (_what, text, code) => {
    const list = await bring(await makeActor(world.ctx), text);
    expect(list.state).toBe('faulty');
    expect(list.report!.faults.map((group) => group.code)).toContain(code);
    expect(await rowsOf(list.id)).toBe(0);
  });

  it('with a byte order mark or without the last line break it is read, with a remark', async () => {
    const actor = await makeActor(world.ctx);
    const list = await bring(actor, '\ufeffsku,cost,currency\nMW-TOWPATHTEE-COAL-M,7.90,GBP');
    expect(list.state).toBe('ready');
    expect(list.report!.remarks).toHaveLength(2);
  });

  it('by a read that broke off in the middle and is tried again', async () => {
    const actor = await makeActor(world.ctx);
    const { id, jobId } = await uploadPriceList(world.ctx, actor, partnerId, streamOf(await csv(actor)), {
      fileName: null,
      validFrom: null,
    });
    const { blankId, key } = (await world.ctx.db.row<{ blankId: string; key: string }>(
      'SELECT blank_id AS blankId, variant_key AS `key` FROM blank_variant WHERE partner_id = ? LIMIT 1',
      [partnerId],
    ))!;
    await world.ctx.db.run(
      'INSERT INTO price_list_variant (price_list_id, blank_id, variant_key, base_cost_minor) VALUES (?, ?, ?, 1)',
      [id, blankId, key],
    );
    await runJobs(world.ctx);
    expect(await jobOf(world.ctx, actor, jobId)).toMatchObject({ state: 'done', result: { state: 'ready' } });
    expect(await rowsOf(id)).toBe(184);
    const cost = await world.ctx.db.row<{ minor: number }>(
      'SELECT base_cost_minor AS minor FROM price_list_variant WHERE price_list_id = ? AND blank_id = ? AND variant_key = ?',
      [id, blankId, key],
    );
    expect(Number(cost!.minor)).toBeGreaterThan(1);
  });

  it('of a list that was dropped, before or while it is read', async () => {
    const actor = await makeActor(world.ctx);
    const list = await bring(actor, await csv(actor));
    await dropPriceList(world.ctx, actor, list.id);
    expect(await rowsOf(list.id)).toBe(0);
    await expect(takePriceList(world.ctx, actor, list.id)).rejects.toThrow(thrown('price-list-not-ready'));
    const { id } = await uploadPriceList(world.ctx, actor, partnerId, streamOf(await csv(actor)), {
      fileName: null,
      validFrom: null,
    });
    await dropPriceList(world.ctx, actor, id);
    await runJobs(world.ctx);
    expect(await findPriceList(world.ctx, actor.workspaceId, id)).toMatchObject({ state: 'dropped', report: null });
    expect(await rowsOf(id)).toBe(0);
  });

  it('of a list that is dropped between its last row and its end', async () => {
    const actor = await makeActor(world.ctx);
    const { id } = await uploadPriceList(world.ctx, actor, partnerId, streamOf(await csv(actor)), {
      fileName: null,
      validFrom: null,
    });
    const progress = async (_done: number, _total: number, note: string) => {
      if (note.startsWith('Writing')) await dropPriceList(world.ctx, actor, id);
    };
    await readPriceList(world.ctx, {
      job: { workspaceId: actor.workspaceId, payload: { priceListId: id } },
      progress,
    } as never);
    expect(await findPriceList(world.ctx, actor.workspaceId, id)).toMatchObject({ state: 'dropped' });
    expect(await rowsOf(id)).toBe(0);
  });

  it('of one that another has overtaken', async () => {
    const actor = await makeActor(world.ctx);
    const [a, b] = [
      await bring(actor, await csv(actor, raised('0.10'))),
      await bring(actor, await csv(actor, raised('0.20'))),
    ];
    await takePriceList(world.ctx, actor, a.id);
    await expect(takePriceList(world.ctx, actor, b.id)).rejects.toThrow(thrown('price-list-overtaken'));
    await expect(dropPriceList(world.ctx, actor, a.id)).rejects.toThrow(thrown('price-list-taken'));
    expect(await inForce(actor)).toBe(a.id);
  });

  it('of 2 GB: refused unread where the length is declared, else once it is too long', async () => {
    const actor = await makeActor(world.ctx);
    const untouched = new ReadableStream<Uint8Array>(
      {
        pull() {
          throw new Error('this body is not to be read');
        },
      },
      { highWaterMark: 0 },
    );
    const input = { fileName: 'all.csv', validFrom: null };
    await expect(
      uploadPriceList(world.ctx, actor, partnerId, untouched, { ...input, declaredBytes: 2 * 1024 ** 3 }),
    ).rejects.toThrow(thrown('csv-too-large'));
    let given = 0;
    const chunk = new Uint8Array(1024 * 1024).fill(44);
    const endless = new ReadableStream<Uint8Array>({
      pull(controller) {
        given += 1;
        if (given > 2048) controller.close();
        else controller.enqueue(chunk);
      },
    });
    await expect(uploadPriceList(world.ctx, actor, partnerId, endless, input)).rejects.toThrow(thrown('csv-too-large'));
    expect(given).toBeLessThan(450);
  });
});

describe('two lists of one partner', () => {
  const costOf = async (actor: Actor, day: string | null, sku: string) => {
    const id = await inForce(actor, day ?? undefined);
    const row = await world.ctx.db.row<{ minor: number }>(
      `SELECT l.base_cost_minor AS minor FROM price_list_variant l JOIN blank_variant v ON v.blank_id = l.blank_id AND v.variant_key = l.variant_key
       WHERE l.price_list_id = ? AND v.partner_id = ? AND v.sku = ?`,
      [id, partnerId, sku],
    );
    return row!.minor;
  };
  const only = (sku: string, cost: string) => (row: Row) => (row.sku === sku ? { ...row, cost } : null);
  const [COAL, ESTUARY] = ['MW-TOWPATHTEE-COAL-M', 'MW-TOWPATHTEE-ESTUARY-M'];

  it('that are taken at once: one is in force, the other is told that it was overtaken', async () => {
    const actor = await makeActor(world.ctx);
    const lists = [
      await bring(actor, await csv(actor, raised('0.10'))),
      await bring(actor, await csv(actor, raised('0.20'))),
    ];
    const both = await Promise.allSettled(lists.map(({ id }) => takePriceList(world.ctx, actor, id)));
    expect(both.map((one) => one.status).toSorted()).toEqual(['fulfilled', 'rejected']);
    const refused = both.find((one) => one.status === 'rejected') as PromiseRejectedResult;
    expect(refused.reason).toMatchObject({ code: 'price-list-overtaken' });
  });

  it('one of which holds from a later day: it changes what it names, and not what was taken meanwhile', async () => {
    const actor = await makeActor(world.ctx);
    const day = new Date(Date.now() + 40 * 86_400_000).toISOString().slice(0, 10);
    const before = await costOf(actor, null, ESTUARY!);
    const later = await bring(actor, await csv(actor, only(COAL!, '9.99')), day);
    await takePriceList(world.ctx, actor, later.id);
    const now = await bring(actor, await csv(actor, only(ESTUARY!, '8.88')));
    await takePriceList(world.ctx, actor, now.id);
    await runJobs(world.ctx);
    expect(before).not.toBe(888);
    expect(await costOf(actor, null, ESTUARY!)).toBe(888);
    expect([await costOf(actor, day, COAL!), await costOf(actor, day, ESTUARY!)]).toEqual([999, 888]);
    // Taken back from the last to the first: the one for today lies under the other.
    await expect(undoPriceList(world.ctx, actor, now.id)).rejects.toMatchObject({ code: 'price-list-needed' });
    expect(await undoPriceList(world.ctx, actor, later.id)).toMatchObject({ state: 'undone' });
    expect([await costOf(actor, day, COAL!), await costOf(actor, day, ESTUARY!)]).not.toContain(999);
    await undoPriceList(world.ctx, actor, now.id);
    expect(await costOf(actor, null, ESTUARY!)).toBe(before);
    await undoPriceList(world.ctx, actor, now.id);
    const stranger = await makeActor(world.ctx);
    await expect(undoPriceList(world.ctx, stranger, now.id)).rejects.toMatchObject({ code: 'not-found' });
    await expect(dropPriceList(world.ctx, actor, now.id)).rejects.toMatchObject({ code: 'price-list-taken' });
  });
});

describe('what it does to products', () => {
  it('is told by store, at the price there and with its fees, and is marked once it holds', async () => {
    const { ctx } = world;
    const actor = await makeActor(ctx);
    const store = await connectStore(world, actor);
    const { product } = await makeTee(ctx, actor);
    await requestSend(ctx, await loadBundle(ctx, actor.workspaceId, product.id), store, 'live');
    await runJobs(ctx);
    const basePrice = async () => {
      const { product: now, blank, list: inForceNow, rates } = await loadBundle(ctx, actor.workspaceId, product.id);
      const { settings, home } = await loadMoney(ctx, actor.workspaceId);
      const outlet = baseOutlet('GBP', home, settings);
      const price = pricer(now.document, { blank, list: inForceNow, rates, outlet, settings });
      return price('color=coal;size=m').retailMinor;
    };
    const priceBefore = await basePrice();

    const list = await bring(
      actor,
      await csv(actor, (row) => {
        if (row.sku === 'MW-TOWPATHTEE-COAL-S') return { ...row, ended: 'yes' };
        if (row.sku === 'MW-TOWPATHTEE-ESTUARY-S') return { ...raised('0.80')(row), stock: '0' };
        if (row.sku.endsWith('COAL-3XL') && isTee(row)) return { ...row, cost: '60.00' };
        return raised('0.80')(row);
      }),
    );
    const effects = list.report!.effects;
    expect(effects.map((effect) => [effect.kind, effect.variantKeys.length, effect.store?.id ?? null])).toEqual([
      ['loss', 1, store.id],
      ['ended', 1, null],
      ['under', 12, store.id],
      ['out-of-stock', 1, null],
    ]);
    expect(effects.every((effect) => effect.productId === product.id && effect.remedy.endsWith('.'))).toBe(true);
    const rate = (await ctx.db.row<{ rate: string }>(
      "SELECT rate FROM exchange_rate WHERE from_currency = 'GBP' AND to_currency = 'USD' ORDER BY rate_date DESC LIMIT 1",
    ))!.rate;
    const converted = (gbp: string) =>
      new Decimal(gbp).times(rate).times(100).toDecimalPlaces(0, Decimal.ROUND_HALF_UP).toNumber();
    const loss = effects[0]!.worst!;
    // What is left falls by just what the partner takes more: fees are on the price, which stays.
    expect(loss.currency).toBe('USD');
    expect(loss.profitAfterMinor - loss.profitBeforeMinor).toBe(converted('10.10') - converted('60.00'));
    expect(loss.profitAfterMinor).toBeLessThan(0);

    await takePriceList(ctx, actor, list.id);
    await runJobs(ctx);
    // 7.40 + 0.80 at a margin of 40 %: 8.20 ÷ 0.6 is 13.66…, so 13.67 is the lowest that reaches it
    expect(priceBefore).toBe(1234);
    expect(await basePrice()).toBe(1367);
    const { blank } = await loadBundle(ctx, actor.workspaceId, product.id);
    expect(variantTroubles(blank, product.document.variants)).toMatchObject([
      { kind: 'ended', says: '1 variant ended: Coal, S.' },
      { kind: 'out-of-stock', says: '1 variant out of stock: Estuary, S.' },
    ]);
  });

  it('is told of a product that is in no shop where its price was typed', async () => {
    const actor = await makeActor(world.ctx);
    const blank = await findBlank(world.ctx, 'millrace', 'towpath-tee');
    await createProduct(world.ctx, actor, {
      blankId: blank.id,
      title: 'Old stock tee',
      variants: [{ key: 'color=coal;size=m', sku: 'OLD-1', retailMinor: 800 }],
    });
    const list = await bring(actor, await csv(actor, raised('0.80')));
    expect(list.report!.effects).toMatchObject([
      { title: 'Old stock tee', store: null, kind: 'loss', worst: { retailMinor: 800, currency: 'GBP' } },
    ]);
    expect(list.report!.effects[0]!.remedy).toContain('raise it under Price');
  });
});
