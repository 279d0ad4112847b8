import { Key } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import type { ApiClient } from '../../demo/client';
import type { ShelfItem } from '../../src/core/shelf/shelf';
import { Browser } from './support/browser';
import { openAccount } from './support/seller';

const origin = inject('origin');
const SELLER = { name: 'Una Weir', email: 'weir@brackwater.example', password: 'neap-tide-42' };
let browser: Browser;
let api: ApiClient;
let blanks: ShelfItem[];

const titles = async (shelf = 'range') =>
  (await api.get<{ products: { title: string }[] }>(`/products?in=${shelf}&sort=title`)).products.map((p) => p.title);

beforeAll(async () => {
  api = await openAccount(origin, SELLER);
  ({ blanks } = await api.get<{ blanks: ShelfItem[] }>('/blanks?limit=200'));
  const tee = blanks.find(({ code, shipsFrom }) => code === 'towpath-tee' && shipsFrom === 'GB')!;
  await api.post('/products', { blankId: tee.id, title: 'Ebb tee' });
  browser = await Browser.open();
  await browser.signIn(origin, SELLER.email, SELLER.password);
});
afterAll(() => browser.close());

describe('a product of the range', () => {
  it('is archived from its row, and the way back is beside the message', async () => {
    await browser.click('[aria-label="Actions for Ebb tee"]');
    await browser.clickText('Archive');
    await browser.until(async () => (await titles('archived')).join() === 'Ebb tee', 'archived');
    await browser.clickText('Undo');
    await browser.until(async () => (await titles()).join() === 'Ebb tee', 'back in the range');
    await browser.text('Ebb tee', 'a');
  });

  it('is duplicated on the bench, and put on another blank with what does not fit said first', async () => {
    await browser.clickText('Ebb tee', 'a');
    await browser.click('[aria-label=Product]');
    await browser.clickText('Duplicate');
    await browser.until(async () => (await titles()).includes('Ebb tee (copy)'), 'the copy');
    await browser.text('Ebb tee (copy)', 'h1');
    await browser.click('[aria-label=Product]');
    await browser.clickText('Put on another blank …');
    const search = await browser.labelled('Which blank');
    await search.sendKeys('hoodie');
    await browser.until(
      async () =>
        /Slipway Hoodie/.test(await browser.seen('[role=dialog] ul')) &&
        !/Mug/.test(await browser.seen('[role=dialog] ul')),
      'hoodies only',
    );
    await browser.clickText('Choose');
    await browser.text('A new product on', '*', false);
    expect(await browser.faults()).toEqual([]);
    await browser.clickText('Make the product');
    await browser.until(async () => (await titles()).some((title) => title.includes('Slipway Hoodie')), 'on a hoodie');
  });

  it('is deleted, found under what was deleted, and restored', async () => {
    await browser.go(`${origin}/range`);
    await browser.click('[aria-label="Actions for Ebb tee (copy)"]');
    await browser.text('Delete');
    // Somebody else's work refreshes the page under the open menu: it stays.
    const tee = blanks.find(({ code, shipsFrom }) => code === 'towpath-tee' && shipsFrom === 'GB')!;
    await api.post('/products', { blankId: tee.id, title: 'Late tee' });
    await browser.text('Late tee', 'a');
    await browser.clickText('Delete');
    await browser.until(async () => (await titles('deleted')).join() === 'Ebb tee (copy)', 'deleted');
    await browser.go(`${origin}/range?in=deleted`);
    await browser.clickText('Restore');
    await browser.until(async () => (await titles('deleted')).length === 0, 'restored');
    expect(await titles()).toContain('Ebb tee (copy)');
  });

  it('has an address for each part, and the browser goes back through them', async () => {
    await browser.go(`${origin}/range`);
    await browser.clickText('Ebb tee', 'a');
    await browser.find('section[aria-label=artwork]');
    await browser.driver.actions().sendKeys('6').perform();
    await browser.find('section[aria-label=words]');
    expect(await browser.driver.getCurrentUrl()).toMatch(/part=words$/);
    await browser.until(async () => (await browser.driver.getTitle()) === 'Ebb tee, Words · Typica', 'the title');
    await browser.driver.navigate().back();
    await browser.find('section[aria-label=artwork]');
  });

  it('hears single keys only where they are wanted', async () => {
    await browser.click('[aria-label=Keys]');
    await browser.clickText('Use keys without Ctrl', 'label');
    await browser.driver.actions().sendKeys(Key.ESCAPE).perform();
    await browser.until(
      async () => (await browser.driver.findElements({ css: '[role=dialog]' })).length === 0,
      'closed',
    );
    // Had the 5 been heard, the step before Stores would be Price.
    await browser.driver.actions().sendKeys('5').perform();
    await browser.driver.actions().keyDown(Key.CONTROL).sendKeys(Key.ENTER).keyUp(Key.CONTROL).perform();
    await browser.find('section[aria-label=stores]');
    await browser.driver.navigate().back();
    await browser.find('section[aria-label=artwork]');
    await browser.click('[aria-label=Keys]');
    await browser.clickText('Use keys without Ctrl', 'label');
    await browser.driver.actions().sendKeys(Key.ESCAPE).perform();
    await browser.until(
      async () => (await browser.driver.findElements({ css: '[role=dialog]' })).length === 0,
      'closed',
    );
    await browser.driver.actions().sendKeys('5').perform();
    await browser.find('section[aria-label=price]');
  });
});

