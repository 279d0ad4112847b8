import { json, jsonObject, NO_CONTENT, type Answer, type Exchange } from '../engine/exchange';
import type { Objection } from '../engine/goods';
import {
  articleNow,
  keepArticle,
  newArticle,
  removeArticle,
  renewLive,
  setStage,
  storePicture,
} from '../engine/keeping';
import type { Limit } from '../engine/limit';
import { once } from '../engine/once';
import { admit, forbidden, type Say } from '../engine/tokens';
import type { Asked, Kind } from './asked';
import { serveCodes } from './codes';
import { objectionsToItem, objectionsToOpening } from './rules';
import type { Item, Own, Pennyquay } from './shop';
import { changed, shown } from './wire';

/** Answers under a request key are given again for so long. */
const KEY_MS = 30 * 86_400_000;
const PAGE = 100;

const say: Say = (problem, message, more) => ({ problem, message, ...more });

/** Pennyquay's API for sellers' programs. */
export async function serve(
  { request, url }: Exchange,
  body: Buffer,
  world: Pennyquay,
  kind: Kind,
  limit: Limit,
): Promise<Answer | null> {
  const admitted = admit(request, world, limit, say);
  if ('status' in admitted) return admitted;
  const { token } = admitted;
  const method = request.method ?? 'GET';
  const path = url.pathname.slice('/api'.length);
  const scope = path.startsWith('/makers')
    ? 'makers:write'
    : path === '/shop'
      ? 'shop:read'
      : method === 'GET'
        ? 'items:read'
        : 'items:write';
  const denied = forbidden(world, token, scope, say);
  if (denied) return denied;
  const fields = path === '/pictures' ? {} : jsonObject(body);
  if (!fields) return json(400, { problem: 'json', message: 'This is no JSON object.' });
  const asked: Asked = {
    world,
    kind,
    shop: world.accounts.get(token.account)!,
    method,
    path,
    query: url.searchParams,
    requestKey: String(request.headers['request-key'] ?? ''),
    body,
    fields,
  };
  return serveCodes(asked) ?? serveShop(asked) ?? (await serveItems(asked));
}

/** What the shop itself has: its name, makers, delivery profiles. */
function serveShop({ world, shop, method, path, fields }: Asked): Answer | null {
  const keep = () => world.accounts.put(shop.id, shop);
  if (path === '/shop' && method === 'GET') {
    const page = `${world.url}/shops/${shop.slug}`;
    return json(200, { shop_id: shop.id, name: shop.name, currency: shop.currency, page });
  }
  if (path === '/makers' && method === 'GET') return json(200, { makers: shop.own.makers });
  if (path === '/makers' && method === 'POST') {
    const { name, country } = fields as { name: string; country: string };
    const known = shop.own.makers.find((one) => one.name === name);
    const maker = known ?? { id: world.newId('mk'), name, country };
    if (!known) shop.own.makers.push(maker);
    keep();
    return json(201, maker);
  }
  if (path === '/delivery-profiles' && method === 'GET') return json(200, { profiles: shop.own.deliveryProfiles });
  if (path !== '/delivery-profiles' || method !== 'POST') return null;
  const profile = { id: world.newId('dp'), ...(fields as Omit<Own['deliveryProfiles'][number], 'id'>) };
  shop.own.deliveryProfiles.push(profile);
  keep();
  return json(201, profile);
}

async function serveItems(asked: Asked): Promise<Answer | null> {
  const { world, kind, shop, method, path } = asked;
  if (path === '/pictures' && method === 'POST') return takePicture(asked);
  if (path === '/items' && method === 'GET') return listItems(asked);
  if (path === '/items' && method === 'POST')
    return once(world, shop.id, asked.requestKey, KEY_MS, () => makeItem(asked));
  const match = /^\/items\/([a-z0-9-]+)(\/open|\/close|\/renew)?$/.exec(path);
  const item = match ? articleNow(world, kind, match[1]!) : undefined;
  if (!match || !item || item.account !== shop.id)
    return json(404, { problem: 'missing', message: 'There is no such item in this shop.' });
  if (match[2] === undefined) return serveItem(asked, item);
  if (method !== 'POST') return json(405, { problem: 'method' });
  if (match[2] === '/renew') return json(200, shown(renewLive(world, kind, item), world));
  const objections = setStage(world, kind, item, match[2] === '/open' ? 'live' : 'draft');
  return objections.length > 0 ? refuse(objections) : json(200, shown(world.articles.get(item.id)!, world));
}

/** Items by the seller's mark, or page by page in the order in which they were touched. */
function listItems({ world, shop, query }: Asked): Answer {
  const reference = query.get('reference');
  const since = Date.parse(query.get('touched_since') ?? '') || 0;
  const from = Number(query.get('from') ?? 0) || 0;
  const mine = world.articles
    .all()
    .filter(
      (item) =>
        item.account === shop.id && (reference === null || item.reference === reference) && item.changedAt >= since,
    )
    .sort((a, b) => a.changedAt - b.changedAt || (a.id < b.id ? -1 : 1));
  const next = from + PAGE < mine.length ? from + PAGE : null;
  return json(200, { items: mine.slice(from, from + PAGE).map((item) => shown(item, world)), next });
}

const refuse = (objections: readonly Objection[]): Answer =>
  json(422, { problem: 'objections', message: objections[0]!.message, objections });

async function takePicture({ world, shop, requestKey, body }: Asked): Promise<Answer> {
  const seen = await storePicture(world, shop.id, body, 'taken');
  if (seen?.type !== 'image/jpeg') return refuse([{ field: 'pictures', message: 'Pictures must be JPEG.' }]);
  const longest = Math.max(seen.widthPx, seen.heightPx);
  if (longest < 1400)
    return refuse([{ field: 'pictures', message: `The long side must be 1400 pixels or more; yours has ${longest}.` }]);
  return once(world, shop.id, requestKey, KEY_MS, () => json(201, { picture_id: seen.id }));
}

/** Reads, changes or deletes one item. */
function serveItem({ world, kind, method, fields }: Asked, item: Item): Answer {
  if (method === 'GET') return json(200, shown(item, world));
  if (method === 'DELETE') {
    removeArticle(world, kind, item);
    return NO_CONTENT;
  }
  if (method !== 'PUT') return json(405, { problem: 'method' });
  const next = changed(item, fields);
  const objections = item.stage === 'live' ? objectionsToOpening(next) : objectionsToItem(next);
  return objections.length > 0 ? refuse(objections) : json(200, shown(keepArticle(world, kind, next), world));
}

function makeItem({ world, kind, shop, fields }: Asked): Answer {
  const reference = typeof fields.reference === 'string' ? fields.reference : null;
  const item = changed(newArticle(world, kind, shop.id, reference), fields);
  const objections = objectionsToItem(item);
  if (objections.length > 0) return refuse(objections);
  keepArticle(world, kind, item);
  return json(201, { item_id: item.id, page: `${world.url}/items/${item.id}` });
}
