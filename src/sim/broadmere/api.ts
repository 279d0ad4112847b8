import crypto from 'node:crypto';
import { json, jsonObject, type Answer, type Exchange } from '../engine/exchange';
import { storePicture } from '../engine/keeping';
import type { Limit } from '../engine/limit';
import { admit, forbidden, giveToken, type Say } from '../engine/tokens';
import { MAX_ROWS, phaseOf } from './feeds';
import { SHADES } from './rules';
import { waiverState, type Broadmere, type Feed, type Seller, type Waiver } from './shop';
import { shown } from './wire';

export interface Limits {
  /** All requests but files. */
  readonly calls: Limit;
  readonly files: Limit;
}

interface Asked {
  readonly world: Broadmere;
  readonly seller: Seller;
  readonly method: string;
  readonly path: string;
  readonly query: URLSearchParams;
  readonly body: Buffer;
  readonly limits: Limits;
}

const PASS_MS = 30 * 60_000;
const PAGE = 200;

const say: Say = (code, text, more) => ({ code, text, ...more });
const no = (status: number, code: string, text: string): Answer => json(status, say(code, text));

/** Broadmere's API for sellers' programs. */
export async function serve(
  { request, url }: Exchange,
  body: Buffer,
  world: Broadmere,
  limits: Limits,
): Promise<Answer | null> {
  const method = request.method ?? 'GET';
  const path = url.pathname.slice('/api'.length);
  if (path === '/access') return method === 'POST' ? access(body, world) : no(405, 'method', 'POST only.');
  const admitted = admit(request, world, limits.calls, say);
  if ('status' in admitted) return admitted;
  const denied = forbidden(world, admitted.token, 'goods', say);
  if (denied) return denied;
  const seller = world.accounts.get(admitted.token.account)!;
  const asked: Asked = { world, seller, method, path, query: url.searchParams, body, limits };
  return (await serveOwn(asked, admitted.token.region!)) ?? serveFeeds(asked) ?? serveGoods(asked);
}

/** Client credentials (RFC 6749, 4.4), for one region. */
function access(body: Buffer, world: Broadmere): Answer {
  const { account, secret, region } = jsonObject(body) ?? {};
  const seller = world.accounts.get(String(account));
  const right =
    seller !== undefined &&
    typeof secret === 'string' &&
    secret.length === seller.own.secret.length &&
    crypto.timingSafeEqual(Buffer.from(secret), Buffer.from(seller.own.secret));
  if (!right) return no(401, 'credentials', 'This number and secret do not belong together.');
  if (typeof region !== 'string' || !seller.own.regions.includes(region))
    return no(403, 'region', `You sell in ${seller.own.regions.join(', ')}, not in ${String(region)}.`);
  const until = world.now() + PASS_MS;
  const grant = crypto.randomUUID();
  const pass = giveToken(world, { account: seller.id, kind: 'access', until, grant, scopes: ['goods'], region });
  return json(200, { pass, minutes: PASS_MS / 60_000 });
}

async function serveOwn({ world, seller, method, path, body }: Asked, region: string): Promise<Answer | null> {
  if (path === '/account')
    return json(200, {
      number: seller.id,
      name: seller.name,
      region,
      currency: seller.currency,
      page: `${world.url}/sellers/${seller.slug}`,
    });
  if (path === '/shades') return json(200, { shades: SHADES });
  if (path === '/images' && method === 'POST') return takeImage(body, world, seller);
  if (path !== '/waivers') return null;
  const told = (waiver: Waiver) => ({
    waiver: waiver.id,
    brand: waiver.brand,
    state: waiverState(waiver, world.now()),
    asked: new Date(waiver.askedAt).toISOString(),
  });
  if (method === 'GET') return json(200, { waivers: seller.own.waivers.map(told) });
  const { brand } = jsonObject(body) ?? {};
  if (typeof brand !== 'string' || brand.trim() === '') return no(422, 'brand', 'For which brand?');
  const known = seller.own.waivers.find((one) => one.brand === brand.trim());
  const waiver = known ?? { id: world.newId('wv'), brand: brand.trim(), askedAt: world.now() };
  if (!known) {
    seller.own.waivers.push(waiver);
    world.accounts.put(seller.id, seller);
  }
  return json(known ? 200 : 201, told(waiver));
}

/** An image is known by its content: sent twice, it is the same. */
async function takeImage(body: Buffer, world: Broadmere, seller: Seller): Promise<Answer> {
  const byHash = world.records.table<string>('imagesByHash');
  const key = `${seller.id}/${crypto.createHash('sha256').update(body).digest('hex')}`;
  const known = byHash.get(key);
  if (known) return json(200, { image: known });
  const seen = await storePicture(world, seller.id, body, 'taken', { looksAtGround: true });
  if (!seen || seen.type === 'image/webp') return no(422, 'image', 'IMAGE: JPEG or PNG.');
  if (seen.widthPx !== seen.heightPx || seen.widthPx < 1100)
    return no(422, 'image', `IMAGE-SIZE: square and 1100 px or more; ${seen.widthPx} x ${seen.heightPx} received.`);
  byHash.put(key, seen.id);
  return json(201, { image: seen.id });
}

/** Files of rows: taken now, worked later, answered row by row. */
function serveFeeds({ world, seller, method, path, body, limits }: Asked): Answer | null {
  const feeds = world.records.table<Feed>('feeds');
  if (path === '/feeds' && method === 'POST') {
    const rows = body
      .toString('utf8')
      .split('\n')
      .filter((line) => line.trim() !== '');
    if (rows.length === 0 || rows.length > MAX_ROWS)
      return no(422, 'rows', `A file has 1-${MAX_ROWS} rows; ${rows.length} received.`);
    const waitMs = limits.files.take(seller.id);
    if (waitMs > 0)
      return json(429, say('pace', 'One file each 10 seconds.'), { 'retry-after': String(Math.ceil(waitMs / 1000)) });
    const done = world.faults.take('halfBatches') ? Math.floor(rows.length / 2) : rows.length;
    const id = world.newId('fd');
    feeds.put(id, { id, account: seller.id, takenAt: world.now(), rows, done, results: [] });
    world.records.table<true>('openFeeds').put(id, true);
    return json(202, { ticket: id, rows: rows.length });
  }
  const match = /^\/feeds\/([a-z0-9-]+)$/.exec(path);
  if (!match) return null;
  const feed = feeds.get(match[1]!);
  if (feed?.account !== seller.id) return no(404, 'ticket', 'There is no such ticket.');
  return json(200, {
    ticket: feed.id,
    phase: phaseOf(feed, world.now()),
    rows: feed.rows.length,
    results: feed.results,
  });
}

function serveGoods({ world, seller, path, query }: Asked): Answer | null {
  const one = /^\/goods\/([a-z0-9-]+)$/.exec(path);
  if (one) {
    const good = world.articles.get(one[1]!);
    return good?.account === seller.id
      ? json(200, shown(good, world))
      : no(404, 'good', 'There is none of this number.');
  }
  if (path !== '/goods') return null;
  const mark = query.get('mark');
  const after = query.get('after') ?? '';
  const found = world.articles
    .all()
    .filter(
      (good) =>
        good.account === seller.id &&
        good.foundFrom <= world.now() &&
        (mark === null || good.reference === mark) &&
        good.id > after,
    )
    .sort((a, b) => (a.id < b.id ? -1 : 1));
  const goods = found.slice(0, PAGE).map((good) => shown(good, world));
  return json(200, { goods, next: found.length > PAGE ? goods.at(-1)!.good : null });
}
