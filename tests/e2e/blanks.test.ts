import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { Key } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import type { ApiClient } from '../../demo/client';
import { Browser } from './support/browser';
import { openAccount } from './support/seller';

const origin = inject('origin');
const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'typica-blanks-'));
const SELLER = { name: 'Odo Reach', email: 'sculler@brackwater.example', password: 'spring-tide-9' };
let browser: Browser;
let api: ApiClient;

beforeAll(async () => {
  api = await openAccount(origin, SELLER);
  browser = await Browser.open();
  await browser.signIn(origin, SELLER.email, SELLER.password);
});
afterAll(async () => {
  await browser.close();
  fs.rmSync(folder, { recursive: true, force: true });
});

const write = (name: string, text: string): string => {
  const file = path.join(folder, name);
  fs.writeFileSync(file, text);
  return file;
};
const rows = async () =>
  browser.driver.executeScript<string[]>(
    'return [...document.querySelectorAll("[role=row][data-partner] a")].map((a) => a.textContent)',
  );
const address = async () => new URL(await browser.driver.getCurrentUrl()).searchParams;
const tick = (name: string) => browser.click(`input[aria-label="${name}"]`);
/** A price list in force, changed line by line. */
const priceList = async (partner: string, change: (line: string) => string) => {
  const { partners } = await api.get<{ partners: { id: string; name: string }[] }>('/partners');
  const answer = await api.request('GET', `/partners/${partners.find((one) => one.name === partner)!.id}/price-list`);
  return (await answer.text()).split('\r\n').map(change).join('\r\n');
};

describe('choosing a blank', () => {
  it('narrows, counts and sorts, and the address keeps it all', async () => {
    await browser.go(`${origin}/blanks`);
    await browser.text('21 blanks', '*');
    await browser.clickText('embroidery', 'span');
    await browser.text('3 blanks', '*');
    expect((await rows()).sort()).toEqual(['Coxswain Cap', 'Slipway Hoodie', 'Slipway Hoodie']);
    await browser.clickText('Cost from', 'button');
    await browser.until(async () => (await address()).get('sort') === 'cost', 'sorting in the address');
    await browser.until(async () => (await rows())[0] === 'Coxswain Cap', 'the cheapest first');
    expect(await rows()).toEqual(['Coxswain Cap', 'Slipway Hoodie', 'Slipway Hoodie']);
    await browser.clickText('Cost from ↑', 'button');
    await browser.until(async () => (await rows())[2] === 'Coxswain Cap', 'the dearest first');
    await browser.driver.navigate().refresh();
    await browser.text('3 blanks', '*');
    await browser.until(async () => (await rows())[2] === 'Coxswain Cap', 'the dearest first, also after a reload');
    expect(await browser.faults()).toEqual([]);
    // To a blank and back: all is as it was left.
    await tick('Compare Coxswain Cap, Cinder Lane');
    await browser.text('choose one more', '*');
    await browser.clickText('Coxswain Cap', 'a');
    await browser.text('Print areas', 'h2');
    await browser.driver.navigate().back();
    await browser.text('3 blanks', '*');
    await browser.text('choose one more', '*');
    expect((await rows())[2]).toBe('Coxswain Cap');
    expect((await address()).getAll('technique')).toEqual(['embroidery']);
  });

  it('shows the landed cost to another country, for several in a parcel', async () => {
    await browser.go(`${origin}/blanks?partner=none`);
    await browser.clickText('Clear the filters');
    await browser.text('21 blanks', '*');
    await browser.click('input[aria-label="Landed cost to"]');
    const to = await browser.find('input[aria-label="Landed cost to"]:not([readonly])');
    await to.sendKeys(Key.chord(Key.CONTROL, 'a'), 'new zea', Key.ENTER);
    await browser.until(async () => (await address()).get('to') === 'NZ', 'the destination in the address');
    await browser.text('Landed, New Zealand ↑', 'button');
    const items = await browser.labelled('items in the parcel');
    await items.sendKeys(Key.chord(Key.CONTROL, 'a'), '3', Key.ENTER);
    await browser.text('Landed, each of 3 ↑', 'button');
    expect((await address()).get('items')).toBe('3');
    await items.sendKeys(Key.chord(Key.CONTROL, 'a'), '99', Key.ENTER);
    await browser.text('Enter 1 to 20 items', '*', false);
  });

  it('says what of an address cannot be used, and shows all', async () => {
    await browser.go(`${origin}/blanks?items=many`);
    await browser.text('“many” cannot be used for items', '*', false);
    await browser.text('21 blanks', '*');
  });

  it('walks the colors of a picture under the pointer', async () => {
    await browser.go(`${origin}/blanks?q=towpath&from=GB`);
    await browser.text('1 blank', '*');
    const picture = await browser.find('[role=row][data-partner] img');
    const at = () => picture.getAttribute('src');
    const first = await at();
    await browser.driver.actions().move({ origin: picture }).perform();
    await browser.until(async () => (await at()) !== first, 'another color');
    const second = await at();
    await browser.until(async () => (await at()) !== second, 'a third color');
  });

  it('compares side by side, and shows only what differs', async () => {
    await browser.go(`${origin}/blanks?q=galley+mug`);
    await browser.text('2 blanks', '*');
    await tick('Compare Galley Mug, Oststern');
    await browser.text('choose one more', '*');
    await tick('Compare Galley Mug, Cinder Lane');
    await browser.until(async () => (await address()).getAll('compare').length === 2, 'the tray in the address');
    await browser.clickText('Compare side by side', 'a');
    await browser.text('Compare blanks', 'h1');
    await browser.text('Landed cost of one, 11 oz', 'th');
    const count = () => browser.driver.executeScript<number>('return document.querySelectorAll("tbody tr").length');
    const all = await count();
    await browser.clickText('only what differs', 'label', false);
    await browser.until(async () => (await count()) < all, 'fewer lines');
    expect(await browser.faults()).toEqual([]);
    await browser.click('[aria-label="Remove Galley Mug, Oststern"]');
    await browser.until(async () => (await address()).getAll('id').length === 1, 'one left');
  });

  it('knows a blank before drawing: templates at the size of the file, sizes in inches, and a product in chosen colors', async () => {
    await browser.go(`${origin}/blanks?q=towpath&from=GB`);
    await browser.clickText('Towpath Tee', 'a');
    await browser.text('Print areas', 'h2');
    expect(await browser.faults()).toEqual([]);
    const link = await browser.find('[aria-label="Template of Front, XS – L, PNG"]');
    const template = await browser.driver.executeAsyncScript<{ type: string; width: number; height: number }>(
      `const [href, done] = arguments;
       fetch(href).then(async (r) => { const type = r.headers.get('content-type'); const b = await createImageBitmap(await r.blob()); done({ type, width: b.width, height: b.height }); });`,
      await link.getAttribute('href'),
    );
    // 305 × 406 mm at 300 DPI
    expect(template).toEqual({ type: 'image/png', width: 3602, height: 4795 });
    await browser.clickText('inches');
    await browser.text('8¼', 'td');
    await browser.clickText('Estuary', 'label', false);
    await browser.clickText('Coal', 'label', false);
    await browser.text('14 variants', 'p', false);
    await browser.clickText('Make a product');
    await browser.text('2 colors, 14 variants', 'span');
  });
});

