import { serveConsent, type ConsentWays } from '../engine/consent';
import { Limit } from '../engine/limit';
import { startShop, type RunningShop, type ShopOptions } from '../engine/server';
import type { ShopKind } from '../engine/world';
import { judge, serve } from './api';
import { objectionsToPiece, objectionsToShowing } from './rules';
import { SHELVES } from './shelves';
import type { Extra, Own } from './shop';

export interface LoopstallOptions extends ShopOptions {
  /** Share of requests that come to nothing by themselves. */
  readonly troubles?: number;
  /** A picture is looked at so long after it was taken, on the shop's clock. */
  readonly judgeMs?: number;
}

const CONSENT: ConsentWays = {
  scopes: new Map([
    ['look', 'look at your stall'],
    ['stock', 'put pieces on your stall, change them and take them off'],
  ]),
  regions: [
    { code: 'eu', name: 'European Union', accounts: ['ls-3107'] },
    { code: 'gb', name: 'United Kingdom', accounts: [] },
  ],
};

/** A made-up shop beside a stream of clips. */
function kindOf(troubles: number, judgeMs: number): ShopKind<Own, Extra> {
  let limit: Limit | null = null;
  const kind: ShopKind<Own, Extra> = {
    name: 'Loopstall',
    apiPath: '/api/',
    look: {
      strap: 'seen it, want it',
      ground: '#fff7f0',
      ink: '#2b1b2f',
      bar: '#6a2c70',
      face: "'Gill Sans',Calibri,sans-serif",
      article: 'piece',
      tags: null,
      category: 'Shelf',
      draft: 'Off',
      articlePath: '/pieces/',
      shopPath: '/stalls/',
    },
    accounts: [
      {
        id: 'ls-3107',
        slug: 'brackwater',
        name: 'Brackwater Boathouse',
        currency: 'EUR',
        own: {
          warehouses: [
            { id: 'wh-nl', name: 'Harbor store', country: 'NL' },
            { id: 'wh-de', name: 'Inland store', country: 'DE' },
          ],
        },
      },
    ],
    troubles,
    newExtra: () => ({ traits: {}, warehouse: null, ship: [], madeIn: '' }),
    objections: objectionsToPiece,
    objectionsToLive: objectionsToShowing,
    categories: () => SHELVES.filter(({ asks }) => asks).map(({ id, name }) => ({ id, name })),
    advance: (world) => judge(world, kind),
    api: (exchange, body, world) =>
      serve(exchange, body, world, kind, { limit: (limit ??= new Limit(5, 1000, world.now)), judgeMs }),
    pages: (exchange, world) => serveConsent(exchange, world, kind, CONSENT),
    notes: ({ extra }) => Object.entries(extra.traits).map(([key, value]) => `${key}: ${value}`),
    // Each item by itself.
    deliveryMinor(lines, country) {
      let sum = 0;
      for (const { article, quantity } of lines) {
        const lane = article.extra.ship.find(({ to }) => to.includes(country));
        if (!lane) return null;
        sum += lane.each_cents * quantity;
      }
      return sum;
    },
  };
  return kind;
}

/** Starts Loopstall. */
export const create = ({
  troubles = 0.02,
  judgeMs = 15_000,
  ...options
}: LoopstallOptions): Promise<RunningShop<Own, Extra>> => startShop(kindOf(troubles, judgeMs), options);
