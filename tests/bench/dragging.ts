import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import type { Driver } from 'selenium-webdriver/chrome';
import { freePort, freeShopPorts } from '../../bin/lib/ports.mjs';
import { processList } from '../../bin/lib/processes.mjs';
import { startStack } from '../../bin/lib/stack.mjs';
import { ApiClient } from '../../demo/client';
import type { Blank } from '../../src/core/catalog/blank';
import type { ShelfItem } from '../../src/core/shelf/shelf';
import { orderAtEnd } from '../../src/core/order-key';
import { Browser } from '../e2e/support/browser';
import { fillCatalog, PARTNERS } from './catalog-data';
import { fillable } from './database';

const MOVES = 400;
const EMAIL = 'bench@brackwater.example';
const PASSWORD = 'ebb-and-flood';

/** Layers of all kinds on the front of a tee: the topmost is dragged. */
function layersOfAllKinds(count: number, artworkId: string, geometryId: string): Record<string, { order: string }> {
  const layers: Record<string, { order: string }> = {};
  for (let i = 0; i < count; i += 1) {
    const shared = {
      order: orderAtEnd(layers),
      name: `Layer ${i}`,
      geometryId,
      fit: 'keep',
      overrides: {},
      hidden: false,
      locked: false,
      placement: {
        xMm: 60 + (i % 4) * 60,
        yMm: 60 + (Math.floor(i / 4) % 3) * 110,
        widthMm: 70,
        rotationDeg: i * 7,
        flipX: false,
        flipY: false,
      },
    };
    layers[`l${i}`] =
      i % 3 === 0
        ? ({ kind: 'artwork', artworkId, ...shared } as never)
        : i % 3 === 1
          ? ({ kind: 'ornament', ornament: 'river-compass', color: '#7e2a33', ...shared } as never)
          : ({
              kind: 'text',
              lettering: {
                text: 'Ebb & flood',
                family: 'caveat',
                style: 'bold',
                sizeMm: 16,
                align: 'center',
                tracking: 0,
                lineHeight: 1.2,
                fill: '#1a1c20',
                outline: { color: '#ffffff', widthMm: 0.8 },
                arcDeg: 40,
                boxWidthMm: 70,
                boxHeightMm: 30,
                shrinkToMm: 4,
                wrap: false,
              },
              ...shared,
            } as never);
  }
  return layers;
}

export interface Dragged {
  readonly browser: Browser;
  readonly devtools: Driver;
  /** Time that the page's main thread has worked, ms: frames come at the screen's pace however little they cost. */
  worked(): Promise<number>;
}

export { MOVES };

export const BENCH_SELLER = { email: EMAIL, password: PASSWORD };

/** A copy of Typica of its own with a product of some layers and as many blanks more as asked for, and a browser that is signed in. */
export async function withBench<T>(
  work: (page: { browser: Browser; origin: string; productId: string }) => Promise<T>,
  { layerCount = 10, blankCount = 0 } = {},
): Promise<T> {
  const root = path.resolve(import.meta.dirname, '../..');
  const home = fs.mkdtempSync(path.join(os.tmpdir(), 'typica-bench-'));
  fs.mkdirSync(path.join(home, 'run'), { recursive: true });
  const processes = processList(path.join(home, 'run', 'processes.json'));
  const ports = { web: await freePort(), database: await freePort(), shops: await freeShopPorts(['pennyquay']) };
  const browser = await Browser.open();
  try {
    const { origin, env, runProgram } = await startStack({
      root,
      home,
      ports,
      processes,
      say: () => {},
      durable: false,
    });
    runProgram('catalog');
    if (blankCount > 0) {
      const database = fillable(env);
      await fillCatalog(database, PARTNERS, blankCount);
      await database.close();
    }
    await new ApiClient(origin).post('/people', {
      name: 'Bench',
      email: EMAIL,
      password: PASSWORD,
      workspaceName: 'Bench',
      currency: 'GBP',
      country: 'GB',
    });
    const api = await ApiClient.signIn(origin, EMAIL, PASSWORD);
    const art = await api.upload(fs.readFileSync(path.join(root, 'demo/artwork/crossed-blades.svg')), 'Crest');
    const { blanks } = await api.get<{ blanks: ShelfItem[] }>('/blanks?q=towpath&from=GB');
    const blank = await api.get<Blank>(`/blanks/${blanks[0]!.id}`);
    const product = await api.post<{ id: string; revision: number }>('/products', { blankId: blank.id });
    const layers = layersOfAllKinds(layerCount, art.id, blank.areas[0]!.geometries[0]!.geometryId);
    await api.patch(product.id, product.revision, [{ op: 'add', path: '/areas/main.front', value: { layers } }]);
    await browser.signIn(origin, EMAIL, PASSWORD);
    return await work({ browser, origin, productId: product.id });
  } finally {
    await browser.close();
    await processes.stop();
    fs.rmSync(home, { recursive: true, force: true });
  }
}

/** Opens that product on the bench, and drags its topmost layer between `begin` and `end`. */
export const dragLayer = <T>(begin: (page: Dragged) => Promise<void>, end: (page: Dragged) => Promise<T>): Promise<T> =>
  withBench(async ({ browser, origin, productId }) => {
    await browser.go(`${origin}/products/${productId}`);
    await browser.until(
      async () =>
        browser.driver.executeScript<boolean>('return document.querySelectorAll("[data-layer] image").length >= 20'),
      'ten layers',
    );
    const devtools = browser.driver as Driver;
    const { x, y } = await browser.middleOf('[data-testid=layer]', 'last');
    await browser.mouse('mouseMoved', x, y, 0);
    await browser.mouse('mousePressed', x, y, 1);
    await devtools.sendDevToolsCommand('Performance.enable', {});
    const page: Dragged = {
      browser,
      devtools,
      async worked() {
        const { metrics } = (await devtools.sendAndGetDevToolsCommand('Performance.getMetrics', {})) as unknown as {
          metrics: { name: string; value: number }[];
        };
        return metrics.find((metric) => metric.name === 'TaskDuration')!.value * 1000;
      },
    };
    await begin(page);
    for (let i = 0; i < MOVES; i += 1)
      await browser.mouse('mouseMoved', x + 120 * Math.sin(i / 18), y + 90 * Math.sin(i / 11), 1);
    const found = await end(page);
    await browser.mouse('mouseReleased', x, y, 0);
    return found;
  });
