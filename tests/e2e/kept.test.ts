import fs from 'node:fs';
import mysql from 'mysql2/promise';
import { Key } from 'selenium-webdriver';
import type chrome from 'selenium-webdriver/chrome';
import { afterAll, beforeAll, beforeEach, describe, expect, inject, it } from 'vitest';
import { ApiClient } from '../../demo/client';
import type { ShelfItem } from '../../src/core/shelf/shelf';
import type { ProductDocument } from '../../src/core/document/document';
import { Browser } from './support/browser';
import { openAccount } from './support/seller';

const origin = inject('origin');
const SELLER = { name: 'Ida Keel', email: 'keel@brackwater.example', password: 'slack-water-4' };
let browser: Browser;
let api: ApiClient;
let blankId: string;
let id: string;

beforeAll(async () => {
  api = await openAccount(origin, SELLER);
  const { blanks } = await api.get<{ blanks: ShelfItem[] }>('/blanks?q=towpath&from=GB');
  blankId = blanks[0]!.id;
  browser = await Browser.open();
  await browser.signIn(origin, SELLER.email, SELLER.password);
});
afterAll(() => browser.close());
beforeEach(async () => {
  await offline(false);
  id = (await api.post<{ id: string }>('/products', { blankId, title: 'Tide' })).id;
  await openWords();
});

const openWords = async () => {
  await browser.go(`${origin}/products/${id}?part=words`);
  await browser.labelled('Title');
};
const offline = async (is: boolean) => {
  const driver = browser.driver as chrome.Driver;
  // Without this what pages ask for goes through all the same.
  await driver.sendDevToolsCommand('Network.enable', {});
  const rate = { latency: 0, downloadThroughput: -1, uploadThroughput: -1 };
  await driver.sendDevToolsCommand('Network.emulateNetworkConditions', { offline: is, ...rate });
};
const type = async (label: string, text: string) => {
  const field = await browser.labelled(label);
  await field.click();
  await field.sendKeys(Key.chord(Key.CONTROL, 'a'), text);
};
const state = (text: string, ms?: number) =>
  browser.until(async () => (await browser.seen('[data-testid=save-state]')).startsWith(text), text, ms);
const words = async () => {
  const { document } = await api.get<{ document: ProductDocument }>(`/products/${id}`);
  return document.words.base;
};
const arrives = (part: object, ms?: number) =>
  browser.until(
    async () => {
      const there = (await words()) as unknown as Record<string, unknown>;
      return Object.entries(part).every(([key, value]) => there[key] === value);
    },
    `${JSON.stringify(part)} on the server`,
    ms,
  );
const shows = (text: string) =>
  browser.until(async () => (await (await browser.labelled('Title')).getAttribute('value')) === text, `“${text}”`);
/** Another of the seller's scripts changes the title. */
const changedElsewhere = async (title: string) => {
  const { revision } = await api.get<{ revision: number }>(`/products/${id}`);
  await api.patch(id, revision, [{ op: 'replace', path: '/words/base/title', value: title }]);
};
const sql = async (statement: string, values: unknown[]) => {
  const connection = await mysql.createConnection(inject('databaseUrl'));
  await connection.query(statement, values);
  await connection.end();
};
const endWeb = () => {
  const list = JSON.parse(fs.readFileSync(inject('processesFile'), 'utf8')) as { name: string; pid: number }[];
  process.kill(list.findLast((one) => one.name === 'web')!.pid, 'SIGKILL');
};

