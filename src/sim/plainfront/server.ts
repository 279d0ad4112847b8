import { minorOf } from '../engine/goods';
import { Limit } from '../engine/limit';
import { startShop, type RunningShop, type ShopOptions } from '../engine/server';
import type { ShopKind } from '../engine/world';
import { serve } from './api';
import { tell } from './hooks';
import { serveKeys } from './keys';
import { objectionsToProduct, objectionsToPublishing } from './rules';
import type { DeliveryTable, Extra, Own, Plainfront, Product } from './shop';

const ownOf = (): Own => ({ tables: [], hooks: [], discounts: [] });

const tableOf = (product: Product, world: Plainfront): DeliveryTable | undefined =>
  world.accounts.get(product.account)?.own.tables.find(({ name }) => name === product.extra.delivery);

/** A made-up program for storefronts of one's own: here two, of the same owner. */
function kindOf(): ShopKind<Own, Extra> {
  let limit: Limit | null = null;
  const kind: ShopKind<Own, Extra> = {
    name: 'Plainfront',
    apiPath: '/rest/',
    look: {
      strap: 'your own shop window',
      ground: '#fbfaf5',
      ink: '#26221c',
      bar: '#5b4636',
      face: "'Trebuchet MS',Helvetica,sans-serif",
      article: 'product',
      tags: 'Labels',
      category: null,
      draft: 'Hidden',
      articlePath: '/products/',
      shopPath: '/fronts/',
    },
    accounts: [
      { id: 'pf-gb', slug: 'brackwater', name: 'Brackwater Boathouse', currency: 'GBP', own: ownOf() },
      { id: 'pf-eu', slug: 'brackwater-eu', name: 'Brackwater Boathouse Europe', currency: 'EUR', own: ownOf() },
    ],
    newExtra: () => ({ handle: '', search: { title: '', summary: '' }, collections: [], delivery: null }),
    objections: objectionsToProduct,
    objectionsToLive: objectionsToPublishing,
    api: (exchange, body, world) => serve(exchange, body, world, kind, (limit ??= new Limit(4, 1000, world.now))),
    pages: (exchange, world) => serveKeys(exchange, world, kind),
    deskLinks: [['/desk/keys', 'Keys for programs']],
    notes: ({ extra }) => (extra.collections.length > 0 ? [`In ${extra.collections.join(', ')}`] : []),
    happened: tell,
    // By the weight of what goes by one table together.
    deliveryMinor(lines, country, world) {
      const grams = new Map<DeliveryTable, number>();
      for (const { article, variantSku, quantity } of lines) {
        const table = tableOf(article, world);
        if (!table) return null;
        const each = article.variants.find(({ sku }) => sku === variantSku)?.grams ?? 0;
        grams.set(table, (grams.get(table) ?? 0) + each * quantity);
      }
      let sum = 0;
      for (const [{ zones }, weight] of grams) {
        const bands = zones.find(({ to }) => to.includes(country))?.bands ?? [];
        const band = bands.find(({ upToGrams }) => weight <= upToGrams);
        if (!band) return null;
        sum += minorOf(band.price) ?? 0;
      }
      return sum;
    },
  };
  return kind;
}

/** Starts Plainfront. */
export const create = (options: ShopOptions): Promise<RunningShop<Own, Extra>> => startShop(kindOf(), options);
