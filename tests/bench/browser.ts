import { ApiClient } from '../../demo/client';
import type { ShelfItem } from '../../src/core/catalog/shelf';
import { PARTS } from '../../src/screens/Bench/view';
import { Browser } from '../e2e/support/browser';
import type { Budget } from './bench';
import { BENCH_SELLER, withBench } from './dragging';

/** Bytes of JavaScript that a page loads before anything on it is pressed, as they come over the wire. */
async function scriptBytes(browser: Browser, url: string): Promise<number> {
  await browser.go(url);
  await browser.driver.sleep(1500);
  return browser.driver.executeScript<number>(
    String.raw`return performance.getEntriesByType('resource').filter((e) => /\.js(\?|$)/.test(e.name)).reduce((sum, e) => sum + e.encodedBodySize, 0)`,
  );
}

const WATCH = `
  window.__long = [];
  new PerformanceObserver((list) => { for (const entry of list.getEntries()) window.__long.push(entry.duration); }).observe({ entryTypes: ['longtask'] });`;

/** The longest task of the page's main thread while something is done, ms; 0 for none over 50. */
async function longestTask(browser: Browser, work: () => Promise<void>): Promise<number> {
  await browser.driver.executeScript(WATCH);
  await work();
  await browser.driver.sleep(400);
  return Math.round(await browser.driver.executeScript<number>('return Math.max(0, ...window.__long)'));
}

const told = (ms: number): string => (ms < 50 ? 'under 50' : String(ms));

const bench: Budget = {
  name: 'browser',
  measure: () =>
    withBench(async ({ browser, origin, productId }) => {
      const api = await ApiClient.signIn(origin, BENCH_SELLER.email, BENCH_SELLER.password);
      const { blanks } = await api.get<{ blanks: ShelfItem[] }>('/blanks?limit=1');
      const pages = ['/range', '/blanks', `/blanks/${blanks[0]!.id}`, '/artwork', '/stores', '/money', '/settings'];
      const product = `/products/${productId}`;
      const bytes: string[] = [];
      for (const page of [...pages, ...PARTS.map((part) => `${product}?part=${part}`)]) {
        const name = page.replace(product, 'bench').replace(blanks[0]!.id, 'ID');
        bytes.push(`${name} ${Math.round((await scriptBytes(browser, `${origin}${page}`)) / 1000)}`);
      }
      await browser.go(`${origin}${product}?part=words`);
      const title = await browser.labelled('Title');
      const typing = await longestTask(browser, async () => {
        for (const letter of 'A title that is typed by hand') await title.sendKeys(letter);
      });
      await browser.go(`${origin}${product}?part=artwork`);
      await browser.find('[data-testid=layer]');
      const body = await browser.find('[data-testid=surface]');
      const colors = await longestTask(browser, async () => {
        for (let i = 0; i < 8; i += 1) await body.sendKeys('.');
      });
      await browser.go(`${origin}/blanks`);
      const scrolling = await longestTask(browser, async () => {
        for (let i = 0; i < 20; i += 1)
          await browser.driver.executeScript('document.querySelector("[role=table]").scrollBy(0, 300)');
      });
      return `200 kB of JavaScript a page, no task over 50 ms (kB: ${bytes.join(', ')}; longest task while typing a title ${told(typing)} ms, stepping through colors ${told(colors)} ms, scrolling all blanks ${told(scrolling)} ms)`;
    }),
};

export default bench;
