import { Key } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import type { ApiClient } from '../../demo/client';
import type { Blank } from '../../src/core/catalog/blank';
import type { ShelfItem } from '../../src/core/shelf/shelf';
import type { ProductDocument } from '../../src/core/document/document';
import { Browser } from './support/browser';
import { openAccount } from './support/seller';

const origin = inject('origin');
const SELLER = { name: 'Ada Bow', email: 'bow@brackwater.example', password: 'spring-tide-9' };
let browser: Browser;
let api: ApiClient;

beforeAll(async () => {
  api = await openAccount(origin, SELLER);
  browser = await Browser.open();
  await browser.signIn(origin, SELLER.email, SELLER.password);
});
afterAll(() => browser.close());

const blankOf = async (search: string): Promise<Blank> => {
  const { blanks } = await api.get<{ blanks: ShelfItem[] }>(`/blanks?${search}`);
  return api.get<Blank>(`/blanks/${blanks[0]!.id}`);
};
const open = async (search: string, colors: readonly string[]) => {
  const blank = await blankOf(search);
  const variants = blank.variants.filter((v) => colors.includes(v.values.color!)).map(({ key }) => ({ key }));
  const { id } = await api.post<{ id: string }>('/products', { blankId: blank.id, variants });
  await browser.go(`${origin}/products/${id}`);
  await browser.find('[data-testid=surface]');
  return id;
};
const documentOf = async (id: string) => {
  await browser.saved();
  return (await api.get<{ document: ProductDocument }>(`/products/${id}`)).document;
};
const frontOf = async (id: string) => Object.values((await documentOf(id)).areas['main.front']?.layers ?? {});
const enter = async (label: string, value: string) => {
  const field = await browser.labelled(label);
  await field.click();
  await field.sendKeys(Key.chord(Key.CONTROL, 'a'), value, Key.ENTER);
};
const words = async (text: string) => {
  const area = await browser.find('textarea');
  await area.sendKeys(Key.chord(Key.CONTROL, 'a'), text === '' ? Key.BACK_SPACE : text);
};
const keys = (...pressed: string[]) =>
  browser.driver
    .actions()
    .sendKeys(...pressed)
    .perform();
const command = (key: string) =>
  browser.driver.actions().keyDown(Key.CONTROL).sendKeys(key).keyUp(Key.CONTROL).perform();

describe('lettering', () => {
  let id: string;
  it('is typed, sized in mm and points, bent and outlined, and seen in the proof', async () => {
    id = await open('q=towpath&from=GB', ['chalk', 'coal']);
    await browser.clickText('Add text');
    await words('Ebb & flood');
    await enter('size', '24');
    // 1 pt is 1/72 in, 1 in is 25.4 mm
    await browser.until(
      async () => (await (await browser.labelled('in points')).getAttribute('value')) === '68.0 pt',
      'points',
    );
    await enter('arc', '45');
    await browser.clickText('outline', 'label', false);
    await browser.until(
      async () => browser.driver.executeScript<boolean>('return Boolean(document.querySelector("[data-layer] image"))'),
      'letters on the surface',
    );
    const [layer] = await frontOf(id);
    expect(layer).toMatchObject({
      kind: 'text',
      lettering: { text: 'Ebb & flood', sizeMm: 24, arcDeg: 45, outline: { color: '#ffffff' } },
    });
    await browser.until(
      async () => Boolean(await (await browser.find('[data-testid=proof]')).getAttribute('data-revision')),
      'the proof',
    );
    expect(await browser.faults()).toEqual([]);
  });

  it('says which letters its font lacks, and mends it with one that has them', async () => {
    await browser.click('[aria-label^="Font:"]');
    await browser.clickText('Rye', '*[@role="option"]');
    await words('Прилив');
    await browser.text('Rye has no П р и л в; they are set in another font.', '*', false);
    await browser.clickText('Set it in Noto Sans');
    const [layer] = await frontOf(id);
    expect(layer).toMatchObject({ lettering: { family: 'noto-sans', text: 'Прилив' } });
    await words('漕');
    await browser.text('No font here has 漕', '*', false);
  });

  it('takes what cannot be set with a sentence, and undo brings back what was', async () => {
    await words('   ');
    await browser.text('Text holds no letters: nothing of it will print', '*', false);
    await enter('size', '0');
    await browser.text('It must be from', '*', false);
    await (await browser.labelled('size')).sendKeys(Key.ESCAPE);
    await enter('size', '10 m');
    await browser.text('is not a length', '*', false);
    await (await browser.labelled('size')).sendKeys(Key.ESCAPE);
    await browser.driver.executeScript(
      'const t = document.querySelector("textarea"); const set = Object.getOwnPropertyDescriptor(HTMLTextAreaElement.prototype, "value").set; set.call(t, "tide ".repeat(400)); t.dispatchEvent(new Event("input", { bubbles: true }));',
    );
    await browser.text('does not fit its box', '*', false);
    await browser.text('this one is full', 'p', false);
    await browser.saved();
    await browser.click('[data-testid=surface]');
    while (await (await browser.find('[aria-label^="Undo"]')).isEnabled()) await command('z');
    expect(await frontOf(id)).toEqual([]);
  });
});

