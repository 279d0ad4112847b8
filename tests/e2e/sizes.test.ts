import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { ApiClient } from '../../demo/client';
import type { ShelfItem } from '../../src/core/shelf/shelf';
import { Browser } from './support/browser';
import { misfits } from './support/measure';

const origin = inject('origin');
const [EMAIL, PASSWORD] = ['demo@brackwater.example', 'ebb-and-flood'];
/** Those of look.md, and 1280 × 800 at 200 % zoom, which is 640 × 400 CSS px. */
const SIZES = [
  [1280, 800],
  [1024, 768],
  [1920, 1080],
  [640, 400],
] as const;
const PARTS = ['blank', 'artwork', 'variants', 'pictures', 'price', 'words', 'stores'];

let browser: Browser;
let pages: string[];
let bench: string;

beforeAll(async () => {
  browser = await Browser.open();
  await browser.signIn(origin, EMAIL, PASSWORD);
  const api = await ApiClient.signIn(origin, EMAIL, PASSWORD);
  const { products } = await api.get<{ products: { id: string; title: string }[] }>('/products?q=crossed');
  const { blanks } = await api.get<{ blanks: ShelfItem[] }>('/blanks?limit=2');
  const [first, second] = blanks.map(({ id }) => id);
  bench = `${origin}/products/${products[0]!.id}`;
  await browser.go(`${origin}/stores`);
  const store = await (await browser.find('main a[href^="/stores/"]')).getAttribute('href');
  const { stores } = await api.get<{ stores: { id: string }[] }>('/stores');
  const selection = { productIds: products.map(({ id }) => id), storeIds: stores.map(({ id }) => id) };
  const { id: send } = await api.post<{ id: string }>('/sends', { ...selection, visibility: 'as-is' });
  const selected = { productIds: selection.productIds };
  const { id: change } = await api.post<{ id: string }>('/range/changes', { kind: 'raise', ppm: 50_000, ...selected });
  pages = [
    ...['/range', '/range?in=archived', '/range?q=nosuch', '/blanks', '/artwork', '/stores', '/money', '/account'],
    ...['/settings', '/activity', '/prices', '/sales', '/sends', '/blanks/price-lists', '/nosuch'],
    new URL(store!, origin).pathname,
    `/sends/${send}`,
    ...['/changes', `/changes/${change}`],
    `/blanks/${first}`,
    `/blanks/compare?id=${first}&id=${second}`,
  ].map((path) => `${origin}${path}`);
});
afterAll(() => browser.close());

/** What is still wrong after a while: pictures and numbers may be on their way. */
async function misfitsHere(): Promise<string[]> {
  let told: string[] = [];
  for (let i = 0; i < 8; i += 1) {
    told = await misfits(browser);
    if (told.length === 0) return told;
    await browser.driver.sleep(250);
  }
  return told;
}

describe.each(SIZES)('at %i × %i', (width, height) => {
  beforeAll(() => browser.resize(width, height));

  it('no page is cut, covered, or scrolls sideways', async () => {
    for (const page of pages) {
      await browser.go(page);
      await browser.driver.executeScript('for (const one of document.querySelectorAll("details")) one.open = true');
      expect([page, await misfitsHere()]).toEqual([page, []]);
    }
  });

  it('nor any part of the bench', async () => {
    for (const part of PARTS) {
      await browser.go(`${bench}?part=${part}`);
      await browser.find(`section[aria-label=${part}]`);
      expect([part, await misfitsHere()]).toEqual([part, []]);
    }
  });

  it('nor any dialog of the bench', async () => {
    const dialogs: readonly (readonly [part: string, css: string])[] = [
      ['artwork', '[aria-label=Keys]'],
      ['artwork', '[aria-label=History]'],
      ['words', '[aria-label=Keys]'],
    ];
    for (const [part, css] of dialogs) {
      await browser.go(`${bench}?part=${part}`);
      await browser.click(css);
      await browser.find('[role=dialog] h2');
      expect([part, css, await misfitsHere()]).toEqual([part, css, []]);
    }
    const named: readonly (readonly [part: string, button: string])[] = [
      ['artwork', 'Add artwork …'],
      ['artwork', 'Ornaments …'],
      ['price', 'All colors'],
      ['price', 'Print files'],
    ];
    for (const [part, button] of named) {
      await browser.go(`${bench}?part=${part}`);
      await browser.reveal(button);
      await browser.clickText(button);
      await browser.find('[role=dialog] h2');
      expect([button, await misfitsHere()]).toEqual([button, []]);
    }
    await browser.go(bench);
    await browser.click('[aria-label=Product]');
    await browser.clickText('Put on another blank …');
    await browser.text('Choose', 'button');
    expect(['another blank', await misfitsHere()]).toEqual(['another blank', []]);
  });
});
