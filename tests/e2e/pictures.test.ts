import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { By, Key } from 'selenium-webdriver';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import type { ApiClient } from '../../demo/client';
import type { Blank } from '../../src/core/catalog/blank';
import type { ShelfItem } from '../../src/core/shelf/shelf';
import { Browser } from './support/browser';
import { openAccount } from './support/seller';

const origin = inject('origin');
const SELLER = { name: 'Tess Quay', email: 'quay@brackwater.example', password: 'slack-water-4' };
let browser: Browser;
let api: ApiClient;
let folder: string;

beforeAll(async () => {
  api = await openAccount(origin, SELLER);
  browser = await Browser.open();
  await browser.signIn(origin, SELLER.email, SELLER.password);
  folder = fs.mkdtempSync(path.join(os.tmpdir(), 'typica-photo-'));
});
afterAll(async () => {
  fs.rmSync(folder, { recursive: true, force: true });
  await browser.close();
});

const ornament = (geometryId: string, over: object = {}) => ({
  kind: 'ornament',
  ornament: 'river-compass',
  name: 'Compass',
  color: '#d9a62e',
  order: 'a0',
  geometryId,
  fit: 'keep',
  overrides: {},
  hidden: false,
  locked: false,
  placement: { xMm: 150, yMm: 130, widthMm: 180, rotationDeg: 12, flipX: false, flipY: false },
  ...over,
});

/** A product with an ornament on its first area, in some colors or in all variants. */
async function make(search: string, colors: readonly string[] | null, over: object = {}) {
  const { blanks } = await api.get<{ blanks: ShelfItem[] }>(`/blanks?${search}`);
  const blank = await api.get<Blank>(`/blanks/${blanks[0]!.id}`);
  const variants = blank.variants
    .filter((v) => !colors || colors.includes(v.values.color!))
    .map(({ key }) => ({ key }));
  const { id } = await api.post<{ id: string }>('/products', { blankId: blank.id, variants });
  const area = blank.areas[0]!;
  const layers = { o: ornament(area.geometries[0]!.geometryId, over) };
  await api.patch(id, 1, [{ op: 'add', path: `/areas/${area.key}`, value: { layers } }]);
  return { id, blank };
}
const proofDrawn = () =>
  browser.until(
    async () => Boolean(await (await browser.find('[data-testid=proof]')).getAttribute('data-revision')),
    'the proof',
  );
const open = async (id: string, part = '') => {
  await browser.go(`${origin}/products/${id}${part ? `?part=${part}` : ''}`);
  await proofDrawn();
};
const keys = (...pressed: string[]) =>
  browser.driver
    .actions()
    .sendKeys(...pressed)
    .perform();
/** The proof's pixels, RGBA. */
const proofPixels = async () => {
  const base64 = await browser.driver.executeAsyncScript<string>(`
    const done = arguments[arguments.length - 1];
    const canvas = document.querySelector('[data-testid=proof]');
    createImageBitmap(canvas).then((bitmap) => {
      const copy = new OffscreenCanvas(bitmap.width, bitmap.height);
      copy.getContext('2d').drawImage(bitmap, 0, 0);
      const { data } = copy.getContext('2d').getImageData(0, 0, bitmap.width, bitmap.height);
      let text = '';
      for (let i = 0; i < data.length; i += 32768) text += String.fromCharCode(...data.subarray(i, i + 32768));
      done(btoa(text));
    });`);
  return Buffer.from(base64, 'base64');
};