describe('many listings', () => {
  it('are ticked, looked at before anything is sent, and held back where something is to be fixed', async () => {
    const { name } = await api.connect('pennyquay');
    await browser.go(`${origin}/range`);
    await browser.click('[aria-label="Select Ebb tee"]');
    await browser.clickText('Send …');
    await browser.clickText('See what would be sent');
    await browser.text('1 listing: 1 not sent.', 'p');
    await browser.text('Nothing to send', 'button');
    expect(await browser.seen('main table tbody')).toContain(name);
    expect((await api.get<{ sends: unknown[] }>('/sends')).sends).toHaveLength(1);
    await browser.go(`${origin}/sends`);
    await browser.text('planned', 'td');
  });

  it('are chosen as cells with keys and with the mouse, and left again', async () => {
    await browser.go(`${origin}/range?sort=title`);
    await browser.find('[role=rowheader]');
    const rows = (await browser.driver.findElements({ css: '[role=rowheader]' })).length;
    const grid = await browser.find('[role=grid]');
    await browser.driver.executeScript('arguments[0].focus()', grid);
    const keys = (...pressed: string[]) =>
      browser.driver
        .actions()
        .sendKeys(...pressed)
        .perform();
    await keys(Key.ARROW_RIGHT);
    await browser.driver.actions().keyDown(Key.SHIFT).sendKeys(Key.ARROW_DOWN).keyUp(Key.SHIFT).perform();
    await browser.text('2 listings selected', 'span');
    await browser.driver.actions().keyDown(Key.CONTROL).sendKeys('a').keyUp(Key.CONTROL).perform();
    await browser.text(`${rows} products selected`, 'span');
    expect(await browser.faults()).toEqual([]);
    await keys(Key.ESCAPE);
    await browser.until(async () => !(await browser.seen('main')).includes('selected'), 'nothing selected');
    const cells = await browser.driver.findElements({ css: '[role=gridcell]' });
    await cells[0]!.click();
    await browser.driver.actions().keyDown(Key.SHIFT).click(cells.at(-1)!).keyUp(Key.SHIFT).perform();
    await browser.text(`${cells.length} listings selected`, 'span');
  });

  it('are found by filters with counts, kept in the address and under a name', async () => {
    await browser.go(`${origin}/range`);
    await browser.clickText('not listed', 'label', false);
    await browser.until(async () => /state=not-listed/.test(await browser.driver.getCurrentUrl()), 'the address');
    await browser.clickText('Saved views');
    await (await browser.labelled('Save this as')).sendKeys('To send', Key.ENTER);
    await browser.clickText('Clear all filters', 'button');
    await browser.until(async () => !/state=/.test(await browser.driver.getCurrentUrl()), 'all again');
    await browser.clickText('Saved views');
    await browser.clickText('To send', 'button');
    await browser.until(async () => /state=not-listed/.test(await browser.driver.getCurrentUrl()), 'the view');
    await browser.driver.actions().sendKeys(Key.ESCAPE).perform();
    expect(await browser.faults()).toEqual([]);
  });
});

