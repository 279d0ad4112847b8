import { readForm, send, type Exchange, type World } from './exchange';
import { handleCodes } from './codes';
import type { Item, Offer, Shop } from './ledger';
import { objectionsToItem, objectionsToOpening, type Objection } from './rules';

const OPENING_FEE = 15;

/** One request of a seller's program that was let in. */
interface Asked extends Exchange {
  readonly world: World;
  readonly shop: Shop;
  readonly body: Buffer;
  readonly method: string;
  readonly path: string;
}

const object = ({ body }: Asked): Record<string, unknown> =>
  body.length === 0 ? {} : (JSON.parse(body.toString('utf8')) as Record<string, unknown>);

/** Pennyquay's API for sellers' programs. */
export async function handleApi(exchange: Exchange, world: World): Promise<void> {
  const { request, response, url } = exchange;
  const body = await readForm(request);
  if (world.faults.slowMs > 0) await new Promise((resolve) => setTimeout(resolve, world.faults.slowMs));
  const shop = letIn(exchange, world);
  if (!shop) return;
  const path = url.pathname.slice('/api'.length);
  const asked: Asked = { ...exchange, world, shop, body, method: request.method ?? 'GET', path };
  if (path === '/codes' || path.startsWith('/codes/')) return handleCodes(exchange, world, shop, () => object(asked));
  if (handleShop(asked)) return;
  if (path === '/items' && asked.method === 'GET') return listItems(asked);
  if (path === '/items' && asked.method === 'POST') return makeItem(exchange, world, shop, object(asked));
  const match = /^\/items\/([a-z0-9-]+)(\/pictures|\/open|\/close)?$/.exec(path);
  const item = match ? world.ledger.held.items[match[1]!] : undefined;
  if (!match || !item || item.shop !== shop.id)
    return send(response, 404, { problem: 'missing', message: 'There is no such item in this shop.' });
  if (match[2] === undefined) return handleItem(asked, item);
  if (asked.method !== 'POST') return send(response, 405, { problem: 'method' });
  if (match[2] === '/pictures') return takePicture(asked);
  return match[2] === '/open' ? openItem(asked, item) : closeItem(asked, item);
}

/** The shop whose token it is; null, and answered, for one that is not let in. */
function letIn({ request, response }: Exchange, world: World): Shop | null {
  const { ledger, faults } = world;
  const bearer = /^Bearer (\S+)$/.exec(request.headers.authorization ?? '')?.[1] ?? '';
  const token = ledger.held.tokens[bearer];
  if (!token || token.kind !== 'access' || token.until < world.now()) {
    send(response, 401, { problem: 'token', message: 'This token has run out or is not known.' });
    return null;
  }
  if (faults.tooMany > 0 || tooFast(world, bearer)) {
    if (faults.tooMany > 0) faults.tooMany -= 1;
    const message = `No more than ${world.requestsPerSecond} requests a second, please.`;
    send(response, 429, { problem: 'pace', message }, { 'retry-after': '1' });
    return null;
  }
  if (faults.unavailable > 0) {
    faults.unavailable -= 1;
    send(response, 503, { problem: 'harbor', message: 'Pennyquay is being swept. Come back in a moment.' });
    return null;
  }
  return ledger.held.shops[token.shop]!;
}

/** What the shop itself has: its name, makers, delivery profiles. False when the request is about something else. */
function handleShop(asked: Asked): boolean {
  const { response, world, shop, method, path } = asked;
  if (path === '/shop' && method === 'GET') {
    const page = `${world.url}/shops/${shop.slug}`;
    send(response, 200, { shop_id: shop.id, name: shop.name, currency: shop.currency, page });
    return true;
  }
  if (path === '/makers' && method === 'GET') send(response, 200, { makers: shop.makers });
  else if (path === '/makers' && method === 'POST') {
    const { name, country } = object(asked) as { name: string; country: string };
    const maker = shop.makers.find((m) => m.name === name) ?? { id: world.newId('mk'), name, country };
    if (!shop.makers.includes(maker)) shop.makers.push(maker);
    world.ledger.save();
    send(response, 201, maker);
  } else if (path === '/delivery-profiles' && method === 'GET')
    send(response, 200, { profiles: shop.deliveryProfiles });
  else if (path === '/delivery-profiles' && method === 'POST') {
    const fields = object(asked) as Omit<Shop['deliveryProfiles'][number], 'id'>;
    const profile = { id: world.newId('dp'), ...fields };
    shop.deliveryProfiles.push(profile);
    world.ledger.save();
    send(response, 201, profile);
  } else return false;
  return true;
}

function listItems({ response, url, world, shop }: Asked): void {
  const reference = url.searchParams.get('reference');
  const items = Object.values(world.ledger.held.items).filter(
    (item) => item.shop === shop.id && (reference === null || item.reference === reference),
  );
  send(response, 200, { items: items.map((item) => shown(item, world)) });
}

const refuse = ({ response }: Asked, objections: readonly Objection[]): void =>
  send(response, 422, { problem: 'objections', message: objections[0]!.message, objections });

