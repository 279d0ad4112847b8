import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { By, Key } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import type { ApiClient } from '../../demo/client';
import type { ShelfItem } from '../../src/core/shelf/shelf';
import type { ProductDocument } from '../../src/core/document/document';
import { Browser } from './support/browser';
import { openAccount } from './support/seller';

/** Colors & sizes, prices, rates and rules, as a seller meets them. */
const origin = inject('origin');
const SELLER = { name: 'Pia Ebb', email: 'ebb@slackwater.example', password: 'a-long-way-to-the-bar' };
let browser: Browser;
let api: ApiClient;
let productId: string;
const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'typica-prices-'));

beforeAll(async () => {
  browser = await Browser.open();
  api = await openAccount(origin, SELLER);
  await api.connect('pennyquay');
  const { blanks } = await api.get<{ blanks: ShelfItem[] }>('/blanks?q=towpath+tee&from=GB');
  ({ id: productId } = await api.post<{ id: string }>('/products', { blankId: blanks[0]!.id, title: 'Ebb tee' }));
  await browser.signIn(origin, SELLER.email, SELLER.password);
  await browser.go(`${origin}/products/${productId}?part=variants`);
  await browser.find('[role=grid]');
});
afterAll(async () => {
  await browser.close();
  fs.rmSync(folder, { recursive: true, force: true });
});

const document = async () => (await api.get<{ document: ProductDocument }>(`/products/${productId}`)).document;
const part = (number: number) => browser.click(`nav[aria-label=Parts] button:nth-of-type(${number})`);
const cell = (row: number, column: number) => browser.find(`[data-cell="${row},${column}"]`);
const enter = async (label: string, value: string) => {
  const field = await browser.labelled(label);
  await field.click();
  await field.sendKeys(Key.chord(Key.CONTROL, 'a'), value, Key.ENTER);
};
const valueOf = async (label: string) => (await (await browser.labelled(label)).getAttribute('value'))!;
const problemOf = async (label: string, typed: string) => {
  await enter(label, typed);
  const says = await browser.seen('[role=alert]');
  await (await browser.labelled(label)).sendKeys(Key.ESCAPE);
  return says;
};

describe('colors and sizes', () => {
  it('a rectangle is painted by dragging over it, and by keys', async () => {
    await browser.driver
      .actions()
      .move({ origin: await cell(2, 0) })
      .press()
      .move({ origin: await cell(2, 2) })
      .move({ origin: await cell(3, 2) })
      .release()
      .perform();
    await browser.text('6 of 84 variants', 'span');
    await browser.driver.actions().sendKeys(Key.ESCAPE).perform();
    await (await cell(5, 0)).sendKeys(Key.chord(Key.SHIFT, Key.ARROW_RIGHT));
    await browser.driver.actions().keyDown(Key.SHIFT).sendKeys(Key.ARROW_DOWN).keyUp(Key.SHIFT).sendKeys(' ').perform();
    await browser.until(async () => Object.keys((await document()).variants).length > 6, 'more variants');
    await browser.saved();
  });

  it('what a store cannot hold is said as one chooses, with ways out', async () => {
    await browser.clickText('Choose all');
    await browser.text('Pennyquay holds 75 variants; 84 are chosen, 9 too many.', 'p', false);
    await browser.text('Split into 2 listings by color', 'button', false);
    await browser.click('div[role=status] button');
    await browser.until(
      async () => /\b7\d of 75 variants/.test(await browser.seen('[data-testid=store-room]')),
      'what fits',
    );
  });

  it('colors are put in another order, and SKUs follow a pattern unless two would be alike', async () => {
    await browser.click('[aria-label="Move Sandbar up"]');
    await browser.click('[aria-label="Estuary in all sizes"]');
    await browser.clickText('SKUs and GTINs …');
    await enter('Pattern', 'EBB-{size}');
    await browser.text('would be the SKU of', 'p', false);
    await enter('Pattern', 'EBB-{color}-{size}');
    await browser.until(
      async () => !(await browser.seen('[role=dialog]')).includes('would be the SKU'),
      'no collision',
    );
    expect(await problemOf('Pattern', '{colour}')).toMatch(/“{colour}” is not known/);
    expect(await problemOf('GTIN of Sandbar, S', '6291041500214')).toMatch(/last digit should be 3/);
    await enter('GTIN of Sandbar, S', '6291041500213');
    await browser.click('[aria-label=Close]');
    await browser.saved();
    const doc = await document();
    expect(doc.skuPattern).toBe('EBB-{color}-{size}');
    expect(doc.variants['color=sandbar;size=s']).toEqual({ gtin: '6291041500213' });
    const order = doc.optionOrder!.color!;
    expect(order.sandbar!.order < order.chalk!.order).toBe(true);
  });
});

