import { json, jsonObject, NO_CONTENT, type Answer, type Exchange } from '../engine/exchange';
import type { Objection } from '../engine/goods';
import { keepArticle, newArticle, removeArticle, storePicture } from '../engine/keeping';
import type { Limit } from '../engine/limit';
import { admit, forbidden, type Say, type Token } from '../engine/tokens';
import type { ShopKind } from '../engine/world';
import { newHookSecret } from './hooks';
import { keysOf } from './keys';
import { objectionsToProduct, objectionsToPublishing } from './rules';
import type { DeliveryTable, Discount, Extra, Own, Plainfront, Product, Storefront } from './shop';
import { changed, shown } from './wire';

type Kind = ShopKind<Own, Extra>;

interface Asked {
  readonly world: Plainfront;
  readonly kind: Kind;
  readonly front: Storefront;
  readonly method: string;
  readonly path: string;
  readonly query: URLSearchParams;
  readonly body: Buffer;
  readonly fields: Record<string, unknown>;
}

const say: Say = (error, message, more) => ({ error, message, ...more });
const no = (status: number, error: string, message: string): Answer => json(status, say(error, message));
const invalid = (errors: readonly Objection[]): Answer =>
  json(422, say('invalid', `${errors[0]!.field} ${errors[0]!.message}`, { errors }));

/** Plainfront's API for the owner's programs. A key that holds for more than one storefront names one with each request. */
export async function serve(
  { request, url }: Exchange,
  body: Buffer,
  world: Plainfront,
  kind: Kind,
  limit: Limit,
): Promise<Answer | null> {
  const admitted = admit(request, world, limit, say);
  if ('status' in admitted) return admitted;
  const { token } = admitted;
  const path = url.pathname.slice('/rest'.length);
  if (path === '/whoami') return whoAmI(token, world);
  const scope = path.slice(1).split('/')[0]!;
  const denied = forbidden(world, token, scope, say);
  if (denied) return denied;
  const front = world.accounts.get(token.account);
  if (!front) return no(403, 'storefront', 'This key is for no storefront.');
  const fields = path === '/pictures' ? {} : jsonObject(body);
  if (!fields) return no(400, 'json', 'must be a JSON object');
  const method = request.method ?? 'GET';
  const asked: Asked = { world, kind, front, method, path, query: url.searchParams, body, fields };
  return (
    (await servePictures(asked)) ??
    serveDelivery(asked) ??
    serveHooks(asked) ??
    serveDiscounts(asked) ??
    serveProducts(asked)
  );
}

function whoAmI(token: Token, world: Plainfront): Answer {
  const key = keysOf(world).get(token.grant)!;
  const scopes = key.scopes.filter((scope) => !world.faults.now.takenScopes.includes(scope));
  return json(200, {
    scopes,
    expires: new Date(key.until).toISOString(),
    storefronts: key.accounts.map((id) => {
      const { slug, name, currency } = world.accounts.get(id)!;
      return { id, name, currency, url: `${world.url}/fronts/${slug}` };
    }),
  });
}

async function servePictures({ world, front, method, path, body }: Asked): Promise<Answer | null> {
  if (path !== '/pictures' || method !== 'POST') return null;
  const seen = await storePicture(world, front.id, body, 'taken');
  if (!seen) return no(422, 'invalid', 'must be a JPEG, PNG or WebP');
  if (Math.max(seen.widthPx, seen.heightPx) > 2400)
    return no(422, 'invalid', `must be 2400 px at most, is ${seen.widthPx} by ${seen.heightPx}`);
  return json(201, { id: seen.id });
}

/** Delivery tables, put whole and by name. */
function serveDelivery({ world, front, method, path, fields }: Asked): Answer | null {
  if (path === '/delivery' && method === 'GET') return json(200, { tables: front.own.tables });
  const match = /^\/delivery\/([a-z0-9-]{1,60})$/.exec(path);
  if (!match || method !== 'PUT') return null;
  const table: DeliveryTable = { name: match[1]!, zones: fields.zones as DeliveryTable['zones'] };
  if (!Array.isArray(table.zones)) return no(422, 'invalid', 'zones must be a list');
  front.own.tables = [...front.own.tables.filter(({ name }) => name !== table.name), table];
  world.accounts.put(front.id, front);
  return json(200, table);
}

