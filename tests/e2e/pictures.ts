import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { By, until } from 'selenium-webdriver';
import sharp from 'sharp';
import { colorOption, type Blank } from '../../src/core/catalog/blank';
import type { ShelfItem } from '../../src/core/shelf/shelf';
import { ApiClient } from '../../demo/client';
import { Browser } from './support/browser';

/** `npm run pictures [FOLDER]`: one picture of each main view at 1280×800, from the copy that runs with this TYPICA_HOME and has the demo's data. */
const home = path.resolve(process.env.TYPICA_HOME ?? '.typica');
const running = JSON.parse(fs.readFileSync(path.join(home, 'run', 'environment.json'), 'utf8')) as Record<
  string,
  string
>;
const origin = running.TYPICA_ORIGIN!;
const [folder = 'docs/screenshots'] = process.argv.slice(2);
const browser = await Browser.open();
const { driver } = browser;

const settle = async () => {
  await browser.until(
    async () =>
      driver.executeScript<boolean>(
        'return document.readyState === "complete" && [...document.images].every((i) => i.complete || i.getBoundingClientRect().top > innerHeight)',
      ),
    'pictures loaded',
  );
  await browser.until(
    async () =>
      driver.executeScript<boolean>(
        "return [...document.querySelectorAll('[data-testid=proof]')].every((proof) => proof.dataset.revision)",
      ),
    'the proof drawn',
  );
  await browser.until(
    async () => !(await driver.executeScript<boolean>("return document.body.innerText.includes('Loading …')")),
    'every part there',
  );
  await browser.until(
    async () => (await driver.executeScript<number>('return document.getAnimations().length')) === 0,
    'still',
  );
};
const shoot = async (name: string) => {
  await settle();
  await browser.picture(path.join(folder, `${name}.png`));
  process.stdout.write(`${name}\n`);
};

/** A product with the mistakes that people make: a logo in a white box, too near the edge, and a word in the color of the cloth. */
async function makeFaultyProduct(client: ApiClient): Promise<{ productId: string; artworkId: string }> {
  const mark = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 900 900" width="1800" height="1800"><rect width="900" height="900" fill="#fff"/><circle cx="450" cy="450" r="330" fill="none" stroke="#7e2a33" stroke-width="64"/><path d="M160 560Q305 470 450 560T740 560M200 650Q325 570 450 650T700 650" fill="none" stroke="#2d6b8e" stroke-width="44"/><path d="M450 190L520 470H380Z" fill="#e0a93c"/></svg>`;
  const png = await sharp(Buffer.from(mark)).png().toBuffer();
  const { id: artworkId } = await client.call<{ id: string }>('POST', '/artwork?name=Ebb%20mark', new Uint8Array(png));
  await client.until(
    async () => ((await client.get<{ state: string }>(`/artwork/${artworkId}`)).state === 'ready' ? true : null),
    'the artwork',
  );
  const found = await client.get<{ blanks: ShelfItem[] }>('/blanks?q=towpath+tee&from=GB');
  const blank = await client.get<Blank>(`/blanks/${found.blanks[0]!.id}`);
  const area = blank.areas[0]!;
  const geometryId = area.geometries[0]!.geometryId;
  const { widthMm, heightMm } = blank.geometries[geometryId]!;
  const { id: productId } = await client.post<{ id: string }>('/products', {
    blankId: blank.id,
    title: 'Ebb mark tee',
  });
  const placement = {
    xMm: widthMm * 0.36,
    yMm: heightMm * 0.4,
    widthMm: widthMm * 0.7,
    rotationDeg: 0,
    flipX: false,
    flipY: false,
  };
  const layer = {
    kind: 'artwork',
    name: 'Ebb mark',
    order: 'a0',
    artworkId,
    geometryId,
    fit: 'keep',
    overrides: {},
    hidden: false,
    locked: false,
    placement,
  };
  const colors = colorOption(blank)!
    .values.slice(0, 3)
    .map((value) => value.code);
  await client.patch(productId, 1, [
    { op: 'add', path: `/areas/${area.key}`, value: { layers: { mark: layer } } },
    {
      op: 'replace',
      path: '/variants',
      value: Object.fromEntries(blank.variants.filter((v) => colors.includes(v.values.color!)).map((v) => [v.key, {}])),
    },
  ]);
  return { productId, artworkId };
}

