import { ApiClient } from '../../demo/client';
import type { ShelfItem } from '../../src/core/shelf/shelf';
import { PARTS } from '../../src/screens/Bench/parts';
import { Browser } from '../e2e/support/browser';
import type { Budget } from './bench';
import { BENCH_SELLER, withBench } from './dragging';

const LAYERS = 20;
const BLANKS = 500;

interface Weight {
  /** JavaScript that the page's own HTML asks for, kB as they come over the wire; what only browsers without modules load is left out. */
  readonly firstKb: number;
  /** All that it has loaded a moment later, before anything on it is pressed: the parts that come beside it too. */
  readonly allKb: number;
}

/** Once nothing more is loaded and no long task has run for half a second. */
const atRest = (browser: Browser): Promise<void> =>
  browser.driver.executeAsyncScript<void>(`
    const done = arguments[0];
    let timer;
    const again = () => {
      clearTimeout(timer);
      timer = setTimeout(() => { watch.disconnect(); done(); }, 500);
    };
    const watch = new PerformanceObserver(again);
    watch.observe({ entryTypes: ['resource', 'longtask'] });
    again();`);

/** What a page weighs. */
async function weigh(browser: Browser, url: string): Promise<Weight> {
  await browser.go(url);
  await atRest(browser);
  const [first, all] = await browser.driver.executeAsyncScript<[number, number]>(String.raw`
    const done = arguments[0];
    fetch(location.href).then((answer) => answer.text()).then((html) => {
      const page = new DOMParser().parseFromString(html, 'text/html');
      const asked = new Set([...page.querySelectorAll('script[src]:not([nomodule])')].map((s) => new URL(s.getAttribute('src'), location.href).href));
      const scripts = performance.getEntriesByType('resource').filter((e) => /\.js(\?|$)/.test(e.name));
      const size = (list) => list.reduce((sum, e) => sum + e.encodedBodySize, 0);
      done([size(scripts.filter((e) => asked.has(e.name))), size(scripts)]);
    });`);
  return { firstKb: Math.round(first / 1000), allKb: Math.round(all / 1000) };
}

const WATCH = `
  window.__long = [];
  new PerformanceObserver((list) => { for (const entry of list.getEntries()) window.__long.push(entry.duration); }).observe({ entryTypes: ['longtask'] });`;

/** The longest task of the page's main thread while something is done, ms; 0 for none over 50. */
async function longestTask(browser: Browser, work: () => Promise<void>): Promise<number> {
  await browser.driver.executeScript(WATCH);
  await work();
  await atRest(browser);
  return Math.round(await browser.driver.executeScript<number>('return Math.max(0, ...window.__long)'));
}

const told = (ms: number): string => `${ms < 50 ? 'under 50' : ms} ms`;

/** From pressing a product in the range, as one looks at it, to its proof as the design is now, ms. */
async function clickToProof(browser: Browser, origin: string, productId: string): Promise<number> {
  await browser.go(`${origin}/range`);
  await atRest(browser);
  const ms = await browser.driver.executeAsyncScript<number>(
    `const [id, done] = arguments;
     const began = performance.now();
     document.querySelector('a[href="/products/' + id + '"]').click();
     const look = () => document.querySelector('[data-testid=proof]')?.dataset.revision ? done(performance.now() - began) : requestAnimationFrame(look);
     look();`,
    productId,
  );
  return Math.round(ms);
}

/** What every page and every part of the bench weighs, as `range 155/166`: what its HTML asks for, and all. */
async function weights(browser: Browser, origin: string, productId: string): Promise<string> {
  const api = await ApiClient.signIn(origin, BENCH_SELLER.email, BENCH_SELLER.password);
  const { blanks } = await api.get<{ blanks: ShelfItem[] }>('/blanks?limit=1');
  const blank = blanks[0]!.id;
  const pages = ['/range', '/blanks', `/blanks/${blank}`, '/artwork', '/stores', '/money', '/prices', '/settings'];
  const product = `/products/${productId}`;
  const told: string[] = [];
  for (const page of [...pages, ...PARTS.map((part) => `${product}?part=${part}`)]) {
    const { firstKb, allKb } = await weigh(browser, `${origin}${page}`);
    told.push(`${page.replace(product, 'bench').replace(blank, 'ID')} ${firstKb}/${allKb}`);
  }
  return told.join(', ');
}

/** The longest tasks of what is done most on the bench. */
async function benchTasks(browser: Browser, product: string): Promise<string> {
  await browser.go(`${product}?part=words`);
  const title = await browser.labelled('Title');
  await atRest(browser);
  const typing = await longestTask(browser, async () => {
    for (const letter of 'A title that is typed by hand') await title.sendKeys(letter);
  });
  await browser.go(`${product}?part=artwork`);
  await browser.until(
    () => browser.driver.executeScript<boolean>(`return document.querySelectorAll('[data-layer]').length >= ${LAYERS}`),
    'the layers',
  );
  await atRest(browser);
  const { x, y } = await browser.middleOf('[data-testid=layer]', 'last');
  const pressing = await longestTask(browser, async () => {
    await browser.mouse('mouseMoved', x, y, 0);
    await browser.mouse('mousePressed', x, y, 1);
  });
  const dragging = await longestTask(browser, async () => {
    for (let i = 0; i < 120; i += 1)
      await browser.mouse('mouseMoved', x + 120 * Math.sin(i / 18), y + 90 * Math.sin(i / 11), 1);
    await browser.mouse('mouseReleased', x, y, 0);
  });
  const surface = await browser.find('[data-testid=surface]');
  const colors = await longestTask(browser, async () => {
    for (let i = 0; i < 8; i += 1) await surface.sendKeys('.');
  });
  return `typing a title ${told(typing)}, pressing a layer ${told(pressing)}, dragging a layer among ${LAYERS} ${told(dragging)}, stepping through colors ${told(colors)}`;
}

async function scrolling(browser: Browser, origin: string): Promise<string> {
  await browser.go(`${origin}/blanks`);
  await atRest(browser);
  const ms = await longestTask(browser, async () => {
    for (let i = 0; i < 120; i += 1)
      await browser.driver.executeScript('document.querySelector("[role=table]").scrollBy(0, 300)');
  });
  return `scrolling ${BLANKS} blanks ${told(ms)}`;
}

const bench: Budget = {
  name: 'browser',
  measure: () =>
    withBench(
      async ({ browser, origin, productId }) => {
        // Just after the start the server also makes the small pictures of all blanks.
        const firstMs = await clickToProof(browser, origin, productId);
        const tasks = await benchTasks(browser, `${origin}/products/${productId}`);
        const scrolled = await scrolling(browser, origin);
        const kb = await weights(browser, origin, productId);
        const proofMs = await clickToProof(browser, origin, productId);
        return `200 kB of JavaScript that a page asks for, no task over 50 ms, proof 1 s after a click (click to proof ${proofMs} ms, the first just after the start ${firstMs} ms; longest tasks: ${tasks}, ${scrolled}; kB asked for/in all: ${kb})`;
      },
      { layerCount: LAYERS, blankCount: BLANKS },
    ),
};

export default bench;