describe('the live proof', () => {
  it('is the same as the server’s picture of the same design: under 1/255 on average, 8/255 at worst', async () => {
    const { id } = await make('q=towpath+tee&from=GB', ['estuary', 'coal']);
    await open(id);
    for (const color of ['estuary', 'coal']) {
      const shot = await (await browser.find('[data-testid=proof]')).getAttribute('data-shot');
      const answer = await api.request('GET', `/products/${id}/mock-ups/${shot}?color=${color}&size=proof&format=png`);
      const theirs = await sharp(Buffer.from(await answer.arrayBuffer()))
        .ensureAlpha()
        .raw()
        .toBuffer();
      const ours = await proofPixels();
      expect(ours.length).toBe(theirs.length);
      let [sum, worst] = [0, 0];
      for (let i = 0; i < ours.length; i += 1) {
        const difference = Math.abs(ours[i]! - theirs[i]!);
        sum += difference;
        worst = Math.max(worst, difference);
      }
      expect(sum / ours.length).toBeLessThan(1);
      expect(worst).toBeLessThanOrEqual(8);
      // It is not blank: there is gold on it.
      expect(ours.some((value, i) => i % 4 === 0 && value > 200 && ours[i + 2]! < 100)).toBe(true);
      await keys('.');
      await browser.until(async () => (await proofPixels()).compare(ours) !== 0, 'the other color');
      await proofDrawn();
    }
  });

  it('follows a layer while it is dragged, before anything is saved', async () => {
    const { id } = await make('q=towpath+tee&from=GB', ['estuary']);
    await open(id);
    const before = await proofPixels();
    const revision = await (await browser.find('[data-testid=proof]')).getAttribute('data-revision');
    const { x, y } = await browser.middleOf('[data-testid=layer]');
    await browser.mouse('mouseMoved', x, y, 0);
    await browser.mouse('mousePressed', x, y, 1);
    for (let i = 1; i <= 8; i += 1) await browser.mouse('mouseMoved', x + i * 6, y + i * 5, 1);
    await browser.until(async () => (await proofPixels()).compare(before) !== 0, 'the proof moved');
    expect((await api.get<{ revision: number }>(`/products/${id}`)).revision).toBe(Number(revision));
    await browser.mouse('mouseReleased', x + 48, y + 40, 0);
    await browser.until(
      async () => (await api.get<{ revision: number }>(`/products/${id}`)).revision > Number(revision),
      'saved',
    );
  });

  it('shows all colors as a sheet with what has low contrast on them, and is seen large', async () => {
    const { id } = await make('q=towpath+tee&from=GB', ['gorse', 'estuary']);
    await open(id);
    await keys('a');
    await browser.text('All colors', 'h2');
    await browser.text('Low contrast: Compass', '*');
    await browser.clickText('Only the chosen colors', 'label');
    await browser.until(
      async () => (await browser.driver.findElements(By.css('[role=dialog] canvas'))).length === 12,
      'every color of the blank',
    );
    expect(await browser.faults()).toEqual([]);
    await browser.click('[role=dialog] button[aria-pressed=true]');
    await keys('l');
    await browser.find('[role=dialog] [data-testid=proof]');
    await keys(Key.ESCAPE);
  });

  it('turns a mug, by keys and by dragging it', async () => {
    const { id } = await make('q=galley+mug&from=US', null, {
      placement: { xMm: 100, yMm: 42, widthMm: 70, rotationDeg: 0, flipX: false, flipY: false },
    });
    await open(id);
    const shot = async () => (await browser.find('[data-testid=proof]')).getAttribute('data-shot');
    const front = await shot();
    await keys('t');
    await browser.until(async () => (await shot()) !== front, 'turned');
    const right = await shot();
    await browser.driver.actions().keyDown(Key.SHIFT).sendKeys('t').keyUp(Key.SHIFT).perform();
    await browser.until(async () => (await shot()) === front, 'turned back');
    const canvas = await browser.find('[data-testid=proof]');
    await browser.driver.actions().move({ origin: canvas }).press().move({ origin: canvas, x: 40 }).release().perform();
    await browser.until(async () => (await shot()) === right, 'turned by dragging');
  });
});