/** All stores, and the settings of one that asks much. */
/** Scrolls what is found by an XPath to the top of its view. */
async function toTop(xpath: string): Promise<void> {
  const found = await driver.wait(until.elementLocated(By.xpath(xpath)), 20_000);
  await driver.executeScript("arguments[0].scrollIntoView({ block: 'start' })", found);
}

/** A listing that was changed here and in its shop. */
async function shootSplit(client: ApiClient): Promise<void> {
  const { products } = await client.get<{ products: { id: string; title: string }[] }>('/products?limit=60');
  await browser.go(`${origin}/products/${products.find(({ title }) => title === 'Lantern tote')!.id}?part=stores`);
  await toTop("//h3[starts-with(., 'Brackwater UK')]");
  await browser.text('Take all of theirs', 'button');
  await shoot('listing-sync');
}

async function shootStores(client: ApiClient): Promise<void> {
  const { stores } = await client.get<{ stores: { id: string; channel: string }[] }>('/stores');
  await browser.go(`${origin}/stores`);
  await browser.text('Stores', 'h1');
  await shoot('stores');
  await browser.go(`${origin}/stores/${stores.find(({ channel }) => channel === 'loopstall')!.id}`);
  await browser.text('Categories', 'h2');
  await shoot('store');
}

/** A photograph of a bag, drawn: nobody else's picture is among ours. */
const BAG = `<svg xmlns="http://www.w3.org/2000/svg" width="1500" height="1150"><defs><radialGradient id="v" cx="0.4" cy="0.35" r="0.9"><stop stop-color="#b7bcc0"/><stop offset="1" stop-color="#7d858c"/></radialGradient><linearGradient id="g" x2="1" y2="0.7"><stop stop-color="#e2dac6"/><stop offset="0.5" stop-color="#cabfa6"/><stop offset="1" stop-color="#a3977c"/></linearGradient></defs><rect width="1500" height="1150" fill="url(#v)"/><path d="M420 250C520 230 980 220 1090 260L1130 1010C1000 1040 500 1050 390 1020Z" fill="#3e444a" opacity="0.4" transform="translate(22 26)"/><path d="M560 260C560 90 660 60 750 60S950 90 945 258" fill="none" stroke="#c4b99f" stroke-width="34"/><path d="M420 250C520 230 980 220 1090 260L1130 1010C1000 1040 500 1050 390 1020Z" fill="url(#g)"/><path d="M600 300C640 560 590 800 640 1030M900 280C880 520 940 760 905 1030M760 620C800 740 760 900 790 1036" fill="none" stroke="#9a8e74" stroke-width="16" opacity="0.3"/></svg>`;