describe('prices', () => {
  /** The dearest tier of its size: colors that cost something else have their own. */
  let tier = '';
  const tierOf = async (size: string): Promise<string> => {
    const said = 'Open the variants of ';
    await browser.find(`[aria-label^="${said}"]`);
    const names = await browser.driver.executeScript<string[]>(
      'return [...document.querySelectorAll(`[aria-label^="${arguments[0]}"]`)].map((one) => one.getAttribute("aria-label").slice(arguments[0].length))',
      said,
    );
    return names.findLast((name) => name === size || name.endsWith(`, ${size}`))!;
  };

  it('any of price, profit, margin and markup is typed, and the others follow', async () => {
    await browser.go(`${origin}/products/${productId}?part=price`);
    // It opens on the store in sight.
    await browser.find('[role=tab][aria-selected=true]');
    await browser.clickText('All stores, GBP', 'button', false);
    tier = await tierOf('XXL');
    await enter(`Markup of ${tier}`, '100');
    await browser.until(async () => (await valueOf(`Markup of ${tier}`)).startsWith('100'), 'the markup');
    await enter(`Price of ${tier}`, '30.00');
    await browser.until(async () => (await valueOf(`Price of ${tier}`)) === '30.00', 'the price');
    const [price, profit, margin] = [
      30,
      Number(await valueOf(`Profit of ${tier}`)),
      Number.parseFloat(await valueOf(`Margin of ${tier}`)),
    ];
    expect(margin).toBeCloseTo((profit / price) * 100, 0);
    expect(await problemOf(`Margin of ${tier}`, '100')).toMatch(/cannot be reached/);
    expect(await problemOf(`Price of ${tier}`, '1e9')).toMatch(/not an amount/);
    await browser.saved();
  });

  it('a tier opens to its variants, and what is selected is raised together', async () => {
    await browser.click(`[aria-label="Open the variants of ${tier}"]`);
    await browser.click(`input[aria-label="Select ${tier}"]`);
    await enter(await (await browser.text('selected by', 'label', false)).getText(), '10');
    await browser.until(async () => (await valueOf(`Price of ${tier}`)) === '33.00', 'the raised price');
    await browser.click(`input[aria-label="Select ${tier}"]`);
    await browser.saved();
  });

  it('a price below the floor is marked at once and keeps the product from being sent until it is accepted by name', async () => {
    await browser.clickText('Pennyquay, USD', 'button', false);
    await enter('Price of all', '1.00');
    await browser.text('a loss', 'span', false);
    await browser.saved();
    await part(7);
    await browser.clickText('I accept selling at a loss');
    await browser.text('Pia Ebb accepted it', 'p', false);
    await browser.clickText('Withdraw');
    await browser.text('I accept selling at a loss', 'button');
    await part(5);
    await enter('Margin of all', '35');
    await browser.saved();
  });

  it('prices go out as CSV and come back after a look at what would change', async () => {
    const csv = await (await api.request('GET', `/products/${productId}/prices`)).text();
    const [head, ...lines] = csv.trim().split('\r\n');
    const changed = lines[0]!.replace(/,[^,]*,[^,]*,[^,]*,[^,]*$/, ',28.50,,,');
    fs.writeFileSync(path.join(folder, 'prices.csv'), `${head}\r\n${changed}\r\n`);
    fs.writeFileSync(path.join(folder, 'faulty.csv'), `${head}\r\n${changed}\r\nnobody,,,,,,,-3,,,\r\n`);
    const file = () => browser.find('input[aria-label="Prices from CSV"]');
    await (await file()).sendKeys(path.join(folder, 'faulty.csv'));
    await browser.text('line 3', 'span');
    expect(await (await browser.text('Import 1')).getAttribute('disabled')).not.toBeNull();
    await browser.clickText('Cancel');
    await (await file()).sendKeys(path.join(folder, 'prices.csv'));
    await browser.clickText('Import 1');
    await browser.until(
      async () => JSON.stringify((await document()).price.base.variants).includes('2850'),
      'the price from the file',
    );
  });

  it('what if, where it sells, charts and the history tell the same product', async () => {
    const noToast = () =>
      browser.until(
        async () => (await browser.driver.findElements({ css: '[data-sonner-toast]' })).length === 0,
        'no toast',
      );
    await noToast();
    await browser.clickText('What if', 'button');
    await browser.clickText('Costs +8 %');
    await browser.text('Left then', 'th');
    await browser.clickText('Where it sells', 'button');
    await browser.text('On the whole', 'td');
    await browser.clickText('Charts', 'button');
    await browser.find('.recharts-line-curve');
    expect(await browser.faults()).toEqual([]);
    await browser.clickText('History', 'button');
    await browser.text('What buyers saw, USD', 'h3');
    await browser.text('shows no price of this yet', 'p', false);
    await browser.text('Pia Ebb', 'td');
    expect(await browser.faults()).toEqual([]);
  });
});

