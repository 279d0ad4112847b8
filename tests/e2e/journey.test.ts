import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { Key, type WebElement } from 'selenium-webdriver';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { ApiClient } from '../../demo/client';
import { Browser } from './support/browser';

const origin = inject('origin');
const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'typica-journey-'));
const EMAIL = 'rower@brackwater.example';
const PASSWORD = 'slack-water-7';
let browser: Browser;

beforeAll(async () => {
  browser = await Browser.open();
  const art = await sharp(
    Buffer.from(
      '<svg xmlns="http://www.w3.org/2000/svg" width="2400" height="1800"><rect x="200" y="200" width="2000" height="1400" rx="300" fill="#f3ead6"/><circle cx="1200" cy="900" r="500" fill="#b5443a"/></svg>',
    ),
  )
    .png()
    .toBuffer();
  fs.writeFileSync(path.join(folder, 'Red buoy.png'), art);
  fs.writeFileSync(path.join(folder, 'holiday.jpg'), 'This is a letter, not a picture.');
});
afterAll(async () => {
  await browser.close();
  fs.rmSync(folder, { recursive: true, force: true });
});

const numberOf = async (css: string) => Number((await browser.seen(css)).replace('−', '-').replace(/[^\d.-]/g, ''));
const enter = async (label: string, value: string) => {
  const field = await browser.labelled(label);
  await field.click();
  await field.sendKeys(Key.chord(Key.CONTROL, 'a'), value, Key.ENTER);
};
const valueOf = async (label: string) => (await (await browser.labelled(label)).getAttribute('value'))!;
const part = (name: string) =>
  browser.click(
    `nav[aria-label=Parts] button:nth-of-type(${['Blank', 'Artwork', 'Colors & sizes', 'Pictures', 'Price', 'Words', 'Stores'].indexOf(name) + 1})`,
  );
const drag = async (element: WebElement, dx: number, dy: number) =>
  browser.driver
    .actions()
    .move({ origin: element })
    .press()
    .move({ origin: element, x: Math.round(dx / 2), y: Math.round(dy / 2) })
    .move({ origin: element, x: dx, y: dy })
    .release()
    .perform();