describe('what is typed is not lost', () => {
  it('while the network is away: it says so, and sends it when it is back', async () => {
    await offline(true);
    await type('Title', 'Ebb');
    await state('Offline: not saved yet');
    expect(await browser.seen('[data-testid=save-trouble]')).toContain('kept in this browser');
    await type('Description', 'typed later');
    await offline(false);
    await arrives({ title: 'Ebb', description: 'typed later' });
    await state('Saved');
    expect(await browser.faults()).toEqual([]);
  });

  it('while the server is started again: nothing needs to be typed for it to go on', async () => {
    endWeb();
    await type('Title', 'Ebb');
    await state('Offline: not saved yet');
    await arrives({ title: 'Ebb' }, 60_000);
    await state('Saved');
  });

  it('when the session ends: one signs in over the page, and it goes on', async () => {
    await type('Description', 'before');
    await state('Saved');
    const other = await ApiClient.signIn(origin, SELLER.email, SELLER.password);
    await other.call('DELETE', '/sessions?everywhere=true');
    api = await ApiClient.signIn(origin, SELLER.email, SELLER.password);
    await type('Title', 'Ebb').catch(() => undefined);
    await browser.text('Sign in again');
    expect(await browser.faults()).toEqual([]);
    const password = await browser.labelled('Password');
    await password.sendKeys('wrong-one');
    await browser.clickText('Sign in');
    await browser.find('form [role=alert]');
    await password.sendKeys(Key.chord(Key.CONTROL, 'a'), SELLER.password);
    await browser.clickText('Sign in');
    await browser.until(
      async () => (await browser.driver.getCurrentUrl()).includes(`/products/${id}`),
      'the same page',
    );
    // The dialog may have come before the last letters: what is in the field is what must arrive.
    await browser.until(
      async () => (await browser.driver.findElements({ css: '[role=dialog]' })).length === 0,
      'closed',
    );
    await type('Title', 'Ebb and flood');
    await arrives({ title: 'Ebb and flood', description: 'before' });
  });

  it('when the tab is closed: it is told of on other pages, and is there and saved when it is opened again', async () => {
    const first = await browser.driver.getWindowHandle();
    await offline(true);
    await type('Title', 'Ebb');
    await state('Offline: not saved yet');
    await browser.driver.switchTo().newWindow('tab');
    const second = await browser.driver.getWindowHandle();
    await browser.driver.switchTo().window(first);
    await browser.driver.close();
    await browser.driver.switchTo().window(second);
    expect((await words()).title).toBe('Tide');
    await browser.go(`${origin}/range`);
    await browser.until(async () => (await browser.seen('[data-testid=left-edits]')).includes('Ebb'), 'told of');
    await browser.clickText('Ebb', 'a');
    await arrives({ title: 'Ebb' });
    await browser.until(
      async () => (await browser.driver.findElements({ css: '[data-testid=left-edits]' })).length === 0,
      'no longer told of',
    );
  });

  it('when a link is followed at once', async () => {
    await type('Title', 'Ebb');
    await browser.clickText('Blanks', 'a');
    await arrives({ title: 'Ebb' });
  });

  it('when what it was made on is no longer known singly', async () => {
    await offline(true);
    await type('Description', 'mine');
    await state('Offline: not saved yet');
    await changedElsewhere('Theirs');
    await changedElsewhere('Theirs again');
    await sql('DELETE FROM product_revision WHERE product_id = ? AND revision = 2', [id]);
    await sql('UPDATE product_revision SET first_revision = 1 WHERE product_id = ? AND revision = 3', [id]);
    await offline(false);
    await arrives({ title: 'Theirs again', description: 'mine' });
  });

  it('when one edit of many cannot be taken: that one is named, alone', async () => {
    await offline(true);
    await type('Title', 'Ebb');
    await browser.driver.executeScript(
      `const area = document.querySelector('textarea');
       Object.getOwnPropertyDescriptor(HTMLTextAreaElement.prototype, 'value').set.call(area, 'bell \\u0007');
       area.dispatchEvent(new Event('input', { bubbles: true }));`,
    );
    await state('Offline: not saved yet');
    await offline(false);
    await arrives({ title: 'Ebb', description: '' });
    await browser.until(
      async () => /Description: .*control character/.test(await browser.seen('[data-testid=not-kept]')),
      'named',
    );
    expect(await browser.seen('[data-testid=not-kept]')).not.toContain('Title:');
    await browser.clickText('I have read it');
  });
});

describe('undo', () => {
  it('goes on after the page was loaded anew', async () => {
    await type('Title', 'Ebb');
    await state('Saved');
    await openWords();
    await browser.click('[aria-label="Undo Title"]');
    await shows('Tide');
    await arrives({ title: 'Tide' });
  });

  it('asks before it writes over what somebody else set later', async () => {
    await type('Title', 'Ebb');
    await state('Saved');
    await changedElsewhere('Flood');
    await shows('Flood');
    await browser.click('[aria-label="Undo Title"]');
    await browser.text('Undo “Title”?');
    expect(await browser.seen('[data-testid=theirs]')).toBe('Flood');
    expect(await browser.faults()).toEqual([]);
    await browser.clickText('Cancel');
    await shows('Flood');
    await browser.click('[aria-label="Undo Title"]');
    await browser.clickText('Undo it anyway');
    await arrives({ title: 'Tide' });
  });
});

describe('the range', () => {
  it('finds a product by how a SKU begins, and shows all again', async () => {
    const { blanks } = await api.get<{ blanks: ShelfItem[] }>('/blanks?q=towpath&from=GB');
    const variants = [{ key: 'color=coal;size=m', sku: 'KEEL-77' }];
    await api.post('/products', { blankId: blanks[0]!.id, title: 'Sought tee', variants });
    await browser.go(`${origin}/range`);
    await (await browser.labelled('Search')).sendKeys('keel-7');
    await browser.until(
      async () => (await browser.driver.findElements({ css: '[role=rowheader]' })).length === 1,
      'one row',
    );
    await browser.text('Sought tee', 'a');
    await (await browser.labelled('Search')).sendKeys('zz');
    await browser.clickText('Show all', 'button');
    await browser.until(
      async () => (await browser.driver.findElements({ css: '[role=rowheader]' })).length > 1,
      'all rows',
    );
    expect(await (await browser.labelled('Search')).getAttribute('value')).toBe('');
    expect(await browser.faults()).toEqual([]);
  });
});

describe('what happened while the page was cut off', () => {
  /** Ends the event stream, and keeps it from coming back until the network does. */
  const cutOff = async () => {
    await offline(true);
    endWeb();
    await browser.until(() => api.get('/me').then(() => true), 'the server to be back');
    await changedElsewhere('Theirs');
  };

  it('is heard of when it is back', async () => {
    await cutOff();
    expect(await (await browser.labelled('Title')).getAttribute('value')).toBe('Tide');
    await offline(false);
    await shows('Theirs');
  });

  it('is read anew when it is no longer known what was missed', async () => {
    await cutOff();
    await sql('DELETE FROM event WHERE workspace_id <> ?', ['']);
    await sql('INSERT INTO event (workspace_id, topic, payload) VALUES (?, ?, ?)', ['w-nobody', 'money', '{}']);
    await offline(false);
    await shows('Theirs');
  });
});
