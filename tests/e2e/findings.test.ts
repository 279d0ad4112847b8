import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import type { ApiClient } from '../../demo/client';
import type { Blank } from '../../src/core/catalog/blank';
import type { ShelfItem } from '../../src/core/shelf/shelf';
import { Browser } from './support/browser';
import { openAccount } from './support/seller';

const origin = inject('origin');
const SELLER = { name: 'Moss Weir', email: 'weir@brackwater.example', password: 'spring-tide-9' };
let browser: Browser;
let api: ApiClient;
let productId = '';
let ringId = '';

const boxed = (side: number) =>
  sharp(
    Buffer.from(
      `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100" width="${side}" height="${side}"><rect width="100" height="100" fill="#fff"/><circle cx="50" cy="50" r="34" fill="#7e2a33"/></svg>`,
    ),
  )
    .removeAlpha()
    .png()
    .toBuffer();

beforeAll(async () => {
  api = await openAccount(origin, SELLER);
  ringId = (await api.upload(await boxed(2400), 'Ring mark.png')).id;
  await api.upload(await boxed(500), 'Ring mark small.png');
  const { blanks } = await api.get<{ blanks: ShelfItem[] }>('/blanks?q=towpath+tee&from=GB');
  const blank = await api.get<Blank>(`/blanks/${blanks[0]!.id}`);
  const { key, geometries } = blank.areas[0]!;
  const variants = blank.variants.filter((v) => v.values.color === 'coal').map((v) => ({ key: v.key }));
  productId = (await api.post<{ id: string }>('/products', { blankId: blank.id, title: 'Ring tee', variants })).id;
  const layer = {
    kind: 'artwork',
    name: 'Ring mark',
    order: 'a0',
    artworkId: ringId,
    geometryId: geometries[0]!.geometryId,
    fit: 'keep',
    overrides: {},
    hidden: false,
    locked: false,
    placement: { xMm: 150, yMm: 150, widthMm: 150, rotationDeg: 0, flipX: false, flipY: false },
  };
  await api.patch(productId, 1, [{ op: 'add', path: `/areas/${key}`, value: { layers: { ring: layer } } }]);
  browser = await Browser.open();
  await browser.signIn(origin, SELLER.email, SELLER.password);
});
afterAll(() => browser.close());

const page = () => browser.driver.executeScript<string>('return document.body.innerText');

describe('findings on the bench', () => {
  it('are drawn where they are; one is accepted by name, and taken back', async () => {
    await browser.go(`${origin}/products/${productId}`);
    await browser.find('[data-testid=finding-mark][data-severity=warn]');
    expect(await page()).toContain('Ring mark stands in a white box, which is seen on Coal.');
    await browser.clickText('Accept');
    await browser.until(async () => (await page()).includes(`accepted by ${SELLER.name}`), 'the acceptance');
    // What was taken upon oneself is no longer drawn, nor counted.
    await browser.until(
      async () =>
        (await browser.driver.executeScript<number>(
          'return document.querySelectorAll("[data-testid=finding-mark]").length',
        )) === 0,
      'no mark',
    );
    expect(await browser.faults()).toEqual([]);
    await browser.clickText('Withdraw');
    await browser.find('[data-testid=finding-mark]');
  });

  it('are mended by a remedy that makes a new artwork, and undo brings the old one back', async () => {
    await browser.clickText('Remove the background');
    await browser.until(async () => !(await page()).includes('stands in a white box'), 'the background gone', 30_000);
    await browser.click('[aria-label^="Undo"]');
    await browser.until(async () => (await page()).includes('stands in a white box'), 'the old artwork');
    await browser.saved();
    expect(JSON.stringify(await api.get(`/products/${productId}`))).toContain(`"artworkId":"${ringId}"`);
  });
});

describe('the Artwork page', () => {
  it('finds a file, tags it, says where it is used, and replaces it everywhere', async () => {
    await browser.go(`${origin}/artwork`);
    await browser.fill('input[type=search]', 'ring small');
    await browser.until(async () => (await page()).includes('1 file found'), 'one file');
    // Backspace: an empty text would leave what is there.
    await browser.fill('input[type=search]', '\uE003');
    await browser.until(async () => (await page()).includes('3 files'), 'all files');
    // The one without its background is another picture; the small one is the same.
    expect(await page()).not.toContain('The same picture as');
    await browser.clickText('Ring mark small', 'button', false);
    await browser.until(async () => (await page()).includes('The same picture as Ring mark ('), 'its twin');
    expect(await browser.faults()).toEqual([]);
    await browser.clickText('in 1 product', 'span');
    await browser.text('Ring tee', 'a');
    await browser.until(async () => (await page()).includes('stands in a white box'), 'its findings');
    await browser.clickText('Replace everywhere …');
    await browser.click('[role=dialog] li button:has(img)');
    await browser.find('[aria-label="What changes"] li');
    await browser.clickText('Replace in 1 product');
    await browser.until(async () => (await page()).includes('Replaced in 1 product'), 'the replacement');
    const { revision } = await api.get<{ revision: number }>(`/products/${productId}`);
    expect(revision).toBeGreaterThan(2);
    expect(await browser.consoleErrors()).toEqual([]);
  });
});