describe('from artwork to a listing in a shop', () => {
  it('a new seller makes an account and connects a shop on the shop’s own page', async () => {
    await browser.go(`${origin}/sign-in`);
    await browser.clickText('Create an account');
    for (const [label, value] of [
      ['Your name', 'Rosa Thole'],
      ['Email', EMAIL],
      ['Password', PASSWORD],
      ['Name of your business', 'Slack Water Prints'],
    ] as const)
      await (await browser.labelled(label)).sendKeys(value);
    await browser.click('button[type=submit]');
    await browser.text('Range', 'h1');
    await browser.clickText('Stores', 'a');
    await browser.clickText('Connect Pennyquay');
    await browser.text('Let typica work in Brackwater Boathouse?', 'h1');
    await browser.clickText('Allow');
    await browser.text('Fees', 'h2');
    // The demo's seller declared its partners in the same shop; they are seen here at once.
    await browser.text('✓ declared', 'span');
  });

  it('takes a blank, drops artwork on it and places it with the mouse and with numbers', async () => {
    await browser.clickText('Blanks', 'a');
    await browser.text('Blanks', 'h1');
    // One letter is wrong; the blank is found all the same, at both partners.
    await (await browser.find('[aria-label="Search blanks"]')).sendKeys('towpsth');
    await browser.text('2 blanks', '*');
    await browser.click('[role=row][data-partner="Millrace Works"] a');
    await browser.text('Towpath Tee', 'h1');
    await browser.clickText('Make a product', 'button');
    await (await browser.find('[data-testid=upload]')).sendKeys(path.join(folder, 'Red buoy.png'));
    const layer = await browser.find('[data-testid=layer]');
    await browser.until(async () => (await valueOf('width')) === '244.0 mm', 'first width: 80 % of 305 mm');
    await drag(layer, 0, 40);
    await browser.until(async () => (await valueOf('y')) !== '146.2 mm', 'moved');
    expect(await valueOf('x')).toBe('152.5 mm');
    // While a handle is held, the numbers and the DPI follow.
    const handle = await browser.find('[data-testid=handle-se]');
    const before = await browser.seen('[data-testid=dpi]');
    await browser.driver.actions().move({ origin: handle }).press().move({ origin: handle, x: -30, y: -22 }).perform();
    await browser.until(async () => (await browser.seen('[data-testid=dpi]')) !== before, 'DPI while sizing');
    await browser.driver.actions().move({ origin: handle, x: -30, y: -22 }).release().perform();
    const width = Number.parseFloat(await valueOf('width'));
    expect(width).toBeLessThan(240);
    await drag(await browser.find('[data-testid=handle-turn]'), 60, 60);
    expect(await valueOf('turn')).not.toBe('0.0°');
    await enter('turn', '0');
    await enter('width', '20 cm');
    expect(await valueOf('width')).toBe('200.0 mm');
    // 2400 px over 200 mm at 25.4 mm to the inch
    expect(await browser.seen('[data-testid=dpi]')).toBe('305 DPI');
    await enter('width', 'a lot');
    await browser.text('is not a length', '*', false);
    await (await browser.labelled('width')).sendKeys(Key.ESCAPE);
    await browser.click('[aria-label=Center]');
    expect([await valueOf('x'), await valueOf('y')]).toEqual(['152.5 mm', '203.0 mm']);
    await browser.click('[data-testid=surface]');
    await browser.click('[data-testid=layer]');
    await browser.driver.actions().sendKeys(Key.ARROW_UP, Key.ARROW_UP).perform();
    expect(await valueOf('y')).toBe('201.0 mm');
    await browser.driver.actions().keyDown(Key.CONTROL).sendKeys('z').keyUp(Key.CONTROL).perform();
    expect(await valueOf('y')).toBe('203.0 mm');
    await browser.saved();
  });

  it('chooses colors and sizes, and sees each color in the proof', async () => {
    await part('Colors & sizes');
    await browser.click('[aria-label="Estuary in all sizes"]');
    await browser.click('[aria-label^="Coal, M, "]');
    await browser.text('8 of 84 variants', 'span');
    await browser.saved();
    const proof = () => browser.find('[data-testid=proof]').then((canvas) => canvas.getAttribute('aria-label'));
    await browser.until(async () => (await proof())!.includes('in Coal'), 'the color that was chosen last');
    await browser.driver.actions().sendKeys('.').perform();
    await browser.until(async () => (await proof())!.includes('in Estuary'), 'another color');
  });

  it('sets prices by retail, profit and margin, the others follow, and the ledger opens to its sums', async () => {
    await part('Price');
    await browser.clickText('Pennyquay, USD');
    await enter('Price of XS – XL', '24.00');
    await browser.until(async () => (await numberOf('[data-testid=ledger-retail]')) === 24, 'price in the ledger');
    const parts = await Promise.all(
      ['retail', 'shipping-charged', 'making', 'shipping', 'fees', 'left'].map((id) =>
        numberOf(`[data-testid=ledger-${id}]`),
      ),
    );
    const [retail, charged, making, shipping, fees, left] = parts as [number, number, number, number, number, number];
    expect(Math.round((retail + charged - making - shipping - fees) * 100)).toBe(Math.round(left * 100));
    await enter('Profit of XS – XL', '9.00');
    await browser.until(async () => (await numberOf('[data-testid=ledger-left]')) >= 9, 'profit');
    await enter('Margin of XS – XL', '38');
    await browser.until(async () => (await numberOf('[data-testid=ledger-margin]')) >= 38, 'margin');
    await enter('Margin of XS – XL', '97');
    await browser.text('cannot be reached', '*', false);
    await (await browser.labelled('Margin of XS – XL')).sendKeys(Key.ESCAPE);
    await browser.click('[data-testid=ledger-fees]');
    expect(await (await browser.text('Commission: 5 % of ', 'td', false)).isDisplayed()).toBe(true);
    await browser.driver.actions().sendKeys(Key.ESCAPE).perform();
    await browser.saved();
  });

  it('is told by the rules what the shop would refuse, mends it, and sends it live', async () => {
    await part('Words');
    const title = await browser.labelled('Title');
    await title.sendKeys(Key.chord(Key.CONTROL, 'a'), 'Red buoy tee');
    await browser.saved();
    await part('Stores');
    await browser.until(
      async () =>
        (await browser.seen('section[aria-label="Brackwater Boathouse"]')).includes('The description has 0 characters'),
      'the rule about the description',
    );
    expect(await (await browser.text('Send live', 'button')).isEnabled()).toBe(false);
    await part('Words');
    await (await browser.labelled('Description')).sendKeys('A channel marker on a shirt.');
    await (await browser.labelled('Tags')).sendKeys('river,buoy,');
    await browser.saved();
    await part('Stores');
    await browser.until(
      async () => (await browser.text('Send live', 'button')).isEnabled(),
      'nothing stands in the way',
    );
    await browser.clickText('Send live');
    await browser.until(
      async () => (await browser.seen('[data-testid=sync-state]')).includes('on its way'),
      'on its way',
    );
    await browser.until(
      async () => (await browser.seen('[data-testid=sync-state]')).includes('in step'),
      'in step',
      60_000,
    );
  });

  it('changes the price here: ahead; sends again: in step; gets refused and reads the shop’s own words', async () => {
    await part('Price');
    await enter('Price of XS – XL', '27.50');
    await browser.saved();
    await part('Stores');
    await browser.until(async () => (await browser.seen('[data-testid=sync-state]')).includes('ahead'), 'ahead');
    await browser.text('Price of', 'td', false);
    await browser.clickText('Send changes');
    await browser.until(
      async () => (await browser.seen('[data-testid=sync-state]')).includes('in step'),
      'in step again',
      60_000,
    );
    await part('Words');
    await (await browser.labelled('Title')).sendKeys(' dupe');
    await browser.saved();
    await part('Stores');
    await browser.until(async () => (await browser.seen('[data-testid=sync-state]')).includes('ahead'), 'ahead');
    await browser.clickText('Send changes');
    await browser.until(
      async () =>
        (await browser.seen('[data-testid=refusal]')).includes(
          'Our house rules do not allow goods described as copies',
        ),
      'the shop’s words',
      // On a busy machine a request to the shop can run out of time; it is tried again after a while.
      120_000,
    );
    expect(await browser.seen('[data-testid=sync-state]')).toContain('refused');
    await browser.driver.actions().keyDown(Key.CONTROL).sendKeys('z').keyUp(Key.CONTROL).perform();
    await browser.until(
      async () => (await browser.seen('[data-testid=sync-state]')).includes('in step'),
      'in step after undo',
    );
  });

  it('sees what somebody changed in the shop, takes one field of it for that store, and keeps its own in another', async () => {
    const state = (word: string) =>
      browser.until(async () => (await browser.seen('[data-testid=sync-state]')).includes(word), word, 60_000);
    const { origin: shop, pathname } = new URL(
      (await (await browser.find('[data-testid=see-there]')).getAttribute('href'))!,
    );
    const desk = `${shop}/desk/${pathname.split('/').at(-1)}`;
    const fields = [...(await (await fetch(desk)).text()).matchAll(/name="([^"]+)"[^>]*value="([^"]*)"/g)];
    const form = new URLSearchParams(fields.map(([, name, value]) => [name!, value!]));
    form.set('title', 'Renamed in the shop');
    form.set('text', 'Rewritten in the shop.');
    expect((await fetch(desk, { method: 'POST', body: form, redirect: 'manual' })).status).toBe(303);
    await browser.clickText('Check the shop now');
    await state('behind');
    await browser.click('[aria-label="Take theirs: Title"]');
    await browser.text('own title', '*', false);
    await browser.click('[aria-label="Keep ours: Description"]');
    await state('ahead');
    await browser.clickText('Send changes');
    await state('in step');
    const page = await (await fetch(`${shop}${pathname}`)).text();
    expect(page).toContain('Renamed in the shop');
    expect(page).not.toContain('Rewritten in the shop.');
  });

  it('looks at the print file and keeps it', async () => {
    await browser.clickText('Print files');
    await browser.clickText('Make 2 files');
    await browser.until(
      async () => (await browser.driver.findElements({ css: 'img[alt="Print file of the Front"]' })).length === 2,
      'the print file',
    );
    expect(await browser.seen('[role=dialog]')).toContain('3602 × 4795');
    const href = await (await browser.text('PNG', 'a')).getAttribute('href');
    const cookie = (await browser.driver.manage().getCookies()).map((c) => `${c.name}=${c.value}`).join('; ');
    const file = Buffer.from(await (await fetch(href!, { headers: { cookie } })).arrayBuffer());
    expect(await sharp(file).metadata()).toMatchObject({ width: 3602, height: 4795, hasAlpha: true, density: 300 });
    await browser.click('[aria-label=Close]');
  });

  it('goes back in history, and forth again by undo', async () => {
    await part('Words');
    const title = async () => (await (await browser.labelled('Title')).getAttribute('value'))!;
    await (await browser.labelled('Title')).sendKeys(', second edition');
    await browser.saved();
    await browser.click('[aria-label=History]');
    await browser.clickText('Restore to before this', 'button');
    await browser.until(async () => (await title()) === 'Red buoy tee', 'the title as it was');
    await browser.click('[aria-label^=Undo]');
    await browser.until(async () => (await title()) === 'Red buoy tee, second edition', 'undone');
    await browser.click('[aria-label^=Undo]');
    await browser.until(async () => (await title()) === 'Red buoy tee', 'undone twice');
    await browser.saved();
  });

  it('sees every chosen color as a picture', async () => {
    await part('Pictures');
    await browser.until(
      async () =>
        browser.driver.executeScript<boolean>(
          'const all = [...document.querySelectorAll("ul[aria-label^=Pictures] img")]; return all.length === 3 && all.every((i) => i.complete && i.naturalWidth === 800)',
        ),
      'two colors and one from near',
    );
  });

  it('ends on the shop’s page with the right title, price and a loaded picture', async () => {
    await part('Stores');
    const href = await (await browser.find('[data-testid=see-there]')).getAttribute('href');
    await browser.go(href!);
    expect(await browser.seen('#headline')).toBe('Renamed in the shop');
    expect(await browser.seen('#price')).toBe('27.50');
    await browser.until(
      async () =>
        browser.driver.executeScript<boolean>(
          'const i = document.getElementById("big"); return i.complete && i.naturalWidth >= 1400',
        ),
      'the picture',
    );
  });
});