describe('bundles', () => {
  it('are made with another product, named, priced and deleted', async () => {
    const { blanks } = await api.get<{ blanks: ShelfItem[] }>('/blanks?q=landing+tote&from=GB');
    const { id } = await api.post<{ id: string }>('/products', { blankId: blanks[0]!.id, title: 'Flood tote' });
    const made = await api.get<{ revision: number }>(`/products/${id}`);
    const { variants } = await api.get<{ variants: { key: string }[] }>(`/blanks/${blanks[0]!.id}`);
    await api.patch(id, made.revision, [{ op: 'add', path: `/variants/${variants[0]!.key}`, value: {} }]);
    await browser.go(`${origin}/products/${productId}?part=price`);
    await browser.clickText('Bundles');
    const find = await browser.find('[aria-label="Sell it together with"]');
    await find.click();
    await find.sendKeys('flood');
    await browser.clickText('Flood tote', '*[@role="option"]');
    await browser.text('Bought apart', 'th');
    await enter('Buyers read', 'With a Flood tote');
    await enter('How many of Flood tote', '2');
    await enter('The margin of With a Flood tote', '35');
    await browser.saved();
    await browser.text('2 × Flood tote', 'p', false);
    expect(await browser.faults()).toEqual([]);
    const bundle = Object.values((await document()).bundles!.entries)[0]!;
    // Typed while the store is in view: for that store.
    expect(bundle.name).toBe('With a Flood tote');
    expect(Object.values(bundle.stores!)).toEqual([{ kind: 'margin', ppm: 350_000 }]);
    expect(Object.values(bundle.items)).toMatchObject([{ productId: id, quantity: 2 }]);
    await browser.clickText('Delete bundle');
    await browser.saved();
    expect((await document()).bundles).toBeUndefined();
    expect(await browser.consoleErrors()).toEqual([]);
  });
});

describe('rates and rules', () => {
  it('a rate, a destination and a discount are set; a rule is kept from a product and used for new ones', async () => {
    await browser.go(`${origin}/products/${productId}?part=price`);
    await browser.clickText('All stores, GBP', 'button', false);
    await enter('Margin of all', '41');
    await (await browser.find('[aria-label="Name of the rule"]')).sendKeys('Tees');
    await browser.clickText('Keep for new products');
    await browser.text('“Tees” is kept, and new products begin with it.', '*');
    await browser.go(`${origin}/money`);
    await browser.text('Rates and rules', 'h1');
    await browser.text('margin 41.0 %', 'span', false);
    await enter('Discount of Millrace Works', '5');
    await browser.until(async () => (await browser.seen('main, body')).includes('Saved'), 'saved');
    expect(await browser.faults()).toEqual([]);
    const { settings } = await api.get<{ settings: { discounts: Record<string, number> } }>('/pricing/settings');
    expect(Object.values(settings.discounts)).toEqual([50_000]);
    const { blanks } = await api.get<{ blanks: ShelfItem[] }>('/blanks?q=galley+mug');
    const { id } = await api.post<{ id: string }>('/products', { blankId: blanks[0]!.id });
    const made = await api.get<{ document: ProductDocument }>(`/products/${id}`);
    expect(made.document.price.base.aim).toEqual({ kind: 'margin', ppm: 410_000 });
  });
});

