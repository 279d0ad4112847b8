import { FIRST_LISTING, soldListings } from '@/core/document/split';
import { sendStep, type SendDecision } from '@/core/sync/send-step';
import type { Context } from '../context';
import type { Database } from '../db/pool';
import { emit } from '../events/events';
import type { JobControl } from '../jobs/worker';
import { standingsOf, type Standing } from '../outcomes/read';
import { productsById, type Product } from '../products/products';
import { listStores, sendsAs, type Store } from '../stores/stores';
import { countItems, findSend, type SendRow } from './send-row';

interface Item {
  readonly productId: string;
  readonly storeId: string;
  readonly number: number;
}

/** One listing of a send, looked at just now. */
export interface Looked extends SendDecision, Item {
  readonly changed: readonly string[];
}

const left = (reason: string): SendDecision => ({ what: 'stopped', visibility: 'draft', goesLive: false, reason });
const REASON_MAX = 500;

const NOTHING_SOLD = 'It sells nothing in this listing: its colors are in others there.';

/** What stops whatever would be sent to a store; null where nothing does. */
function storeStops(store: Store | undefined, { visibility }: SendRow): string | null {
  if (store?.state !== 'connected') return 'Its store is not connected just now: connect it again first.';
  return store.pausedAt && visibility === 'live' ? 'Its store is paused: end the pause first.' : null;
}

const factsOf = ({ state, broken, listing }: Standing, store: Store) => ({
  state,
  broken: broken[0] ? [broken[0].says, broken[0].mend].filter(Boolean).join(' ') : null,
  visibility: listing?.externalId ? listing.visibility : null,
  newAs: store.pausedAt ? ('draft' as const) : sendsAs(store),
});

/** A product is planned by its first listing in a store: with it go all others that sell something there. */
function withOthers(items: readonly Item[], products: ReadonlyMap<string, Product>): Item[] {
  const all = items.flatMap((item) => {
    const product = item.number === FIRST_LISTING ? products.get(item.productId) : undefined;
    const others = product ? soldListings(product.document, item.storeId) : [];
    return [item, ...others.map((number) => ({ ...item, number }))];
  });
  return [...new Map(all.map((item) => [`${item.productId}:${item.storeId}:${item.number}`, item])).values()];
}

/** The first listing of a product of which all colors are in others. */
const sellsNothing = ({ number, storeId }: Item, product: Product | undefined): boolean =>
  product !== undefined && number === FIRST_LISTING && !soldListings(product.document, storeId).includes(number);

async function dropItems(ctx: Context, sendId: string, items: readonly Item[]): Promise<void> {
  for (const { productId, storeId, number } of items)
    await ctx.db.run('DELETE FROM send_item WHERE send_id = ? AND product_id = ? AND store_id = ? AND number = ?', [
      sendId,
      productId,
      storeId,
      number,
    ]);
}

/** Products of a plan that are looked at in one go. */
const PAGE = 40;

