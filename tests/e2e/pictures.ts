import fs from 'node:fs';
import path from 'node:path';
import { Browser } from './support/browser';

/** `npm run pictures [FOLDER]`: one picture of each main view at 1280×800, from the copy that runs with this TYPICA_HOME and has the demo's data. */
const home = path.resolve(process.env.TYPICA_HOME ?? '.typica');
const running = JSON.parse(fs.readFileSync(path.join(home, 'run', 'environment.json'), 'utf8')) as Record<
  string,
  string
>;
const [origin, shop] = [running.TYPICA_ORIGIN!, running.TYPICA_PENNYQUAY_URL!];
const [folder = 'docs/screenshots'] = process.argv.slice(2);
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
    ['6', 'bench-stores'],
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