describe('one store', () => {
  let store: { id: string; name: string };
  let id: string;
  const leftOut = async () => {
    const { document } = await api.get<{ document: { leftOut?: Record<string, object> } }>(`/products/${id}`);
    return Object.keys(document.leftOut?.[store.id] ?? {}).length;
  };

  it('sells fewer of a product’s variants, and all of them again', async () => {
    store = (await api.get<{ stores: { id: string; name: string }[] }>('/stores')).stores[0]!;
    const tee = blanks.find(({ code, shipsFrom }) => code === 'towpath-tee' && shipsFrom === 'GB')!;
    const { variants } = await api.get<{ variants: { key: string }[] }>(`/blanks/${tee.id}`);
    const all = variants.map(({ key }) => ({ key }));
    ({ id } = await api.post<{ id: string }>('/products', { blankId: tee.id, title: 'Whole tee', variants: all }));
    await browser.go(`${origin}/products/${id}?part=variants`);
    await browser.click('[aria-label^="Choosing for:"]');
    await browser.clickText(store.name, '*[@role="option"]');
    await browser.text(`${store.name} sells ${all.length} of ${all.length}`, 'span');
    await browser.click('[aria-label="Coal in all sizes"]');
    await browser.until(async () => (await leftOut()) > 1, 'coal left out');
    expect(await browser.faults()).toEqual([]);
    await browser.go(`${origin}/products/${id}?part=stores`);
    await browser.text(`${await leftOut()} variants left out`, 'button');
    await browser.clickText('follow the product');
    await browser.until(async () => (await leftOut()) === 0, 'all sold again');
  });

  it('sells a product in several listings by color, and in one again', async () => {
    const listings = async () =>
      (await api.get<{ listings: { storeId: string; number: number }[] }>(`/products/${id}/listings`)).listings.filter(
        ({ storeId }) => storeId === store.id,
      );
    await browser.go(`${origin}/products/${id}?part=variants`);
    await browser.click('[aria-label^="Choosing for:"]');
    await browser.clickText(store.name, '*[@role="option"]');
    await browser.clickText('Sell in several listings, by color');
    await browser.text(`2 listings in ${store.name}`, 'h3');
    const title = await browser.labelled('Title of listing 2');
    await title.sendKeys(Key.chord(Key.CONTROL, 'a'), 'Whole tee, the other half', Key.ENTER);
    await browser.click('[aria-label="Move Coal"]');
    await browser.clickText('Move to a new listing', '*[@role="menuitem"]');
    await browser.text(`3 listings in ${store.name}`, 'h3');
    await browser.until(async () => (await listings()).length === 3, 'three listings');
    expect(await browser.faults()).toEqual([]);
    await browser.go(`${origin}/products/${id}?part=stores`);
    await browser.text(', listing 3: Coal', 'span', false);
    expect(await browser.faults()).toEqual([]);
    await browser.go(`${origin}/range`);
    await browser.text('3 listings', 'span', false);
    await browser.go(`${origin}/products/${id}?part=stores`);
    await browser.click(`[aria-label="Follow the product’s listings in ${store.name}"]`);
    await browser.until(async () => (await listings()).length === 1, 'one listing');
  });

  it('has a rule for its prices, and ways to send', async () => {
    const settings = async () => (await api.get<{ settings: Record<string, unknown> }>(`/stores/${store.id}`)).settings;
    await browser.go(`${origin}/stores/${store.id}`);
    await browser.click('[aria-label^="Prices:"]');
    await browser.clickText('reach a margin of', '*[@role="option"]');
    await browser.until(async () => (await settings()).priceRule !== undefined, 'a rule');
    await browser.click('[aria-label^="New listings:"]');
    await browser.clickText('live', '*[@role="option"]');
    await browser.click('[aria-label^="Sizes:"]');
    await browser.clickText('in cm and inches, under the description', '*[@role="option"]');
    await browser.until(async () => (await settings()).sizesIn === 'both', 'sizes');
    expect(await settings()).toMatchObject({ sendsAs: 'live', priceRule: { aim: { kind: 'margin', ppm: 400_000 } } });
    await browser.clickText('Shipping that buyers pay', 'h2');
    const sum = await browser.labelled('First item of a shirt parcel');
    await sum.sendKeys('4.99', Key.ENTER);
    const charge = { firstMinor: 499, furtherMinor: 499 };
    await browser.until(
      async () => JSON.stringify((await settings()).answers).includes(JSON.stringify({ shirt: charge })),
      'a sum of its own',
    );
    expect(await browser.faults()).toEqual([]);
    await browser.click('[aria-label="Shipping of shirt parcels as the partner takes it"]');
    await browser.until(async () => !JSON.stringify((await settings()).answers).includes('499'), 'as the partner');
  });
});

describe('settings', () => {
  it('say at the field that a new email needs the password, and keep what was typed', async () => {
    await browser.go(`${origin}/settings`);
    expect(await browser.faults()).toEqual([]);
    const email = await browser.labelled('Email');
    await email.sendKeys(Key.chord(Key.CONTROL, 'a'), 'weir2@brackwater.example');
    await browser.clickText('Save name and email');
    await browser.text('Enter your current password to change your email or password.', 'p');
    expect(await email.getAttribute('value')).toBe('weir2@brackwater.example');
    const [password] = await browser.driver.findElements({ css: 'input[type=password]' });
    await password!.sendKeys(SELLER.password);
    await browser.clickText('Save name and email');
    await browser.until(
      async () => (await api.get<{ email: string }>('/me')).email === 'weir2@brackwater.example',
      'the new email',
    );
  });

  it('keep the currency once there are products', async () => {
    await browser.click('[aria-label^="Currency:"]');
    await browser.clickText('EUR', '*[@role="option"]');
    await browser.clickText('Save the workspace');
    await browser.text('The currency stays GBP', 'p', false);
    expect(await api.get<{ currency: string }>('/workspace')).toMatchObject({ currency: 'GBP' });
  });

  it('nothing went wrong in the console', async () => {
    expect((await browser.consoleErrors()).filter((message) => !/favicon|409|422/.test(message))).toEqual([]);
  });
});

// After the look at the console: a browser writes an answer of 404 down there.
describe('an address without a page', () => {
  it('is told so under the masthead, with a way on', async () => {
    await browser.go(`${origin}/range/nowhere/at-all`);
    await browser.text('Page not found', 'h1');
    expect(await browser.driver.getTitle()).toBe('Page not found · Typica');
    await browser.clickText('Go to the range', 'a');
    await browser.text('Ebb tee', 'a');
  });
});
