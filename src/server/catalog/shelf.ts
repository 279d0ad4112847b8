import { LRUCache } from 'lru-cache';
import { browse } from '@/core/shelf/browse';
import { buildSearch, type ShelfSearch } from '@/core/shelf/search';
import type { ShelfBlank, ShelfPrices, ShelfQuery } from '@/core/shelf/shelf';
import { RateTable } from '@/core/pricing/rates';
import type { Context } from '../context';
import type { Pools } from '../db/pool';
import { loadMoney } from '../pricing/settings';
import { reckon } from '../reckoning/reckoners';
import { loadExchangeRates } from '../rates/rates';
import { listsInForce } from './offers';
import type { Browsed } from './browsed';
import { ownBlanks } from './own-blanks';
import { loadShelfBlanks } from './shelf-blanks';
import { loadShelfPrices } from './shelf-prices';
import { catalogVersion } from './version';

/** The shared catalog as it is browsed, kept in memory until its version changes. See docs/decisions/0008. */
interface Shelf {
  readonly version: number;
  readonly blanks: readonly ShelfBlank[];
  readonly byId: ReadonlyMap<string, ShelfBlank>;
  readonly search: ShelfSearch;
  /** Names by id. */
  readonly partners: { readonly [id: string]: string };
  /** Price lists never change once they are in force: by id, the least recently used first. */
  readonly prices: LRUCache<string, Promise<ShelfPrices>>;
}

/** Price lists kept in memory at once. */
const MAX_LISTS = 64;

const shelves = new WeakMap<Pools, { version: number; shelf: Promise<Shelf> }>();

async function shelfOf(ctx: Context): Promise<Shelf> {
  const version = await catalogVersion(ctx);
  const have = shelves.get(ctx.pools);
  if (have?.version === version) return have.shelf;
  const shelf = loadShelf(ctx, version);
  shelves.set(ctx.pools, { version, shelf });
  // What could not be loaded is tried again by whoever asks next.
  shelf.catch(() => shelves.delete(ctx.pools));
  return shelf;
}

async function loadShelf(ctx: Context, version: number): Promise<Shelf> {
  const blanks = await loadShelfBlanks(ctx);
  return {
    version,
    blanks,
    byId: new Map(blanks.map((blank) => [blank.id, blank])),
    search: buildSearch(blanks),
    partners: Object.fromEntries(blanks.map(({ partner }) => [partner.id, partner.name])),
    prices: new LRUCache({ max: MAX_LISTS }),
  };
}

function pricesOf(
  ctx: Context,
  shelf: Shelf,
  list: { id: string; currency: string; validFrom: string },
): Promise<ShelfPrices> {
  const have = shelf.prices.get(list.id);
  if (have) return have;
  const prices = loadShelfPrices(ctx, shelf.byId, list);
  shelf.prices.set(list.id, prices);
  prices.catch(() => shelf.prices.delete(list.id));
  return prices;
}

/** Answers a query in the process that holds the shelf. Throws `rate-missing`. */
export const browseCatalog = (
  ctx: Context,
  { workspaceId, currency }: { readonly workspaceId: string; readonly currency: string },
  query: ShelfQuery,
): Promise<Browsed> => reckon(ctx, 'browse', { workspace: { workspaceId, currency }, query }, workspaceId);

/** Answers a query for a workspace: prices, stock and ended variants as they are in force there. Throws `rate-missing`. */
export async function browseShelf(
  ctx: Context,
  workspace: { readonly workspaceId: string; readonly currency: string },
  query: ShelfQuery,
): Promise<Browsed> {
  const [shelf, own, lists, exchangeRates, { settings }] = await Promise.all([
    shelfOf(ctx),
    ownBlanks(ctx, workspace.workspaceId),
    listsInForce(ctx.db, workspace.workspaceId),
    loadExchangeRates(ctx, workspace.workspaceId),
    loadMoney(ctx, workspace.workspaceId),
  ]);
  const rates = new RateTable(exchangeRates, settings.rateMarginPpm);
  const prices = new Map<string, ShelfPrices>();
  for (const [partnerId, list] of lists) prices.set(partnerId, await pricesOf(ctx, shelf, list));
  const answer = browse(
    shelf.blanks,
    (partnerId) => prices.get(partnerId),
    query.text ? shelf.search.find(query.text) : null,
    query,
    workspace.currency,
    rates,
    { discounts: settings.discounts, own },
  );
  const foreign = [...new Set([...prices.values()].map((list) => list.currency))].filter(
    (c) => c !== workspace.currency,
  );
  const dates = foreign.map((currency) => rates.find(currency, workspace.currency).date).sort();
  return {
    ...answer,
    currency: workspace.currency,
    ratesOf: dates[0] ?? null,
    partners: shelf.partners,
  };
}