describe('bad files', () => {
  it('are refused in a sentence where they were dropped, and the work goes on', async () => {
    await browser.go(`${origin}/range`);
    await browser.clickText('Red buoy tee', 'a');
    await (await browser.find('[data-testid=upload]')).sendKeys(path.join(folder, 'holiday.jpg'));
    const alert = await browser.text(
      'This file is not a PNG, JPEG, WebP or SVG, whatever its name says.',
      '*[@role="alert"]',
      false,
    );
    expect(await alert.getText()).toContain('export your artwork');
    await browser.clickText('Dismiss');
    expect(await browser.seen('nav[aria-label=Parts]')).toContain('1 area, 1 layer');
  });
});

describe('two tabs on one product', () => {
  it('keep both edits, and show the difference where both changed the same', async () => {
    const { driver } = browser;
    const address = (await driver.getCurrentUrl()).replace(/\?.*/, '');
    await browser.go(`${address}?part=words`);
    await browser.labelled('Title');
    const one = await driver.getWindowHandle();
    await driver.switchTo().newWindow('tab');
    const two = await driver.getWindowHandle();
    await browser.go(`${address}?part=words`);
    const tags = () => browser.seen('ul[aria-label="Tags of this product"]');
    await (await browser.labelled('Tags')).sendKeys('from tab two,');
    await browser.saved();
    await driver.switchTo().window(one);
    await browser.until(async () => (await tags()).includes('from tab two'), 'the other tab’s tag, by itself');

    // Now both change the title, out of each other's sight: the second save is told and shown both.
    const productId = address.split('/').at(-1)!;
    const api = await ApiClient.signIn(origin, EMAIL, PASSWORD);
    await driver.executeScript(
      'window.__fetch = window.fetch; window.fetch = (u, o) => o && o.method === "PATCH" ? new Promise((r) => (window.__go = r)).then(() => window.__fetch(u, o)) : window.__fetch(u, o)',
    );
    await (await browser.labelled('Title')).sendKeys(' one');
    await browser.until(
      async () => driver.executeScript<boolean>('return Boolean(window.__go)'),
      'the first tab’s save under way',
    );
    const { revision } = await api.get<{ revision: number }>(`/products/${productId}`);
    await api.patch(productId, revision, [
      { op: 'replace', path: '/words/base/title', value: 'Red buoy, from tab two' },
    ]);
    await driver.executeScript('window.fetch = window.__fetch; window.__go()');
    expect(await browser.seen('[data-testid=theirs]')).toBe('Red buoy, from tab two');
    expect(await browser.seen('[data-testid=yours]')).toContain('Red buoy tee one');
    await browser.clickText('Use mine');
    await browser.saved();
    await driver.switchTo().window(two);
    await browser.until(
      async () => (await (await browser.labelled('Title')).getAttribute('value')) === 'Red buoy tee one',
      'the title in the other tab',
    );
    await driver.close();
    await driver.switchTo().window(one);
  });
});

