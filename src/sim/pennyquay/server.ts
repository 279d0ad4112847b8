import { serveConsent } from '../engine/consent';
import { minorOf } from '../engine/goods';
import { Limit } from '../engine/limit';
import { startShop, type RunningShop, type ShopOptions } from '../engine/server';
import type { ShopKind } from '../engine/world';
import { serve } from './api';
import { objectionsToItem, objectionsToOpening } from './rules';
import type { Extra, Item, Own, Pennyquay } from './shop';

export interface PennyquayOptions extends ShopOptions {
  readonly requestsPerSecond?: number;
}

const SCOPES = new Map([
  ['items:write', 'add, change and open items'],
  ['items:read', 'read your items'],
  ['shop:read', 'read your shop’s name and settings'],
  ['makers:write', 'declare making partners'],
]);

const profileOf = (item: Item, world: Pennyquay) =>
  world.accounts.get(item.account)?.own.deliveryProfiles.find(({ id }) => id === item.extra.deliveryProfile);

/** A made-up craft marketplace. */
function kindOf(requestsPerSecond: number): ShopKind<Own, Extra> {
  let limit: Limit | null = null;
  const kind: ShopKind<Own, Extra> = {
    name: 'Pennyquay',
    apiPath: '/api/',
    look: {
      strap: 'made by hand, sold at the harbor',
      ground: '#eef3f1',
      ink: '#1d2b2a',
      bar: '#1f4c47',
      face: "Georgia,'Times New Roman',serif",
      article: 'item',
      tags: 'Keywords',
      category: null,
      draft: 'A draft',
      articlePath: '/items/',
      shopPath: '/shops/',
    },
    accounts: [
      {
        id: 'pq-7041',
        slug: 'brackwater-boathouse',
        name: 'Brackwater Boathouse',
        currency: 'USD',
        own: { makers: [], deliveryProfiles: [] },
      },
    ],
    livePrice: { what: 'opening', amountMinor: 15, days: 90 },
    newExtra: () => ({ maker: null, deliveryProfile: null }),
    objections: objectionsToItem,
    objectionsToLive: objectionsToOpening,
    api: (exchange, body, world) =>
      serve(exchange, body, world, kind, (limit ??= new Limit(requestsPerSecond, 1000, world.now))),
    pages: (exchange, world) => serveConsent(exchange, world, kind, { scopes: SCOPES }),
    notes(item, world) {
      const us = profileOf(item, world)?.lanes.find((lane) => lane.countries.includes('US'));
      const { currency, own } = world.accounts.get(item.account)!;
      const maker = own.makers.find(({ id }) => id === item.extra.maker);
      return [
        ...(us
          ? [
              us.first === '0.00'
                ? 'Delivery to the United States is free.'
                : `Delivery to the United States ${us.first} ${currency}, each further item ${us.further}.`,
            ]
          : []),
        ...(maker ? [`Made with ${maker.name} (${maker.country}).`] : []),
      ];
    },
    // The dearest first item, then each further one.
    deliveryMinor(lines, country, world) {
      const lanes = lines.map(({ article }) =>
        profileOf(article, world)?.lanes.find((lane) => lane.countries.includes(country)),
      );
      if (lanes.some((lane) => lane === undefined)) return null;
      const [firsts, furthers] = [
        lanes.map((lane) => minorOf(lane!.first) ?? 0),
        lanes.map((lane) => minorOf(lane!.further) ?? 0),
      ];
      const dearest = firsts.indexOf(Math.max(...firsts));
      return lines.reduce(
        (sum, { quantity }, i) => sum + furthers[i]! * (i === dearest ? quantity - 1 : quantity),
        firsts[dearest] ?? 0,
      );
    },
  };
  return kind;
}

/** Starts Pennyquay. */
export const create = ({ requestsPerSecond = 8, ...options }: PennyquayOptions): Promise<RunningShop<Own, Extra>> =>
  startShop(kindOf(requestsPerSecond), options);
