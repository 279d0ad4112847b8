import crypto from 'node:crypto';
import { cookieOf, goTo, page, readForm, type Answer, type Exchange } from '../exchange';
import { amount, type Article, type Order } from '../goods';
import type { Table } from '../records';
import type { ShopKind, World } from '../world';
import { esc, frame, problemList } from './frame';

/** What a shopper has chosen: quantities by listing and SKU. */
interface Basket {
  readonly id: string;
  lines: { article: string; sku: string; quantity: number }[];
}

const MAX_QUANTITY = 20;
const MAX_LINES = 30;
const FIELDS = [
  ['name', 'Name', true],
  ['street', 'Street and number', true],
  ['more', 'Flat, floor', false],
  ['city', 'Town', true],
  ['region', 'State or county', false],
  ['postcode', 'Postcode', true],
  ['country', 'Country (two letters)', true],
  ['email', 'E-mail', true],
] as const;

const basketsOf = (world: World): Table<Basket> => world.records.table<Basket>('baskets');

/** Basket, address and paying; null for another address. */
export async function serveBasket<Own, Extra>(
  exchange: Exchange,
  world: World<Own, Extra>,
  kind: ShopKind<Own, Extra>,
): Promise<Answer | null> {
  const { request, url } = exchange;
  const path = url.pathname;
  if (path !== '/basket' && path !== '/pay' && !path.startsWith('/orders/')) return null;
  if (path.startsWith('/orders/')) return orderPage(world, kind, path.slice('/orders/'.length));
  const baskets = basketsOf(world);
  const basket = baskets.get(cookieOf(request, 'basket') ?? '') ?? { id: crypto.randomUUID(), lines: [] };
  if (request.method !== 'POST') return page(basketPage(world, kind, basket, [], {}));
  const form = await readForm(request);
  if (path === '/pay') return pay(world, kind, basket, form);
  change(basket, form);
  baskets.put(basket.id, basket);
  return goTo('/basket', { 'set-cookie': `basket=${basket.id}; Path=/; HttpOnly; SameSite=Lax` });
}

function change(basket: Basket, { article = '', sku = '', quantity = '1' }: Record<string, string>): void {
  const wanted = /^\d{1,3}$/.test(quantity) ? Math.min(MAX_QUANTITY, Number(quantity)) : 1;
  const rest = basket.lines.filter((line) => line.article !== article || line.sku !== sku);
  basket.lines = wanted === 0 ? rest : [...rest, { article, sku, quantity: wanted }].slice(-MAX_LINES);
}

/** The lines of a basket that can still be had. */
function openLines<Own, Extra>(world: World<Own, Extra>, basket: Basket) {
  return basket.lines.flatMap(({ article: id, sku, quantity }) => {
    const article = world.articles.get(id);
    const variant = article?.stage === 'live' ? article.variants.find((one) => one.sku === sku) : undefined;
    return article && variant && variant.stock !== 0 ? [{ article, variant, variantSku: sku, quantity }] : [];
  });
}

function basketPage<Own, Extra>(
  world: World<Own, Extra>,
  kind: ShopKind<Own, Extra>,
  basket: Basket,
  problems: readonly string[],
  typed: Readonly<Record<string, string>>,
): string {
  const lines = openLines(world, basket);
  const currency = lines[0] ? currencyOf(world, lines[0].article) : '';
  const rows = lines.map(
    ({ article, variant, quantity }) =>
      `<tr><td><a href="${kind.look.articlePath}${article.id}">${esc(article.title)}</a><br><span class="quiet">${esc(variant.picks.join(', '))}</span></td><td>${amount(variant.priceMinor)} ${currency}</td><td><form method="post" action="/basket"><input type="hidden" name="article" value="${article.id}"><input type="hidden" name="sku" value="${esc(variant.sku)}"><input name="quantity" size="3" value="${quantity}" aria-label="Quantity"><button>Change</button></form></td></tr>`,
  );
  const fields = FIELDS.map(
    ([name, label, need]) =>
      `<label for="${name}">${label}</label><input id="${name}" name="${name}" value="${esc(typed[name] ?? '')}"${need ? ' required' : ''}>`,
  ).join('');
  return frame(
    kind,
    'Basket',
    `<h1>Basket</h1>${problemList(problems)}${lines.length === 0 ? '<p class="quiet">Nothing is in it yet.</p>' : `<table>${rows.join('')}</table><form method="post" action="/pay"><h2>Where to</h2>${fields}<button>Pay</button></form>`}`,
  );
}

const currencyOf = <Own, Extra>(world: World<Own, Extra>, article: Article<Extra>): string =>
  world.accounts.get(article.account)?.currency ?? '';

function pay<Own, Extra>(
  world: World<Own, Extra>,
  kind: ShopKind<Own, Extra>,
  basket: Basket,
  form: Readonly<Record<string, string>>,
): Answer {
  const lines = openLines(world, basket);
  const missing = FIELDS.filter(([name, , need]) => need && !form[name]?.trim()).map(([, label]) => label);
  const country = (form.country ?? '').trim().toUpperCase();
  const delivery = kind.deliveryMinor(lines, country, world);
  const problems = [
    ...(lines.length === 0 ? ['Nothing in your basket can be ordered.'] : []),
    ...(missing.length > 0 ? [`Please fill in: ${missing.join(', ')}.`] : []),
    ...(new Set(lines.map(({ article }) => article.account)).size > 1 ? ['Pay for one shop at a time.'] : []),
    ...(lines.length > 0 && missing.length === 0 && delivery === null
      ? [`Not everything in it is delivered to ${country}.`]
      : []),
  ];
  if (problems.length > 0 || delivery === null) return page(basketPage(world, kind, basket, problems, form), 422);
  const items = lines.reduce((sum, { variant, quantity }) => sum + variant.priceMinor * quantity, 0);
  const order: Order = {
    id: world.newId('or'),
    account: lines[0]!.article.account,
    at: world.now(),
    lines: lines.map(({ article, variant, quantity }) => ({
      article: article.id,
      title: article.title,
      sku: variant.sku,
      picks: [...variant.picks],
      quantity,
      priceMinor: variant.priceMinor,
    })),
    deliveryMinor: delivery,
    totalMinor: items + delivery,
    currency: currencyOf(world, lines[0]!.article),
    address: Object.fromEntries(FIELDS.map(([name]) => [name, (form[name] ?? '').trim().slice(0, 200)])),
  };
  world.orders.put(order.id, order);
  basket.lines = [];
  basketsOf(world).put(basket.id, basket);
  return goTo(`/orders/${order.id}`);
}

function orderPage<Own, Extra>(world: World<Own, Extra>, kind: ShopKind<Own, Extra>, id: string): Answer | null {
  const order = world.orders.get(id);
  if (!order) return null;
  const rows = order.lines.map(
    (line) =>
      `<tr><td>${esc(line.title)}<br><span class="quiet">${esc(line.picks.join(', '))}</span></td><td>${line.quantity} × ${amount(line.priceMinor)}</td></tr>`,
  );
  return page(
    frame(
      kind,
      'Thank you',
      `<h1>Thank you</h1><p>Order <b id="order">${order.id}</b> is paid.</p><table>${rows.join('')}<tr><td>Delivery</td><td>${amount(order.deliveryMinor)}</td></tr><tr><td>Total</td><td id="total">${amount(order.totalMinor)} ${order.currency}</td></tr></table>`,
    ),
  );
}