describe('sales and prices of many', () => {
  it('a sale is looked at, planned and taken back', async () => {
    await browser.go(`${origin}/sales`);
    await browser.text('There was no sale or code yet.', 'p');
    expect(await browser.faults()).toEqual([]);
    await browser.clickText('See what it does');
    await browser.text('In the sale', 'th');
    expect(await browser.faults()).toEqual([]);
    await browser.clickText('Plan it');
    await browser.text('20 % off', 'span');
    await browser.clickText('Cancel it');
    await browser.text('stopped', 'span', false);
    // Products chosen one by one: what is left out is not in it.
    await browser.clickText('See what it does');
    await browser.text('In the sale', 'th');
    await browser.clickText('Ebb tee', 'label', false);
    await browser.clickText('Plan it');
    const planned = async () => {
      const { sales } = await api.get<{ sales: { state: string; scope: { productIds: string[] } }[] }>('/sales');
      return sales.find(({ state }) => state === 'planned')?.scope.productIds ?? null;
    };
    await browser.until(async () => (await planned()) !== null, 'the sale of those that are chosen');
    expect((await planned())!.length).toBeGreaterThan(0);
    expect(await planned()).not.toContain(productId);
    await browser.clickText('Cancel it');
    await browser.until(async () => (await planned()) === null, 'it is taken back');
    expect(await browser.consoleErrors()).toEqual([]);
  });

  it('a code that loses money is planned only where that is accepted', async () => {
    await browser.go(`${origin}/sales`);
    await browser.click('[aria-label^="Plan:"]');
    await browser.clickText('a code: buyers type it', '*[@role="option"]');
    const [code, , off] = await browser.driver.findElements(By.css('form input'));
    await code!.sendKeys('ebb90');
    await off!.sendKeys(Key.chord(Key.CONTROL, 'a'), '90');
    await browser.clickText('See what it does');
    await browser.text('With the code', 'th');
    await browser.text('The deepest code that still pays', 'li', false);
    const plan = () => browser.text('Plan it');
    expect(await (await plan()).isEnabled()).toBe(false);
    await browser.clickText('I accept these losses', 'label', false);
    expect(await (await plan()).isEnabled()).toBe(true);
    expect(await browser.faults()).toEqual([]);
    await browser.clickText('Plan it');
    await browser.text('EBB90', 'span', false);
    await browser.clickText('Cancel it');
    expect(await browser.consoleErrors()).toEqual([]);
  });

  it('a rule prices many at once, after a look, and one step undoes it', async () => {
    // Priced by the rule already, it would not change.
    const { revision } = await api.get<{ revision: number }>(`/products/${productId}`);
    await api.patch(productId, revision, [
      { op: 'replace', path: '/price/base/aim', value: { kind: 'margin', ppm: 500_000 } },
    ]);
    await browser.go(`${origin}/prices`);
    await browser.text('Prices of many products were not changed at once yet.', 'p');
    await browser.clickText('See what it does');
    await browser.text('After', 'th');
    expect(await browser.faults()).toEqual([]);
    const aim = async () => (await document()).price.base;
    const before = await aim();
    await browser.clickText('Change them');
    await browser.text('Price by Tees', 'span');
    expect(await aim()).not.toEqual(before);
    await browser.clickText('Undo');
    await browser.text('undone', 'span');
    expect(await aim()).toEqual(before);
    fs.writeFileSync(path.join(folder, 'many.csv'), `product,variant,price\nnobody,x,1\n`);
    await (await browser.find('input[aria-label="Prices from CSV"]')).sendKeys(path.join(folder, 'many.csv'));
    await browser.text('line 2', 'span');
    expect(await (await browser.text('Change them')).getAttribute('disabled')).not.toBeNull();
  });

  it('what a store takes is typed, with its days, and given back to what the shop publishes', async () => {
    const { stores } = await api.get<{ stores: { id: string }[] }>('/stores');
    await browser.go(`${origin}/stores/${stores[0]!.id}`);
    expect(await browser.faults()).toEqual([]);
    await enter('Share of Payment', '4');
    await browser.text('As you typed it.', 'span');
    await browser.clickText('As Pennyquay publishes it');
    await browser.text('As Pennyquay publishes it.', 'span');
    await browser.text('Changed 2 times', 'summary');
  });
});