describe('what is sold elsewhere', () => {
  it('becomes a product from a list of SKUs; what is in doubt is asked', async () => {
    await browser.go(`${origin}/blanks?q=towpath&from=GB`);
    await browser.clickText('Towpath Tee', 'a');
    await browser.clickText('From a list of SKUs');
    const file = await browser.find('[data-testid=sold-file]');
    await file.sendKeys(write('broken.csv', 'sku,title,price\nA-1,Crest tee,-3\n'));
    await browser.text('is not above zero', 'td', false);
    await file.sendKeys(
      write(
        'Crest tee.csv',
        'sku,title,price\nA-1,"Crest tee, Coal, M",7.00\nA-2,"Crest tee, Coal, large",21.50\nA-3,Crest tee in S,21.50\n',
      ),
    );
    await browser.text('2 of 3 lines have a variant, 1 for you to say.', 'p');
    await browser.text('It names no color of this blank.', '*');
    expect(await browser.faults()).toEqual([]);
    await browser.click('[aria-label^="Variant of A-3"]');
    await browser.clickText('Estuary, S', '*[@role="option"]');
    await browser.clickText('Make a product of 3 lines');
    await browser.text('2 colors, 3 variants', 'span');
    const { products } = await api.get<{ products: { title: string; id: string }[] }>('/products');
    const product = await api.get<{ document: { variants: Record<string, { sku?: string }> } }>(
      `/products/${products.find((one) => one.title === 'Crest tee')!.id}`,
    );
    expect(product.document.variants['color=estuary;size=s']).toEqual({ sku: 'A-3' });
  });
});

describe('a partner’s price list', () => {
  it('with faults is told line by line, and nothing changes', async () => {
    const text = await priceList('Millrace Works', (line) =>
      line.startsWith('MW-TOWPATHTEE-COAL-M,') ? line.replace(/,[\d.]+,GBP/, ',-1,EUR') : line,
    );
    await browser.go(`${origin}/blanks/price-lists`);
    await (await browser.find('[data-testid="bring-Millrace Works"]')).sendKeys(write('faulty.csv', text));
    await browser.text('2 errors; nothing was changed', 'h2');
    await browser.text('“-1” is below zero.', 'td');
    expect(await browser.faults()).toEqual([]);
    await browser.clickText('Discard');
    await browser.text('All lists', 'h2');
  });

  it('is previewed with what it does to products, taken, and marks what ended', async () => {
    const text = await priceList('Millrace Works', (line) => {
      if (line.startsWith('MW-TOWPATHTEE-COAL-L,')) return line.replace(/,no$/, ',yes');
      return line.startsWith('MW-TOWPATHTEE-COAL-M,') ? line.replace(/,7\.40,/, ',8.20,') : line;
    });
    await browser.go(`${origin}/blanks/price-lists`);
    await (await browser.find('[data-testid="bring-Millrace Works"]')).sendKeys(write('november.csv', text));
    await browser.text('Must fix: Sold below cost, 1 listing or product', 'h3');
    await browser.text('1 variant ends', 'span');
    await browser.clickText('Towpath Tee', 'button', false);
    await browser.text('+10.8 %', 'td');
    expect(await browser.faults()).toEqual([]);
    await browser.clickText('Apply it, with 1 product below cost');
    await browser.text('What it did to your products', 'h2');
    await browser.go(`${origin}/range`);
    await browser.clickText('1 variant ended: Coal, L.', 'a');
    await browser.text('1 ended', 'span');
    await browser.clickText('Drop it');
    await browser.text('2 colors, 2 variants', 'span');
  });

  it('nothing went wrong in the console', async () => {
    const errors = (await browser.consoleErrors()).filter((message) => !/favicon|422/.test(message));
    expect(errors).toEqual([]);
  });
});
