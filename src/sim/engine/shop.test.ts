import fs from 'node:fs';
import path from 'node:path';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { shopFolder } from '../../../tests/support/shop-under-test';
import { create } from '../broadmere/server';
import type { Good } from '../broadmere/shop';
import { Limit } from './limit';
import { openRecords } from './records';

let shop: Awaited<ReturnType<typeof create>>;
const data = shopFolder();
beforeAll(async () => {
  shop = await create({ port: 0, data });
  shop.world.articles.put(good.id, good);
});
afterAll(() => shop.close());

const variant = { beforeMinor: null, picture: null, gtin: null, grams: 200 };
const good: Good = {
  id: 'go-000000000001',
  account: 'bm-55120',
  reference: null,
  stage: 'live',
  title: 'Crest <b>tee</b> Brackwater Boathouse',
  text: 'A shirt.',
  tags: [],
  category: null,
  options: [{ name: 'Size', values: ['M', 'L'] }],
  variants: [
    { ...variant, sku: 'T-M', picks: ['M'], priceMinor: 1999, stock: null },
    { ...variant, sku: 'T-L', picks: ['L'], priceMinor: 2101, stock: 0 },
  ],
  pictures: [],
  createdAt: 1,
  changedAt: 1,
  foundFrom: 0,
  liveSince: 1,
  liveUntil: null,
  extra: {
    points: [],
    waiver: null,
    brand: '',
    ship: { order_cents: 400, item_cents: 150, to: ['US'] },
    readyDays: 3,
    madeIn: 'US',
    shades: {},
  },
};
const ADDRESS = {
  name: 'Nora Reed',
  street: '1 Quay',
  city: 'Harbor',
  postcode: '01234',
  country: 'us',
  email: 'nora@reed.example',
};

const post = (where: string, form: Record<string, string>, headers: Record<string, string> = {}) =>
  fetch(`${shop.url}${where}`, { method: 'POST', body: new URLSearchParams(form), redirect: 'manual', headers });

/** Puts something into a new basket and gives its cookie. */
async function fill(sku: string, quantity: string): Promise<{ cookie: string }> {
  const answer = await post('/basket', { article: good.id, sku, quantity });
  return { cookie: answer.headers.get('set-cookie')!.split(';')[0]! };
}

describe('a shopper', () => {
  it('sees a listing with what the seller wrote as words, never as a page', async () => {
    const page = await (await fetch(`${shop.url}/goods/${good.id}`)).text();
    expect(page).toContain('19.99');
    expect(page).not.toContain('<b>tee</b>');
  });

  it('orders, and pays goods and delivery to the cent: 3 × 19.99 + 4.00 + 3 × 1.50 = 68.47', async () => {
    const paid = await post('/pay', ADDRESS, await fill('T-M', '3'));
    expect(paid.status).toBe(303);
    const order = shop.world.orders.get(paid.headers.get('location')!.split('/').at(-1)!)!;
    expect(order).toMatchObject({
      lines: [{ sku: 'T-M', quantity: 3, priceMinor: 1999 }],
      deliveryMinor: 850,
      totalMinor: 6847,
      currency: 'USD',
    });
    expect(await (await fetch(`${shop.url}/orders/${order.id}`)).text()).toContain('68.47 USD');
  });

  it('is told what is missing, and what is sold out or not delivered there, and loses nothing typed', async () => {
    const missing = await post('/pay', { ...ADDRESS, city: '' }, await fill('T-M', '1'));
    expect([missing.status, await missing.text()]).toEqual([
      422,
      expect.stringMatching(/Town[\s\S]*value="Nora Reed"/),
    ]);
    const abroad = await post('/pay', { ...ADDRESS, country: 'DE' }, await fill('T-M', '1'));
    expect([abroad.status, await abroad.text()]).toEqual([422, expect.stringContaining('delivered to DE')]);
    const none = await post('/pay', ADDRESS, await fill('T-L', '1'));
    expect([none.status, await none.text()]).toEqual([422, expect.stringContaining('can be ordered')]);
  });
});

