import crypto from 'node:crypto';
import http from 'node:http';
import type { AddressInfo } from 'node:net';
import { handleApi } from './api';
import { handleConsent } from './consent';
import { noFaults, type Faults } from './faults';
import { readForm, send, type Exchange, type World } from './exchange';
import { openLedger } from './ledger';
import { homePage, itemPage, notFoundPage, shopPage } from './pages';

export interface PennyquayOptions {
  /** 0 takes any free port. */
  readonly port: number;
  /** Folder of the shop's data; it is kept between starts. */
  readonly data: string;
  /** Programs that may ask for consent, with the address to which answers go. */
  readonly clients: { readonly [clientId: string]: string };
  readonly seed?: number;
  readonly faults?: Partial<Faults>;
  readonly requestsPerSecond?: number;
}

/** Starts Pennyquay, a made-up craft marketplace. `settle` waits until all requests are answered. */
export async function create(
  options: PennyquayOptions,
): Promise<{ url: string; faults: Faults; settle(): Promise<void>; close(): Promise<void> }> {
  const world: World = {
    ledger: openLedger(options.data),
    clients: options.clients,
    faults: { ...noFaults(), ...options.faults },
    requestsPerSecond: options.requestsPerSecond ?? 8,
    recent: new Map(),
    url: '',
    newId: (prefix) => `${prefix}-${crypto.randomBytes(6).toString('hex')}`,
    now: () => Date.now(),
  };
  let open = 0;
  const server = http.createServer((request, response) => {
    open += 1;
    response.on('close', () => (open -= 1));
    const url = new URL(request.url ?? '/', world.url);
    handle({ request, response, url }, world).catch((error: Error) => {
      process.stderr.write(`${error.stack}\n`);
      if (!response.headersSent)
        send(response, 500, { problem: 'internal', message: 'Pennyquay is having a bad moment.' });
    });
  });
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(options.port, '127.0.0.1', resolve);
  });
  world.url = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  return {
    url: world.url,
    faults: world.faults,
    async settle() {
      while (open > 0) await new Promise((resolve) => setImmediate(resolve));
    },
    close: () =>
      new Promise((resolve) => {
        server.close(() => resolve());
        server.closeAllConnections();
      }),
  };
}

async function handle(exchange: Exchange, world: World): Promise<void> {
  const { request, response, url } = exchange;
  const path = url.pathname;
  if (path === '/health') return send(response, 200, { ok: true });
  if (path === '/control/faults' && request.method === 'POST') {
    Object.assign(world.faults, JSON.parse((await readForm(request)).toString('utf8')));
    return send(response, 200, world.faults);
  }
  if (path === '/control/ledger')
    return send(response, 200, { items: Object.values(world.ledger.held.items), charges: world.ledger.held.charges });
  if (path === '/consent' || path === '/oauth/token' || path === '/oauth/revoke') return handleConsent(exchange, world);
  if (path.startsWith('/api/')) return handleApi(exchange, world);
  return handlePage(exchange, world);
}

function handlePage({ response, url }: Exchange, world: World): void {
  const { shops, items } = world.ledger.held;
  const html = (page: string, status = 200) => {
    response.writeHead(status, { 'content-type': 'text/html; charset=utf-8' });
    response.end(page);
  };
  const picture = /^\/pictures\/([a-z0-9-]+)$/.exec(url.pathname);
  if (picture) {
    const bytes = world.ledger.readPicture(picture[1]!);
    if (!bytes) return send(response, 404, {});
    response.writeHead(200, { 'content-type': 'image/jpeg', 'cache-control': 'max-age=3600' });
    response.end(bytes);
    return;
  }
  if (url.pathname === '/favicon.ico') {
    response.writeHead(204);
    response.end();
    return;
  }
  if (url.pathname === '/') return html(homePage(Object.values(shops)));
  const shop = Object.values(shops).find((s) => url.pathname === `/shops/${s.slug}`);
  if (shop)
    return html(
      shopPage(
        shop,
        Object.values(items).filter((item) => item.shop === shop.id && item.stage === 'open'),
      ),
    );
  const item = items[/^\/items\/([a-z0-9-]+)$/.exec(url.pathname)?.[1] ?? ''];
  if (item) return html(itemPage(item, shops[item.shop]!));
  html(notFoundPage(), 404);
}
