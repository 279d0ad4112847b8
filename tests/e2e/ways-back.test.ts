import fs from 'node:fs';
import path from 'node:path';
import { Key } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import type { ApiClient } from '../../demo/client';
import type { ShelfItem } from '../../src/core/shelf/shelf';
import { Browser } from './support/browser';
import { openAccount } from './support/seller';

const origin = inject('origin');
const SELLER = { name: 'Ria Sluice', email: 'sluice@brackwater.example', password: 'slack-water-7' };
let browser: Browser;
let api: ApiClient;
let tee: ShelfItem;

beforeAll(async () => {
  api = await openAccount(origin, SELLER);
  const { blanks } = await api.get<{ blanks: ShelfItem[] }>('/blanks?limit=200');
  tee = blanks.find(({ code, shipsFrom }) => code === 'towpath-tee' && shipsFrom === 'GB')!;
  browser = await Browser.open();
  await browser.signIn(origin, SELLER.email, SELLER.password);
});
afterAll(() => browser.close());

describe('what one chooses to find again', () => {
  it('blanks are marked, and found by the mark', async () => {
    await browser.go(`${origin}/blanks`);
    await browser.click('[aria-label="Favorite: Towpath Tee, Millrace Works"]');
    await browser.until(
      async () => (await api.get<{ total: number }>('/blanks?favorite=yes')).total === 1,
      'the mark is kept',
    );
    await browser.clickText('favorites', 'span');
    await browser.text('1 blank', '*');
    expect(new URL(await browser.driver.getCurrentUrl()).searchParams.get('favorite')).toBe('yes');
  });

  it('filters are saved under a name, used, deleted and given back', async () => {
    await browser.clickText('Saved filters', 'button');
    await (await browser.labelled('Save this as')).sendKeys('My tees', Key.ENTER);
    await browser.text('My tees', 'button');
    await browser.driver.actions().sendKeys(Key.ESCAPE).perform();
    await browser.clickText('Clear 1', 'button');
    await browser.text('21 blanks', '*');
    await browser.clickText('Saved filters', 'button');
    await browser.clickText('My tees', 'button');
    await browser.text('1 blank', '*');
    const names = async () =>
      (await api.get<{ sets: { name: string }[] }>('/named-sets?kind=blank-filter')).sets.map(({ name }) => name);
    await browser.click('[aria-label="Delete My tees"]');
    await browser.until(async () => (await names()).length === 0, 'deleted');
    await browser.clickText('Undo', 'button');
    await browser.until(async () => (await names()).join() === 'My tees', 'given back');
  });
});

describe('what was done has a way back', () => {
  it('an artwork’s name and its deletion', async () => {
    const svg = fs.readFileSync(path.resolve(import.meta.dirname, '../../demo/artwork/heron.svg'));
    const { id } = await api.upload(svg, 'Heron');
    const nameNow = async () => (await api.get<{ name: string }>(`/artwork/${id}`)).name;
    await browser.go(`${origin}/artwork`);
    await browser.fill('aside input', 'Grey heron\n');
    await browser.until(async () => (await nameNow()) === 'Grey heron', 'renamed');
    await browser.clickText('Undo', 'button');
    await browser.until(async () => (await nameNow()) === 'Heron', 'its name again');
    await browser.clickText('Delete', 'button');
    const there = async () => (await api.get<{ artwork: unknown[] }>('/artwork')).artwork.length;
    await browser.until(async () => (await there()) === 0, 'deleted');
    await browser.text('Heron was deleted.', '*');
    await browser.clickText('Undo', 'button');
    await browser.until(async () => (await there()) === 1, 'there again');
  });

  it('several products that were archived at once', async () => {
    for (const title of ['One', 'Two', 'Three']) await api.post('/products', { blankId: tee.id, title });
    await browser.go(`${origin}/range`);
    await browser.click('input[aria-label="Select One"]');
    await browser.click('input[aria-label="Select Three"]');
    await browser.text('2 products selected', '*');
    expect(await browser.faults()).toEqual([]);
    await browser.clickText('Change', 'button');
    await browser.clickText('Archive …', '*[@role="menuitem"]');
    await browser.text('2 products: 2 would be changed.', 'p');
    expect(await browser.faults()).toEqual([]);
    await browser.clickText('Archive: 2 products', 'button');
    const archived = async () =>
      (await api.get<{ products: { title: string }[] }>('/products?in=archived&sort=title')).products.length;
    await browser.until(async () => (await archived()) === 2, 'archived');
    await browser.clickText('Undo', 'button');
    await browser.until(async () => (await archived()) === 0, 'in the range again');
    await browser.go(`${origin}/range`);
    await browser.clickText('Product', 'button');
    await browser.until(async () => /sort=title/.test(await browser.driver.getCurrentUrl()), 'sorted by title');
    await browser.find('[role=columnheader][aria-sort=ascending]');
  });

  it('settings of money', async () => {
    const margin = async () => (await api.get<{ settings: { rateMarginPpm: number } }>('/pricing/settings')).settings;
    await browser.go(`${origin}/money`);
    const before = (await margin()).rateMarginPpm;
    const field = await browser.labelled('Safety margin on costs');
    await field.sendKeys(Key.chord(Key.CONTROL, 'a'), '7', Key.ENTER);
    await browser.until(async () => (await margin()).rateMarginPpm === 70_000, 'saved');
    await browser.clickText('Undo', 'button');
    await browser.until(async () => (await margin()).rateMarginPpm === before, 'as before');
  });
});

describe('keys of the bench', () => {
  it('add artwork and text, zoom, and save without waiting', async () => {
    const { id } = await api.post<{ id: string }>('/products', { blankId: tee.id, title: 'Keys' });
    await browser.go(`${origin}/products/${id}`);
    await browser.find('[data-testid=surface]');
    const press = (...keys: string[]) =>
      browser.driver
        .actions()
        .sendKeys(...keys)
        .perform();
    await press('+');
    await browser.until(async () => (await browser.seen('[data-testid=zoom]')) === '125 %', 'larger');
    await press('0');
    await browser.until(async () => (await browser.seen('[data-testid=zoom]')) === '100 %', 'whole');
    await press('i');
    await browser.find('[role=dialog]');
    await press(Key.ESCAPE);
    await browser.until(
      async () => await browser.driver.executeScript<boolean>('return !document.querySelector("[role=dialog]")'),
      'the shelf closed',
    );
    await press('w');
    await browser.find('[data-words]');
    await browser.driver.actions().keyDown(Key.CONTROL).sendKeys('s').keyUp(Key.CONTROL).perform();
    await browser.saved();
    const { document } = await api.get<{ document: { areas: Record<string, { layers: object }> } }>(`/products/${id}`);
    expect(Object.keys(document.areas['main.front']!.layers)).toHaveLength(1);
    expect(await browser.consoleErrors()).toEqual([]);
  });
});