describe('the seller’s pages', () => {
  const form = (over: Record<string, string> = {}) => ({
    title: 'Crest tee Brackwater Boathouse',
    text: 'Another text.',
    'option-0': 'Cut',
    'sku-0': 'T-M2',
    'pick-0-0': 'M',
    'price-0': '24.50',
    'stock-0': '7',
    'sku-1': 'T-L',
    'pick-1-0': 'L',
    'price-1': '21.01',
    'stock-1': '',
    'drop-1': 'on',
    'sku-2': 'T-S',
    'pick-2-0': 'S',
    'price-2': '18.00',
    'stock-2': '',
    ...over,
  });
  const draft = () => ({ ...good, id: 'go-000000000002', stage: 'draft' as const });

  it('change words, prices, stock, SKUs, options, and add and remove variants', async () => {
    shop.world.articles.put(draft().id, draft());
    expect((await post(`/desk/${draft().id}`, form())).status).toBe(303);
    expect(shop.world.articles.get(draft().id)).toMatchObject({
      title: 'Crest tee Brackwater Boathouse',
      text: 'Another text.',
      options: [{ name: 'Cut', values: ['M', 'S'] }],
      variants: [
        { sku: 'T-M2', picks: ['M'], priceMinor: 2450, stock: 7 },
        { sku: 'T-S', picks: ['S'], priceMinor: 1800, stock: null },
      ],
    });
  });

  it('hold to the shop’s own rules, say why, and keep what was typed', async () => {
    shop.world.articles.put(draft().id, draft());
    const answer = await post(`/desk/${draft().id}`, form({ title: 'SHOUTING Brackwater Boathouse', 'price-0': '5' }));
    const page = await answer.text();
    expect(answer.status).toBe(422);
    expect(page).toContain('NAME-LOUD');
    expect(page).toContain('12.50');
    expect(page).toContain('SHOUTING');
    expect(shop.world.articles.get(draft().id)!.title).toBe(good.title);
  });

  it('add, replace, put in order and remove pictures', async () => {
    shop.world.articles.put(draft().id, draft());
    const file = await sharp({ create: { width: 1200, height: 1200, channels: 3, background: '#fff' } })
      .png()
      .toBuffer();
    const send = (instead = '') =>
      fetch(`${shop.url}/desk/${draft().id}/pictures?instead=${instead}`, {
        method: 'POST',
        body: new Uint8Array(file),
      });
    const ids = () => shop.world.articles.get(draft().id)!.pictures.map(({ id }) => id);
    await send();
    await send();
    const [one, two] = ids();
    await send(one);
    const [other] = ids();
    expect([ids().length, other === one, ids()[1]]).toEqual([2, false, two]);
    await post(`/desk/${draft().id}`, form({ 'place-0': '2', 'place-1': '1' }));
    expect(ids()).toEqual([two, other]);
    await post(`/desk/${draft().id}`, form({ 'place-0': '1', 'place-1': '2', 'dropPicture-0': 'on' }));
    expect(ids()).toEqual([other]);
    const wrong = await fetch(`${shop.url}/desk/${draft().id}/pictures`, { method: 'POST', body: 'no picture' });
    expect(wrong.status).toBe(422);
  });

  it('copy, delete, and add a listing that no program made', async () => {
    shop.world.articles.put(draft().id, draft());
    const all = () => shop.world.articles.all().length;
    const before = all();
    await post(`/desk/${draft().id}/copy`, {});
    await post('/desk/new', { account: 'bm-55120' });
    expect(all()).toBe(before + 2);
    await post(`/desk/${draft().id}/delete`, {});
    expect([all(), shop.world.articles.get(draft().id)]).toEqual([before + 1, undefined]);
  });

  it('take no form of another site', async () => {
    const answer = await post(`/desk/${good.id}/delete`, {}, { origin: 'http://elsewhere.example' });
    expect([answer.status, shop.world.articles.get(good.id)?.id]).toEqual([403, good.id]);
  });
});

describe('a shop’s memory', () => {
  it('holds what was written when a process dies, and leaves out a line that was cut off', () => {
    const folder = shopFolder();
    const table = openRecords(folder).table<{ n: number }>('things');
    table.put('a', { n: 1 });
    table.put('b', { n: 2 });
    table.put('a', { n: 3 });
    table.drop('b');
    fs.appendFileSync(path.join(folder, 'journal.jsonl'), '["things","c",{"n":');
    const again = openRecords(folder).table<{ n: number }>('things');
    expect([again.get('a'), again.get('b'), again.get('c')]).toEqual([{ n: 3 }, undefined, undefined]);
    again.put('d', { n: 4 });
    expect(openRecords(folder).table<{ n: number }>('things').all()).toEqual([{ n: 3 }, { n: 4 }]);
  });
});

it('a limit counts in a sliding window, for each who asks', () => {
  let now = 0;
  const limit = new Limit(2, 1000, () => now);
  expect([limit.take('a'), limit.take('a'), limit.take('b')]).toEqual([0, 0, 0]);
  now = 400;
  expect(limit.take('a')).toBe(600);
  now = 1000;
  expect([limit.take('a'), limit.take('a'), limit.take('a')]).toEqual([0, 0, 1000]);
});