describe('manners', () => {
  it.each(['/blanks', '/blanks/price-lists', '/range', '/stores', '/account'])(
    '%s has no accessibility fault that axe finds (WCAG 2.2 AA)',
    async (address) => {
      await browser.go(`${origin}${address}`);
      await browser.find('h1');
      expect(await browser.faults()).toEqual([]);
    },
  );

  it('the bench has none either, in any part', async () => {
    await browser.go(`${origin}/range`);
    await browser.click('[role=rowheader] a.font-semibold');
    await browser.find('[data-testid=proof]');
    for (const key of ['1', '2', '3', '4', '5', '6', '7']) {
      await browser.driver.actions().sendKeys(key).perform();
      expect((await browser.faults()).map((fault) => `part ${key}, ${fault}`)).toEqual([]);
    }
  });

  it('nothing went wrong in the console', async () => {
    const errors = (await browser.consoleErrors()).filter((message) => !/favicon|409 \(Conflict\)|422/.test(message));
    expect(errors).toEqual([]);
  });

  it('signs out, and what was open asks to sign in again', async () => {
    await browser.clickText('Rosa Thole');
    await browser.clickText('Sign out');
    await browser.labelled('Password');
    await browser.go(`${origin}/range`);
    await browser.labelled('Password');
  });
});
