import { readForm, send, type Exchange, type World } from './exchange';
import { handleCodes } from './codes';
import type { Item, Offer, Shop } from './ledger';
import { objectionsToItem, objectionsToOpening, type Objection } from './rules';

const OPENING_FEE = 15;

/** Pennyquay's API for sellers' programs. */
export async function handleApi({ request, response, url }: Exchange, world: World): Promise<void> {
  const { ledger, faults } = world;
  const { held } = ledger;
  const body = await readForm(request);
  if (faults.slowMs > 0) await new Promise((resolve) => setTimeout(resolve, faults.slowMs));
  const bearer = /^Bearer (\S+)$/.exec(request.headers.authorization ?? '')?.[1] ?? '';
  const token = held.tokens[bearer];
  if (!token || token.kind !== 'access' || token.until < world.now())
    return send(response, 401, { problem: 'token', message: 'This token has run out or is not known.' });
  if (faults.tooMany > 0 || tooFast(world, bearer)) {
    if (faults.tooMany > 0) faults.tooMany -= 1;
    return send(
      response,
      429,
      { problem: 'pace', message: `No more than ${world.requestsPerSecond} requests a second, please.` },
      { 'retry-after': '1' },
    );
  }
  if (faults.unavailable > 0) {
    faults.unavailable -= 1;
    return send(response, 503, { problem: 'harbor', message: 'Pennyquay is being swept. Come back in a moment.' });
  }
  const shop = held.shops[token.shop]!;
  const path = url.pathname.slice('/api'.length);
  const object = (): Record<string, unknown> =>
    body.length === 0 ? {} : (JSON.parse(body.toString('utf8')) as Record<string, unknown>);
  const method = request.method ?? 'GET';

  if (path === '/shop' && method === 'GET')
    return send(response, 200, {
      shop_id: shop.id,
      name: shop.name,
      currency: shop.currency,
      page: `${world.url}/shops/${shop.slug}`,
    });
  if (path === '/makers') {
    if (method === 'GET') return send(response, 200, { makers: shop.makers });
    if (method === 'POST') {
      const { name, country } = object() as { name: string; country: string };
      const maker = shop.makers.find((m) => m.name === name) ?? { id: world.newId('mk'), name, country };
      if (!shop.makers.includes(maker)) shop.makers.push(maker);
      ledger.save();
      return send(response, 201, maker);
    }
  }
  if (path === '/delivery-profiles') {
    if (method === 'GET') return send(response, 200, { profiles: shop.deliveryProfiles });
    if (method === 'POST') {
      const profile = { id: world.newId('dp'), ...(object() as Omit<Shop['deliveryProfiles'][number], 'id'>) };
      shop.deliveryProfiles.push(profile);
      ledger.save();
      return send(response, 201, profile);
    }
  }
  if (path === '/codes' || path.startsWith('/codes/'))
    return handleCodes({ request, response, url }, world, shop, object);
  if (path === '/items' && method === 'GET') {
    const reference = url.searchParams.get('reference');
    const items = Object.values(held.items).filter(
      (item) => item.shop === shop.id && (reference === null || item.reference === reference),
    );
    return send(response, 200, { items: items.map((item) => shown(item, world)) });
  }
  if (path === '/items' && method === 'POST') return makeItem({ request, response, url }, world, shop, object());

  const match = /^\/items\/([a-z0-9-]+)(\/pictures|\/open|\/close)?$/.exec(path);
  const item = match ? held.items[match[1]!] : undefined;
  if (!match || !item || item.shop !== shop.id)
    return send(response, 404, { problem: 'missing', message: 'There is no such item in this shop.' });
  const refuse = (objections: Objection[]) =>
    send(response, 422, { problem: 'objections', message: objections[0]!.message, objections });

  if (match[2] === '/pictures' && method === 'POST') {
    if (body.subarray(0, 3).toString('hex') !== 'ffd8ff')
      return refuse([{ field: 'pictures', message: 'Pictures must be JPEG.' }]);
    const size = jpegSize(body);
    if (Math.max(size.width, size.height) < 1400)
      return refuse([
        {
          field: 'pictures',
          message: `The long side must be 1400 pixels or more; yours has ${Math.max(size.width, size.height)}.`,
        },
      ]);
    const key = String(request.headers['request-key'] ?? '');
    const before = key ? held.answers[`${shop.id}/${key}`] : undefined;
    if (before) return send(response, before.status, before.body);
    const id = world.newId('px');
    ledger.putPicture(id, body);
    if (key) held.answers[`${shop.id}/${key}`] = { status: 201, body: { picture_id: id }, at: world.now() };
    ledger.save();
    return send(response, 201, { picture_id: id });
  }
  if (match[2] === '/open' && method === 'POST') {
    const objections = objectionsToOpening(item);
    if (objections.length > 0) return refuse(objections);
    if (item.stage !== 'open') {
      item.stage = 'open';
      item.openedAt = world.now();
      held.charges.push({ shop: shop.id, item: item.id, what: 'opening', amount: OPENING_FEE, at: world.now() });
    }
    ledger.save();
    return send(response, 200, shown(item, world));
  }
  if (match[2] === '/close' && method === 'POST') {
    item.stage = 'draft';
    ledger.save();
    return send(response, 200, shown(item, world));
  }
  if (match[2]) return send(response, 405, { problem: 'method' });
  if (method === 'GET') return send(response, 200, shown(item, world));
  if (method === 'DELETE') {
    delete held.items[item.id];
    ledger.save();
    return send(response, 204, {});
  }
  if (method === 'PUT') {
    const next = { ...item, ...itemFields(object()) };
    const objections = item.stage === 'open' ? objectionsToOpening(next) : objectionsToItem(next);
    if (objections.length > 0) return refuse(objections);
    Object.assign(item, next);
    ledger.save();
    return send(response, 200, shown(item, world));
  }
  send(response, 405, { problem: 'method' });
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
