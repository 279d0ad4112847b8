import crypto from 'node:crypto';
import http from 'node:http';
import type { AddressInfo } from 'node:net';
import { setTimeout as delay } from 'node:timers/promises';
import { json, packed, page, readBody, TooLarge, type Answer, type Exchange } from './exchange';
import { FaultBox, type Faults } from './faults';
import type { Account, Article, Charge, Order, StoredPicture } from './goods';
import { countedUntil } from './limit';
import { notFoundPage } from './pages/frame';
import { serveSeller } from './pages/seller';
import { serveShopper } from './pages/shopper';
import { openRecords } from './records';
import type { ShopKind, World } from './world';

export interface ShopOptions {
  /** 0 takes any free port. */
  readonly port: number;
  /** Folder of the shop's data; it is kept between starts. */
  readonly data: string;
  /** Programs that may ask for consent, with the address to which answers go. */
  readonly clients?: { readonly [clientId: string]: string };
  readonly seed?: number;
  readonly faults?: Partial<Faults>;
  /** How many times faster than real the shop's clock runs. */
  readonly pace?: number;
}

export interface RunningShop<Own = unknown, Extra = unknown> {
  readonly url: string;
  readonly faults: Faults;
  readonly world: World<Own, Extra>;
  /** Waits until all requests are answered. */
  settle(): Promise<void>;
  close(): Promise<void>;
}

function makeWorld<Own, Extra>(kind: ShopKind<Own, Extra>, options: ShopOptions): World<Own, Extra> {
  const { pace = 1, seed = 1 } = options;
  const records = openRecords(options.data);
  const faults = new FaultBox(options.faults);
  const [began, start] = [Date.now(), performance.now()];
  let drawn = 0;
  let forwardMs = 0;
  const world: World<Own, Extra> = {
    records,
    accounts: records.table<Account<Own>>('accounts'),
    articles: records.table<Article<Extra>>('articles'),
    pictures: records.table<StoredPicture>('pictures'),
    orders: records.table<Order>('orders'),
    charges: records.table<Charge>('charges'),
    faults,
    clients: new Map(Object.entries(options.clients ?? {})),
    url: '',
    taken: 0,
    tooMany: 0,
    now: () => Math.round(began + (performance.now() - start) * pace) + forwardMs,
    forward: (ms) => (forwardMs += ms),
    told: () => world.now() + faults.now.clockOffMs,
    stamp: () => Date.now() + forwardMs + faults.now.clockOffMs,
    sleep: (ms) => delay(ms / pace),
    chance: () => {
      drawn += 1;
      return crypto.createHash('sha256').update(`${seed}/${drawn}`).digest().readUInt32BE(0) / 2 ** 32;
    },
    newId: (prefix) => `${prefix}-${crypto.randomBytes(6).toString('hex')}`,
  };
  for (const account of kind.accounts)
    if (!world.accounts.get(account.id)) world.accounts.put(account.id, structuredClone(account));
  return world;
}