function serveHooks({ world, front, method, path, fields }: Asked): Answer | null {
  if (path === '/hooks' && method === 'GET')
    return json(200, { hooks: front.own.hooks.map(({ id, address }) => ({ id, address })) });
  if (path === '/hooks' && method === 'POST') {
    if (typeof fields.address !== 'string' || !/^https?:\/\//.test(fields.address))
      return no(422, 'invalid', 'address must be a URL');
    const { address } = fields;
    const hook = { id: world.newId('hk'), address, secret: newHookSecret() };
    front.own.hooks = [...front.own.hooks.filter((one) => one.address !== address), hook];
    world.accounts.put(front.id, front);
    return json(201, hook);
  }
  const match = /^\/hooks\/([a-z0-9-]+)$/.exec(path);
  if (!match || method !== 'DELETE') return null;
  front.own.hooks = front.own.hooks.filter(({ id }) => id !== match[1]);
  world.accounts.put(front.id, front);
  return NO_CONTENT;
}

/** Discount codes: put whole, dropped by name. */
function serveDiscounts({ world, front, method, path, fields }: Asked): Answer | null {
  if (path === '/discounts' && method === 'GET') return json(200, { discounts: front.own.discounts });
  const match = /^\/discounts\/([A-Z0-9-]{3,24})$/.exec(path);
  if (!match) return null;
  const rest = front.own.discounts.filter(({ code }) => code !== match[1]);
  if (method === 'PUT') {
    const { percent, amount, products } = fields as unknown as Discount;
    if ((percent === null) === (amount === null)) return no(422, 'invalid', 'must be a percent or an amount');
    rest.push({ code: match[1]!, percent, amount, products });
  } else if (method !== 'DELETE') return no(405, 'method', 'PUT or DELETE');
  front.own.discounts = rest;
  world.accounts.put(front.id, front);
  return method === 'PUT' ? json(200, rest.at(-1)) : NO_CONTENT;
}

function serveProducts(asked: Asked): Answer | null {
  const { world, kind, front, method, path, fields } = asked;
  if (path === '/products') return method === 'POST' ? add(asked) : list(asked);
  const product = world.articles.get(/^\/products\/([a-z0-9-]+)$/.exec(path)?.[1] ?? '');
  if (product?.account !== front.id) return no(404, 'missing', 'no such product');
  if (method === 'GET') return json(200, shown(product, world));
  if (method === 'DELETE') {
    removeArticle(world, kind, product);
    return NO_CONTENT;
  }
  if (method !== 'PATCH') return no(405, 'method', 'GET, PATCH or DELETE');
  return keep(asked, changed(product, fields), 200);
}

function add(asked: Asked): Answer {
  const { world, kind, front, fields } = asked;
  return keep(asked, changed(newArticle(world, kind, front.id, null), fields), 201);
}

/** Keeps a product as it is wanted, where nothing stands against it; `state` says whether buyers see it. */
function keep({ world, kind, fields }: Asked, next: Product, status: number): Answer {
  const live = fields.state === undefined ? next.stage === 'live' : fields.state === 'published';
  const errors = live ? objectionsToPublishing(next, world) : objectionsToProduct(next, world);
  if (errors.length > 0) return invalid(errors);
  const handle = next.extra.handle || `${next.id}`;
  const kept = keepArticle(world, kind, {
    ...next,
    stage: live ? 'live' : 'draft',
    extra: { ...next.extra, handle },
  });
  return json(status, shown(kept, world));
}

/** Products by SKU, or those changed since a moment, page by page: a cursor is where the last page ended. */
function list({ world, front, query }: Asked): Answer {
  const sku = query.get('sku');
  const since = Date.parse(query.get('changed_since') ?? '') || 0;
  const [afterAt, afterId] = (query.get('cursor') ?? '0:').split(':') as [string, string];
  const size = Math.min(100, Number(query.get('size')) || 50);
  const found = world.articles
    .all()
    .filter(
      (one) =>
        one.account === front.id &&
        one.changedAt >= since &&
        (sku === null || one.variants.some((variant) => variant.sku === sku)) &&
        (one.changedAt > Number(afterAt) || (one.changedAt === Number(afterAt) && one.id > afterId)),
    )
    .sort((a, b) => a.changedAt - b.changedAt || (a.id < b.id ? -1 : 1));
  const products = found.slice(0, size);
  const last = products.at(-1);
  const cursor = last && found.length > size ? `${last.changedAt}:${last.id}` : null;
  return json(200, { products: products.map((one) => shown(one, world)), cursor });
}