/** A photograph of one's own while it is being marked. */
async function shootMarking(client: ApiClient): Promise<void> {
  const found = await client.get<{ blanks: ShelfItem[] }>('/blanks?q=landing+tote&from=GB');
  const blank = await client.get<Blank>(`/blanks/${found.blanks[0]!.id}`);
  const variants = blank.variants.slice(0, 2).map(({ key }) => ({ key }));
  const { id } = await client.post<{ id: string }>('/products', { blankId: blank.id, title: 'Harbor tote', variants });
  const file = path.join(os.tmpdir(), `typica-bag-${process.pid}`, 'Tote on the bench.jpg');
  fs.mkdirSync(path.dirname(file), { recursive: true });
  await sharp(Buffer.from(BAG)).blur(1.2).jpeg({ quality: 92 }).toFile(file);
  await browser.go(`${origin}/products/${id}?part=pictures`);
  await browser.clickText('Photograph as a shot');
  await (await browser.find('[aria-label="A photograph of the blank"]')).sendKeys(file);
  const corner = async (name: string, x: number, y: number) =>
    driver
      .actions()
      .move({ origin: await browser.find(`[aria-label^="Mark ${name}"]`) })
      .press()
      .move({ x: Math.round(x), y: Math.round(y) })
      .release()
      .perform();
  await browser.find('[aria-label^="Mark top left"]');
  const box = await driver.executeScript<{ x: number; y: number; width: number; height: number }>(
    "return document.querySelector('[role=dialog] svg.touch-none').getBoundingClientRect().toJSON()",
  );
  const at = (x: number, y: number) => [box.x + (box.width * x) / 1500, box.y + (box.height * y) / 1150] as const;
  await corner('top left', ...at(510, 370));
  await corner('top right', ...at(985, 362));
  await corner('bottom right', ...at(1010, 910));
  await corner('bottom left', ...at(500, 918));
  await browser.clickText('Pick');
  await driver
    .actions()
    .move({ x: Math.round(at(460, 600)[0]), y: Math.round(at(460, 600)[1]) })
    .click()
    .perform();
  await browser.until(
    async () => /[1-9]\d? % of the photograph/.test(await browser.seen('[role=dialog] fieldset')),
    'the picked part',
  );
  await browser.clickText('Marks');
  await shoot('bench-photograph');
  await client.call('DELETE', `/products/${id}`);
  const { photographs } = await client.get<{ photographs: { id: string }[] }>('/photographs');
  for (const photograph of photographs)
    await client.call('DELETE', `/photographs/${photograph.id}`).catch(() => undefined);
  fs.rmSync(path.dirname(file), { recursive: true });
}

/** What was done and noticed. */
async function shootActivity(): Promise<void> {
  await browser.go(`${origin}/activity`);
  await browser.text('Activity', 'h1');
  await shoot('activity');
}