/** Starts a shop. */
export async function startShop<Own, Extra>(
  kind: ShopKind<Own, Extra>,
  options: ShopOptions,
): Promise<RunningShop<Own, Extra>> {
  const world = makeWorld(kind, options);
  let open = 0;
  const server = http.createServer((request, response) => {
    open += 1;
    response.on('close', () => (open -= 1));
    let exchange: Exchange;
    try {
      exchange = { request, response, url: new URL(request.url ?? '/', world.url) };
    } catch {
      return write({ request, response }, page(notFoundPage(kind), 400), world);
    }
    serve(exchange, world, kind).catch((error: Error) => {
      if (error instanceof TooLarge)
        return write(exchange, json(413, { problem: 'size', message: 'Too large.' }), world);
      process.stderr.write(`${error.stack}\n`);
      if (!response.headersSent)
        write(exchange, json(500, { problem: 'internal', message: `${kind.name} is having a bad moment.` }), world);
    });
  });
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(options.port, '127.0.0.1', resolve);
  });
  world.url = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  return {
    url: world.url,
    faults: world.faults.now,
    world,
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

/** For how many seconds the shop counts a request, and until when by its clock. */
const countedHeaders = (untilMs: number, nowMs: number) => ({
  'counted-for': (Math.max(0, untilMs - nowMs) / 1000).toFixed(3),
  'counted-until': (untilMs / 1000).toFixed(3),
});

function write(
  { request, response }: Pick<Exchange, 'request' | 'response'>,
  answer: Answer,
  world: Pick<World, 'told' | 'now'>,
  cut = false,
): void {
  const { headers, bytes } = packed(answer);
  const until = countedUntil.get(request);
  response.writeHead(answer.status, {
    ...headers,
    ...(until === undefined ? {} : countedHeaders(until, world.now())),
    date: new Date(world.told()).toUTCString(),
    'content-length': String(bytes.length),
  });
  if (!cut) return void response.end(bytes);
  response.write(bytes.subarray(0, Math.floor(bytes.length / 2)), () => request.socket.destroy());
}

async function serve<Own, Extra>(
  exchange: Exchange,
  world: World<Own, Extra>,
  kind: ShopKind<Own, Extra>,
): Promise<void> {
  const path = exchange.url.pathname;
  kind.advance?.(world);
  if (path === '/health') return write(exchange, json(200, { ok: true }), world);
  if (path.startsWith('/control/')) return write(exchange, await control(exchange, world), world);
  if (path.startsWith(kind.apiPath)) return serveApi(exchange, world, kind);
  const strange = strangersForm(exchange, world);
  const answer =
    strange ??
    (await kind.pages?.(exchange, world)) ??
    (await serveSeller(exchange, world, kind)) ??
    (await serveShopper(exchange, world, kind));
  write(exchange, answer ?? page(notFoundPage(kind), 404), world);
}

/** A form that another site's page posts to us is not ours. */
function strangersForm({ request }: Exchange, world: World): Answer | null {
  const { origin } = request.headers;
  return request.method === 'POST' && origin !== undefined && origin !== 'null' && origin !== world.url
    ? json(403, { problem: 'origin', message: 'This form was sent by another site.' })
    : null;
}

/** What tests and the curious look at and switch on. */
async function control({ request, url }: Exchange, world: World): Promise<Answer> {
  if (url.pathname === '/control/faults') {
    if (request.method === 'POST')
      Object.assign(world.faults.now, JSON.parse((await readBody(request)).toString('utf8')));
    return json(200, { ...world.faults.now, happened: Object.fromEntries(world.faults.happened) });
  }
  if (url.pathname === '/control/ledger')
    return json(200, { articles: world.articles.all(), charges: world.charges.all(), orders: world.orders.all() });
  if (url.pathname === '/control/requests') return json(200, { taken: world.taken, tooMany: world.tooMany });
  return json(404, {});
}

/** A program's request, with what goes wrong on the way to it and back. */
async function serveApi<Own, Extra>(
  exchange: Exchange,
  world: World<Own, Extra>,
  kind: ShopKind<Own, Extra>,
): Promise<void> {
  const { request } = exchange;
  const { faults } = world;
  const body = await readBody(request);
  if (faults.now.slowMs > 0) await delay(faults.now.slowMs);
  const fault = (status: number, problem: string, message: string, headers: Record<string, string> = {}) =>
    write(exchange, json(status, { problem, message }, headers), world);
  if (faults.take('tooMany')) return fault(429, 'pace', 'Not so fast, please.', { 'retry-after': '1' });
  if (faults.take('tooManyUntil')) {
    const until = new Date(Math.ceil((world.told() + 1000) / 1000) * 1000).toUTCString();
    return fault(429, 'pace', 'Not so fast, please.', { 'retry-after': until });
  }
  if (faults.take('unavailable'))
    return fault(503, 'closed', `${kind.name} is being swept. Come back in a moment.`, { 'retry-after': '1' });
  const trouble = kind.troubles !== undefined && world.chance() < kind.troubles ? world.chance() : 1;
  if (trouble < 0.5 || faults.take('failBefore')) return fault(500, 'internal', `${kind.name} is having a bad moment.`);
  const answer =
    (await kind.api(exchange, body, world)) ?? json(404, { problem: 'missing', message: 'There is nothing here.' });
  const done = request.method !== 'GET' && answer.status < 300;
  if (trouble < 1 || (done && faults.take('failAfter')))
    return fault(500, 'internal', `${kind.name} is having a bad moment.`);
  if (done && faults.take('loseAnswers')) return void request.socket.destroy();
  if (answer.status < 300 && answer.body !== undefined) {
    if (faults.take('cutAnswers')) return write(exchange, answer, world, true);
    if (faults.take('brokenJson'))
      return write(exchange, { ...answer, type: 'application/json', body: '{"half": "of an ans' }, world);
  }
  write(exchange, answer, world);
}