describe('several layers', () => {
  it('are selected, aligned, nudged, duplicated and taken away together, each one step of undo', async () => {
    const id = await open('q=towpath&from=GB', ['chalk']);
    for (const name of ['Five-pointed star', 'Anchor']) {
      await browser.clickText('Ornaments …');
      await browser.click(`[aria-label="${name}"]`);
    }
    await enter('x', '50');
    await browser.click('[data-testid=surface]');
    await command('a');
    await browser.text('2 layers are selected; arrows and the mouse move them together.', 'span');
    await browser.click('[aria-label="Align left edges"]');
    const lefts = (await frontOf(id)).map((layer) => layer.placement.xMm - layer.placement.widthMm / 2);
    expect(Math.abs(lefts[0]! - lefts[1]!)).toBeLessThan(0.01);
    const before = (await frontOf(id)).map((layer) => layer.placement.xMm);
    await keys(Key.ARROW_RIGHT, Key.ARROW_RIGHT);
    const after = (await frontOf(id)).map((layer) => layer.placement.xMm);
    expect(after.map((x, i) => Math.round((x - before[i]!) * 1000) / 1000)).toEqual([2, 2]);
    await command('d');
    expect(await frontOf(id)).toHaveLength(4);
    await keys(Key.DELETE);
    expect(await frontOf(id)).toHaveLength(2);
    await command('z');
    expect(await frontOf(id)).toHaveLength(4);
    expect(await browser.faults()).toEqual([]);
  });

  it('go to another area, mirrored, and a layer that is locked stays', async () => {
    await keys(Key.PAGE_DOWN);
    await browser.clickText('Copy here');
    await browser.clickText('from front, mirrored', 'button');
    await browser.until(
      async () =>
        browser.driver.executeScript<boolean>('return document.querySelectorAll("[data-layer]").length === 4'),
      'four layers on the back',
    );
    await browser.click('[aria-label="Lock Anchor"]');
    await browser.clickText('Anchor', 'button');
    const x = async () => (await browser.labelled('x')).getAttribute('value');
    const was = await x();
    await browser.click('[data-testid=surface]');
    await browser.clickText('Anchor', 'button');
    await keys(Key.ARROW_RIGHT);
    expect(await x()).toBe(was);
  });
});

describe('versions by color', () => {
  it('are suggested where a layer is hardly seen, and shown on that color alone', async () => {
    const id = await open('q=towpath&from=GB', ['chalk', 'coal']);
    await browser.clickText('Add text');
    await enter('Fill', '#1f2226');
    await browser.text(' has low contrast on Coal', '*', false);
    await browser.clickText('Make it white there');
    await browser.until(async () => Object.keys((await frontOf(id))[0]!.versions ?? {}).join() === 'coal', 'a version');
    const { printFiles } = await api.get<{ printFiles: { name: string }[] }>(`/products/${id}/print-files`);
    expect(printFiles.map((file) => file.name)).toEqual([
      'front_xs-s-m-l_chalk.png',
      'front_xs-s-m-l_coal.png',
      'front_xl-xxl-3xl_chalk.png',
      'front_xl-xxl-3xl_coal.png',
    ]);
  });
});

describe('embroidery', () => {
  it('names its threads, and keeps or swaps them', async () => {
    const id = await open('q=coxswain', ['channel']);
    await browser.clickText('Ornaments …');
    await browser.click('[aria-label="Disc"]');
    await browser.saved();
    await browser.text('Threads 1 of 6', 'h3');
    await browser.click('section[aria-label=Threads] button[aria-label^="Thread for"]');
    await browser.clickText('Lifebuoy', '*[@role="option"]');
    await browser.click('section[aria-label=Threads] button[aria-label^="Keep"]');
    const { threads } = (await documentOf(id)).areas['main.front']!;
    expect(Object.values(threads!.swaps)).toEqual(['t12']);
    expect(Object.keys(threads!.pinned)).toHaveLength(1);
    expect(await browser.faults()).toEqual([]);
  });

  it('nothing went wrong in the console', async () => {
    expect((await browser.consoleErrors()).filter((message) => !/favicon/.test(message))).toEqual([]);
  });
});
