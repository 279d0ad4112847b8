import { page } from '../engine/exchange';
import { Limit } from '../engine/limit';
import { esc, frame } from '../engine/pages/frame';
import { startShop, type RunningShop, type ShopOptions } from '../engine/server';
import type { ShopKind } from '../engine/world';
import { serve, type Limits } from './api';
import { workFeeds } from './feeds';
import { objectionsToGood, objectionsToSale } from './rules';
import type { Broadmere, Extra, Own } from './shop';

/** A made-up mass marketplace. */
function kindOf(): ShopKind<Own, Extra> {
  let limits: Limits | null = null;
  const kind: ShopKind<Own, Extra> = {
    name: 'Broadmere',
    looksAtGround: true,
    apiPath: '/api/',
    look: {
      strap: 'everything, tomorrow',
      ground: '#ffffff',
      ink: '#1c2333',
      bar: '#26407a',
      face: 'Verdana,Geneva,sans-serif',
      article: 'good',
      tags: null,
      category: null,
      draft: 'Off',
      articlePath: '/goods/',
      shopPath: '/sellers/',
    },
    accounts: [
      {
        id: 'bm-55120',
        slug: 'brackwater-boathouse',
        name: 'Brackwater Boathouse',
        currency: 'USD',
        own: { secret: 'oar-lock-tide-5512', regions: ['us'], waivers: [] },
      },
    ],
    newExtra: () => ({ points: [], waiver: null, brand: '', ship: null, readyDays: 0, madeIn: '', shades: {} }),
    objections: objectionsToGood,
    objectionsToLive: objectionsToSale,
    advance: (world) => workFeeds(world, kind),
    api: (exchange, body, world) =>
      serve(
        exchange,
        body,
        world,
        (limits ??= { calls: new Limit(10, 1000, world.now), files: new Limit(1, 10_000, world.now) }),
      ),
    deskLinks: [['/desk/access', 'Access for programs']],
    pages: async ({ url }, world) => (url.pathname === '/desk/access' ? page(accessPage(world, kind)) : null),
    notes: ({ extra }) => [
      ...extra.points,
      ...(extra.ship
        ? [
            `Delivery ${(extra.ship.order_cents / 100).toFixed(2)} an order and ${(extra.ship.item_cents / 100).toFixed(2)} an item.`,
          ]
        : []),
    ],
    // Once per order, and for each item.
    deliveryMinor(lines, country) {
      if (lines.some(({ article }) => !article.extra.ship?.to.includes(country))) return null;
      const order = Math.max(0, ...lines.map(({ article }) => article.extra.ship!.order_cents));
      return lines.reduce((sum, { article, quantity }) => sum + article.extra.ship!.item_cents * quantity, order);
    },
  };
  return kind;
}

/** Where sellers find what a program needs. */
const accessPage = (world: Broadmere, kind: Pick<ShopKind, 'name' | 'look'>): string =>
  frame(
    kind,
    'Access for programs',
    `<h1>Access for programs</h1>${world.accounts
      .all()
      .map(
        ({ id, name, own }) =>
          `<h2>${esc(name)}</h2><table><tr><td>Seller number</td><td id="number">${id}</td></tr><tr><td>Secret</td><td id="secret">${esc(own.secret)}</td></tr><tr><td>Regions</td><td>${own.regions.join(', ')}</td></tr></table>`,
      )
      .join('')}`,
  );

/** Starts Broadmere. */
export const create = (options: ShopOptions): Promise<RunningShop<Own, Extra>> => startShop(kindOf(), options);
