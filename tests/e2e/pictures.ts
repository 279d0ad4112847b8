import path from 'node:path';
import { Browser } from './support/browser';

/** `npm run pictures ORIGIN SHOP [FOLDER]`: one picture of each main view, from the demo's data, at 1280×800. */
const [origin = 'http://127.0.0.1:4310', shop = 'http://127.0.0.1:4312', folder = 'docs/screenshots'] =
  process.argv.slice(2);
const browser = await Browser.open();
const { driver } = browser;

const settle = async () => {
  await browser.until(
    async () =>
      driver.executeScript<boolean>(
        'return document.readyState === "complete" && [...document.images].every((i) => i.complete)',
      ),
    'pictures loaded',
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

try {
  await browser.signIn(origin, 'demo@brackwater.example', 'ebb-and-flood');
  await browser.text('Range', 'h1');
  await shoot('range');
  await browser.go(`${origin}/blanks`);
  await browser.text('Blanks', 'h1');
  await shoot('blanks');
  await browser.go(`${origin}/range`);
  await browser.clickText('Crossed Blades tee', 'a');
  await browser.find('[data-testid=proof]');
  await browser.clickText('Crossed Blades', 'button');
  await browser.find('[data-testid=handle-se]');
  await shoot('bench-artwork');
  for (const [key, name] of [
    ['3', 'bench-variants'],
    ['4', 'bench-prices'],
    ['5', 'bench-words'],
    ['6', 'bench-stores'],
    ['1', 'bench-blank'],
  ] as const) {
    await driver.actions().sendKeys(key).perform();
    await shoot(name);
  }
  await browser.go(`${origin}/stores`);
  await browser.clickText('Brackwater Boathouse', 'a');
  await browser.text('What it takes', 'h2');
  await shoot('store');
  await browser.go(`${shop}/shops/brackwater-boathouse`);
  await browser.click('.grid a');
  await browser.find('#headline');
  await shoot('shop-page');
  for (const message of await browser.consoleErrors()) process.stdout.write(`console: ${message}\n`);
} finally {
  await browser.close();
}