describe('the Pictures part', () => {
  const names = () =>
    browser.driver.executeScript<string[]>(
      'return [...document.querySelectorAll("ul[aria-label^=Pictures] li > button")].map((b) => b.getAttribute("aria-label"))',
    );
  let id: string;

  it('shows automatic set, made, and reorders it by keys', async () => {
    ({ id } = await make('q=towpath+tee&from=GB', ['estuary', 'oxblood']));
    await open(id, 'pictures');
    await browser.until(
      async () =>
        browser.driver.executeScript<boolean>(
          'const all = [...document.querySelectorAll("ul[aria-label^=Pictures] img")]; return all.length === 4 && all.every((i) => i.complete && i.naturalWidth === 800)',
        ),
      'pictures',
      60_000,
    );
    expect(await names()).toEqual([
      'Picture 1: Front, Estuary',
      'Picture 2: Front, Oxblood',
      'Picture 3: Laid flat, Estuary',
      'Picture 4: Close up, Estuary',
    ]);
    await browser.click('[aria-label="Picture 2: Front, Oxblood"]');
    await browser.driver.actions().keyDown(Key.ALT).sendKeys(Key.ARROW_LEFT).keyUp(Key.ALT).perform();
    await browser.until(async () => (await names())[0] === 'Picture 1: Front, Oxblood', 'moved');
    expect(await browser.faults()).toEqual([]);
  });

  it('takes an alternative text, a main picture, other shots and colors, and gives them all up again', async () => {
    await browser.click('[aria-label="Picture 4: Close up, Estuary"]');
    await browser.clickText('Main picture of Estuary', 'label');
    await browser.text('● main of Estuary', 'p');
    const alt = await browser.find('section[aria-label="Picture 4"] input:not([type=checkbox])');
    expect(await alt.getAttribute('value')).toBe('Towpath Tee in Estuary, close up');
    await alt.sendKeys(Key.chord(Key.CONTROL, 'a'), 'A compass seen from near');
    await browser.clickText('Choose shots and colors');
    await browser.click('[aria-label="Close up in Oxblood"]');
    await browser.click('[aria-label="Front in Estuary"]');
    await browser.click('[aria-label=Close]');
    await browser.until(
      async () =>
        (await names()).join() ===
        'Picture 1: Front, Oxblood,Picture 2: Laid flat, Estuary,Picture 3: Close up, Estuary,Picture 4: Close up, Oxblood',
      'chosen',
    );
    await browser.until(async () => {
      const { document } = await api.get<{
        document: { pictures: { base: Record<string, { alt?: string; main?: boolean }> } };
      }>(`/products/${id}`);
      const near = Object.values(document.pictures.base).find((picture) => picture.main);
      return near?.alt === 'A compass seen from near' && Object.keys(document.pictures.base).length === 4;
    }, 'saved');
    await browser.clickText('Use the automatic set');
    await browser.until(async () => (await names()).length === 4 && (await names())[0]!.endsWith('Estuary'), 'back');
  });

  it('takes a photograph as a shot: refused while its marks cross, then marked, picked and used', async () => {
    const photo = path.join(folder, 'bench.jpg');
    await sharp({ create: { width: 900, height: 700, channels: 3, background: '#5f7486' } })
      .composite([
        {
          input: Buffer.from(
            '<svg xmlns="http://www.w3.org/2000/svg" width="900" height="700"><defs><linearGradient id="g"><stop stop-color="#c8c2b4"/><stop offset="1" stop-color="#a39c8c"/></linearGradient></defs><path d="M180 90H720L700 620H200Z" fill="url(#g)"/></svg>',
          ),
        },
      ])
      .jpeg({ quality: 92 })
      .toFile(photo);
    const dot = path.join(folder, 'dot.png');
    await sharp({ create: { width: 1, height: 1, channels: 3, background: '#888' } })
      .png()
      .toFile(dot);
    await browser.clickText('Photograph as a shot');
    await browser.text('Photograph as a shot', 'h2');
    const input = await browser.find('[aria-label="A photograph of the blank"]');
    await input.sendKeys(dot);
    await browser.text('it needs 200 px or more on its shorter side', '*', false);
    await input.sendKeys(photo);
    await browser.find('[aria-label^="Mark top left"]');
    const mark = await browser.find('[aria-label^="Mark top left"]');
    await browser.driver.executeScript('arguments[0].focus()', mark);
    for (let i = 0; i < 40; i += 1)
      await browser.driver.actions().keyDown(Key.SHIFT).sendKeys(Key.ARROW_RIGHT).keyUp(Key.SHIFT).perform();
    await browser.text('The edges of the marked area cross or bend inward', '*', false);
    expect(await (await browser.text('Make the shot', 'button')).isEnabled()).toBe(false);
    await browser.driver.executeScript('document.activeElement.focus()');
    for (let i = 0; i < 40; i += 1)
      await browser.driver.actions().keyDown(Key.SHIFT).sendKeys(Key.ARROW_LEFT).keyUp(Key.SHIFT).perform();
    await browser.clickText('Pick');
    const svg = await browser.find('[role=dialog] svg.touch-none');
    await browser.driver.actions().move({ origin: svg, x: -60, y: 0 }).click().perform();
    await browser.until(
      async () => /[3-6]\d % of the photograph/.test(await browser.seen('[role=dialog] fieldset')),
      'the picked part',
    );
    expect(await browser.faults()).toEqual([]);
    await browser.clickText('Make the shot');
    await browser.until(
      async () => (await names()).some((name) => name.includes('bench, Estuary')),
      'the new picture',
      60_000,
    );
    await browser.until(
      async () =>
        browser.driver.executeScript<boolean>(
          'const all = [...document.querySelectorAll("ul[aria-label^=Pictures] img")]; return all.length === 4 && all.every((i) => i.complete && i.naturalWidth > 300)',
        ),
      'its picture',
      60_000,
    );
    const { shots } = await api.get<{ shots: { own: boolean; name: string }[] }>(`/products/${id}/pictures`);
    expect(shots.filter((shot) => shot.own).map((shot) => shot.name)).toEqual(['bench']);
  });

  it('nothing went wrong in the console', async () => {
    expect((await browser.consoleErrors()).filter((message) => !/favicon|422/.test(message))).toEqual([]);
  });
});