/** The next listings of a send that were not looked at (for its plan), or not laid out (when it begins), of at most `most` products. */
export async function nextPage(
  ctx: Context,
  send: SendRow,
  which: 'looked' | 'laid',
  most: number,
  /** Stores whose listings wait until later. */
  without: readonly string[] = [],
): Promise<{
  looked: Looked[];
  /** Planned, and nothing to be sent of: all their colors are in other listings, which are looked at. */
  idle: readonly Item[];
  products: readonly Product[];
  stores: readonly Store[];
}> {
  // No store has this id: a list must not be empty.
  const passed = ['-', ...without];
  const open = `${which === 'looked' ? 'what IS NULL' : 'laid = FALSE'} AND store_id NOT IN (${passed.map(() => '?').join(',')})`;
  const items = await ctx.db.rows<Item>(
    `SELECT product_id AS productId, store_id AS storeId, number FROM send_item
     JOIN (SELECT DISTINCT product_id FROM send_item WHERE send_id = ? AND ${open} ORDER BY product_id LIMIT ?) p USING (product_id)
     WHERE send_id = ? AND ${open} ORDER BY number`,
    [send.id, ...passed, most, send.id, ...passed],
  );
  const ids = [...new Set(items.map(({ productId }) => productId))];
  const [products, stores] = await Promise.all([
    productsById(ctx.db, send.workspaceId, ids),
    listStores(ctx, send.workspaceId),
  ]);
  const standingIn = await standingsOf(ctx, send.workspaceId, products, stores, { designs: true });
  const here = new Map(products.map((product) => [product.id, product]));
  const connected = new Map(stores.map((store) => [store.id, store]));
  const wanted = which === 'looked' ? withOthers(items, here) : items;
  const idle = wanted.filter((item) => which === 'looked' && sellsNothing(item, here.get(item.productId)));
  const looked = wanted
    .filter((item) => !idle.includes(item))
    .map((item): Looked => {
      const [product, store] = [here.get(item.productId), connected.get(item.storeId)];
      const why = product ? storeStops(store, send) : 'It is no longer in the range.';
      const standing = standingIn(item.productId, item.storeId).find(({ number }) => number === item.number);
      if (why !== null || !store || !standing) return { ...item, changed: [], ...left(why ?? NOTHING_SOLD) };
      return { ...item, changed: standing.changed, ...sendStep(factsOf(standing, store), send.visibility) };
    });
  return { looked, idle, products, stores };
}

/** A listing for which a send did what it had to: with the job that brings it, where one does. */
export interface LaidOut extends Looked {
  readonly jobId: string | null;
}

const COLUMNS = ['what', 'changed', 'goes_live', 'reason'] as const;
const columnsOf = (one: Looked) => [
  one.what,
  JSON.stringify(one.what === 'changed' ? one.changed : []),
  one.goesLive,
  one.reason?.slice(0, REASON_MAX) ?? null,
];

/** Writes down what is to be done about listings. */
export const keepLooked = (ctx: Context, sendId: string, looked: readonly Looked[]): Promise<void> =>
  keepItems(
    ctx.db,
    COLUMNS,
    looked.map((one) => [sendId, one.productId, one.storeId, one.number, ...columnsOf(one)]),
  );

/** Writes down what was done about listings: they are not come back to. */
export const keepLaidOut = (db: Database, sendId: string, laid: readonly LaidOut[]): Promise<void> =>
  keepItems(
    db,
    [...COLUMNS, 'laid', 'job_id'],
    laid.map((one) => [sendId, one.productId, one.storeId, one.number, ...columnsOf(one), true, one.jobId]),
  );

const keepItems = (db: Database, columns: readonly string[], rows: Parameters<Database['insertMany']>[2]) =>
  db.insertMany(
    'send_item',
    ['send_id', 'product_id', 'store_id', 'number', ...columns],
    rows,
    `ON DUPLICATE KEY UPDATE ${columns.map((column) => `${column} = VALUE(${column})`).join(', ')}`,
  );

/** Looks at all listings of a send that were not looked at yet. */
export async function lookAtAll(ctx: Context, send: SendRow, control?: JobControl): Promise<number> {
  for (;;) {
    // Counted over all tries: whoever begins again after the program was stopped is further than before.
    const { all, looked: done } = await countItems(ctx, send.id);
    await control?.progress(done, all, `${done} of ${all} listings looked at`);
    const { looked, idle } = await nextPage(ctx, send, 'looked', PAGE);
    if (looked.length === 0) return done;
    await keepLooked(ctx, send.id, looked);
    await dropItems(ctx, send.id, idle);
    await emit(ctx.db, send.workspaceId, 'send', { sendId: send.id });
  }
}

/** The job that looks at a large plan. */
export async function lookAtSend(ctx: Context, control: JobControl): Promise<unknown> {
  const { workspaceId, payload } = control.job;
  return { looked: await lookAtAll(ctx, await findSend(ctx, workspaceId, String(payload.sendId)), control) };
}