try {
  await browser.signIn(origin, 'demo@brackwater.example', 'ebb-and-flood');
  await browser.text('Range', 'h1', false);
  await shoot('range');
  const api = await ApiClient.signIn(origin, 'demo@brackwater.example', 'ebb-and-flood');
  const { partners } = await api.get<{ partners: { id: string; code: string }[] }>('/partners');
  const millrace = partners.find((partner) => partner.code === 'millrace')!.id;
  const { blanks } = await api.get<{ blanks: ShelfItem[] }>('/blanks?limit=200');
  const blankId = (code: string, from: string) =>
    blanks.find((blank) => blank.code === code && blank.shipsFrom === from)!.id;
  const tees = [blankId('towpath-tee', 'GB'), blankId('towpath-tee', 'US'), blankId('slipway-hoodie', 'GB')];
  await browser.go(
    `${origin}/blanks?from=GB&from=US&color=blue&stock=yes&to=US&items=2&${tees.map((id) => `compare=${id}`).join('&')}`,
  );
  await browser.text('Compare side by side', 'a');
  await shoot('blanks');
  await browser.go(`${origin}/blanks/${tees[0]}`);
  await browser.text('Print areas', 'h2');
  await shoot('blank');
  const csv = await (await api.request('GET', `/partners/${millrace}/price-list`)).text();
  const dearer = csv
    .split('\r\n')
    .map((line) => {
      if (line.startsWith('MW-LANDINGTOTE')) return line.replace(/,6\.70,GBP/, ',6.40,GBP');
      if (!line.startsWith('MW-TOWPATHTEE')) return line;
      const raised = line.replace(
        /,([\d.]+),GBP/,
        (_, cost: string) => `,${(Number(cost) * (line.includes('3XL') ? 2.4 : 1.12)).toFixed(2)},GBP`,
      );
      return line.startsWith('MW-TOWPATHTEE-OXBLOOD-M,') ? raised.replace(/,no$/, ',yes') : raised;
    })
    .join('\r\n');
  const list = await api.call<{ id: string }>(
    'POST',
    `/partners/${millrace}/price-lists?name=millrace-new.csv`,
    new TextEncoder().encode(dearer),
  );
  await browser.go(`${origin}/blanks/price-lists/${list.id}`);
  await browser.text('What it would do to your products', 'h2');
  await browser.clickText('Landing Tote', 'button', false);
  await browser.text('Estuary', 'td');
  await shoot('price-list');
  await api.call('DELETE', `/price-lists/${list.id}`);
  await browser.go(`${origin}/range?q=crossed`);
  await browser.clickText('Crossed Blades tee', 'a');
  await browser.find('[data-testid=proof]');
  await browser.clickText('Crossed Blades', 'button');
  await browser.find('[data-testid=handle-se]');
  await shoot('bench-artwork');
  for (const [key, name] of [
    ['3', 'bench-variants'],
    ['5', 'bench-prices'],
    ['7', 'bench-stores'],
    ['4', 'bench-pictures'],
  ] as const) {
    await driver.actions().sendKeys(key).perform();
    if (name === 'bench-pictures') {
      await browser.until(
        async () =>
          driver.executeScript<boolean>(
            "const all = [...document.querySelectorAll('ul[aria-label^=Pictures] li')]; return all.length > 3 && all.every((one) => one.querySelector('img')) && !document.body.innerText.includes('being made')",
          ),
        'every picture made',
        120_000,
      );
      await browser.click('ul[aria-label^=Pictures] li:nth-child(2) button');
    }
    if (name === 'bench-prices') {
      // The ledger open at what is left.
      await browser.click('[data-testid=ledger-fees]');
      await browser.text('Total', 'td');
      await shoot(name);
      await driver.actions().sendKeys('\uE00C').perform();
      continue;
    }
    // The store that asks the most.
    if (name === 'bench-stores') await toTop("//h3[starts-with(., 'Brackwater on Broadmere')]");
    await shoot(name);
  }
  await browser.go(`${origin}/artwork`);
  await browser.text('Where it is used', 'h2');
  await browser.clickText('Crossed Blades', 'button', false);
  await browser.find('aside a[href^="/products/"]');
  await shoot('artwork');
  const faulty = await makeFaultyProduct(api);
  await browser.go(`${origin}/products/${faulty.productId}`);
  await browser.find('[data-testid=finding-mark]');
  await browser.text('Remove the background', 'button');
  await browser.until(
    async () => !/renewing/.test(await driver.executeScript<string>('return document.body.innerText')),
    'the proof',
  );
  await shoot('bench-findings');
  await api.call('DELETE', `/products/${faulty.productId}`);
  await api.call('DELETE', `/artwork/${faulty.artworkId}`).catch(() => undefined);
  await shootStores(api);
  await shootSplit(api);
  await browser.go(`${origin}/range?q=river+chart`);
  await browser.clickText('River Chart, giclée poster', 'a');
  await browser.clickText('Print files', 'button');
  await browser.find('[role=dialog] table');
  if ((await driver.executeScript<string>('return document.body.innerText')).includes('not made')) {
    await browser.click('[role=dialog] table + button');
    await browser.until(
      async () => (await driver.executeScript<string>('return document.body.innerText')).includes('All made'),
      'print files',
      120_000,
    );
  }
  await shoot('print-files');
  await shootMarking(api);
  const { stores } = await api.get<{ stores: { id: string }[] }>('/stores');
  const { id: sendId } = await api.post<{ id: string }>('/sends', {
    found: { query: 'q=tee' },
    storeIds: stores.map(({ id }) => id),
    visibility: 'live',
  });
  await browser.go(`${origin}/sends/${sendId}`);
  await browser.text('See what of it can be fixed', 'button');
  await shoot('send-plan');
  await api.call('POST', `/sends/${sendId}/stop`);
  await shootActivity();
  for (const message of await browser.consoleErrors()) process.stdout.write(`console: ${message}\n`);
} finally {
  await browser.close();
}