function takePicture(asked: Asked): void {
  const { request, response, world, shop, body } = asked;
  const { ledger } = world;
  if (body.subarray(0, 3).toString('hex') !== 'ffd8ff')
    return refuse(asked, [{ field: 'pictures', message: 'Pictures must be JPEG.' }]);
  const { width, height } = jpegSize(body);
  if (Math.max(width, height) < 1400) {
    const message = `The long side must be 1400 pixels or more; yours has ${Math.max(width, height)}.`;
    return refuse(asked, [{ field: 'pictures', message }]);
  }
  const key = String(request.headers['request-key'] ?? '');
  const before = key ? ledger.held.answers[`${shop.id}/${key}`] : undefined;
  if (before) return send(response, before.status, before.body);
  const id = world.newId('px');
  ledger.putPicture(id, body);
  if (key) ledger.held.answers[`${shop.id}/${key}`] = { status: 201, body: { picture_id: id }, at: world.now() };
  ledger.save();
  send(response, 201, { picture_id: id });
}

function openItem(asked: Asked, item: Item): void {
  const { response, world, shop } = asked;
  const objections = objectionsToOpening(item);
  if (objections.length > 0) return refuse(asked, objections);
  if (item.stage !== 'open') {
    item.stage = 'open';
    item.openedAt = world.now();
    const charge = { shop: shop.id, item: item.id, what: 'opening' as const, amount: OPENING_FEE, at: world.now() };
    world.ledger.held.charges.push(charge);
  }
  world.ledger.save();
  send(response, 200, shown(item, world));
}

function closeItem({ response, world }: Asked, item: Item): void {
  item.stage = 'draft';
  world.ledger.save();
  send(response, 200, shown(item, world));
}

/** Reads, changes or deletes one item. */
function handleItem(asked: Asked, item: Item): void {
  const { response, world, method } = asked;
  if (method === 'GET') return send(response, 200, shown(item, world));
  if (method === 'DELETE') {
    delete world.ledger.held.items[item.id];
    world.ledger.save();
    return send(response, 204, {});
  }
  if (method !== 'PUT') return send(response, 405, { problem: 'method' });
  const next = { ...item, ...itemFields(object(asked)) };
  const objections = item.stage === 'open' ? objectionsToOpening(next) : objectionsToItem(next);
  if (objections.length > 0) return refuse(asked, objections);
  Object.assign(item, next);
  world.ledger.save();
  send(response, 200, shown(item, world));
}

function makeItem({ request, response }: Exchange, world: World, shop: Shop, fields: Record<string, unknown>): void {
  const { held } = world.ledger;
  const key = String(request.headers['request-key'] ?? '');
  const before = key ? held.answers[`${shop.id}/${key}`] : undefined;
  if (before) return send(response, before.status, before.body);
  const item: Item = {
    id: world.newId('it'),
    shop: shop.id,
    reference: typeof fields.reference === 'string' ? fields.reference : null,
    stage: 'draft',
    headline: '',
    story: '',
    keywords: [],
    maker: null,
    deliveryProfile: null,
    choices: [],
    offers: [],
    pictures: [],
    createdAt: world.now(),
    openedAt: null,
    ...itemFields(fields),
  };
  const objections = objectionsToItem(item);
  if (objections.length > 0)
    return send(response, 422, { problem: 'objections', message: objections[0]!.message, objections });
  held.items[item.id] = item;
  const answer = { item_id: item.id, page: `${world.url}/items/${item.id}` };
  if (key) held.answers[`${shop.id}/${key}`] = { status: 201, body: answer, at: world.now() };
  world.ledger.save();
  if (world.faults.loseAnswers > 0) {
    world.faults.loseAnswers -= 1;
    request.socket.destroy();
    return;
  }
  send(response, 201, answer);
}

function itemFields(fields: Record<string, unknown>): Partial<Item> {
  const out: Partial<Item> = {};
  if (typeof fields.headline === 'string') out.headline = fields.headline;
  if (typeof fields.story === 'string') out.story = fields.story;
  if (Array.isArray(fields.keywords)) out.keywords = fields.keywords.map(String);
  if (typeof fields.maker === 'string') out.maker = fields.maker;
  if (typeof fields.delivery_profile === 'string') out.deliveryProfile = fields.delivery_profile;
  if (Array.isArray(fields.choices)) out.choices = fields.choices as Item['choices'];
  if (Array.isArray(fields.offers)) out.offers = fields.offers as Offer[];
  if (Array.isArray(fields.pictures)) out.pictures = fields.pictures as Item['pictures'];
  return out;
}

const shown = (item: Item, world: World) => ({
  item_id: item.id,
  reference: item.reference,
  stage: item.stage,
  headline: item.headline,
  story: item.story,
  keywords: item.keywords,
  maker: item.maker,
  delivery_profile: item.deliveryProfile,
  choices: item.choices,
  offers: item.offers.map((offer) => ({ ...offer, before: offer.before ?? null })),
  pictures: item.pictures,
  page: `${world.url}/items/${item.id}`,
});

function tooFast(world: World, token: string): boolean {
  const now = world.now();
  const times = (world.recent.get(token) ?? []).filter((time) => now - time < 1000);
  if (times.length >= world.requestsPerSecond) {
    world.recent.set(token, times);
    return true;
  }
  world.recent.set(token, [...times, now]);
  return false;
}

/** Size of a JPEG from its frame header. */
function jpegSize(bytes: Buffer): { width: number; height: number } {
  for (let i = 2; i + 9 < bytes.length;) {
    const marker = bytes[i + 1]!;
    if (marker >= 0xc0 && marker <= 0xcf && ![0xc4, 0xc8, 0xcc].includes(marker))
      return { height: bytes.readUInt16BE(i + 5), width: bytes.readUInt16BE(i + 7) };
    i += 2 + bytes.readUInt16BE(i + 2);
  }
  return { width: 0, height: 0 };
}
