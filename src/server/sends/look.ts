import type { SyncState } from '@/core/sync/state';
import { sendStep, type SendDecision } from '@/core/sync/send-step';
import type { Context } from '../context';
import { emit } from '../events/events';
import type { JobControl } from '../jobs/worker';
import { standingsOf } from '../outcomes/read';
import { productsById, type Product } from '../products/products';
import { listStores, sendsAs, type Store } from '../stores/stores';
import { countItems, findSend, type SendRow } from './send-row';

/** Products that are looked at in one go. */
const PAGE = 40;

/** One listing of a send, looked at just now. */
export interface Looked extends SendDecision {
  readonly productId: string;
  readonly storeId: string;
  readonly changed: readonly string[];
}

const left = (reason: string): SendDecision => ({ what: 'stopped', visibility: 'draft', goesLive: false, reason });
const REASON_MAX = 500;

/** The next listings of a send that were not looked at (for its plan), or not laid out (when it begins), by product. */
export async function nextPage(
  ctx: Context,
  send: SendRow,
  which: 'looked' | 'laid',
): Promise<{ looked: Looked[]; products: readonly Product[]; stores: readonly Store[] }> {
  const open = which === 'looked' ? 'what IS NULL' : 'laid = FALSE';
  const items = await ctx.db.rows<{ productId: string; storeId: string }>(
    `SELECT i.product_id AS productId, i.store_id AS storeId FROM send_item i
     JOIN (SELECT DISTINCT product_id FROM send_item WHERE send_id = ? AND ${open} ORDER BY product_id LIMIT ${PAGE}) p ON p.product_id = i.product_id
     WHERE i.send_id = ? AND i.${open}`,
    [send.id, send.id],
  );
  const ids = [...new Set(items.map(({ productId }) => productId))];
  const [products, stores] = await Promise.all([
    productsById(ctx.db, send.workspaceId, ids),
    listStores(ctx, send.workspaceId),
  ]);
  const standingIn = await standingsOf(ctx, send.workspaceId, products, stores, { designs: true });
  const here = new Set(products.map(({ id }) => id));
  const connected = new Map(stores.map((store) => [store.id, store]));
  const looked = items.map(({ productId, storeId }): Looked => {
    const store = connected.get(storeId);
    if (!here.has(productId)) return { productId, storeId, changed: [], ...left('It is no longer in the range.') };
    if (store?.state !== 'connected')
      return {
        productId,
        storeId,
        changed: [],
        ...left('Its store is not connected just now: connect it again first.'),
      };
    if (store.pausedAt && send.visibility === 'live')
      return { productId, storeId, changed: [], ...left('Its store is paused: end the pause first.') };
    const { state, broken, changed, listing } = standingIn(productId, storeId);
    const facts = {
      state: state as SyncState,
      broken: broken[0] ? [broken[0].says, broken[0].mend].filter(Boolean).join(' ') : null,
      visibility: listing?.externalId ? listing.visibility : null,
      newAs: store.pausedAt ? ('draft' as const) : sendsAs(store),
    };
    return { productId, storeId, changed, ...sendStep(facts, send.visibility) };
  });
  return { looked, products, stores };
}

/** Writes down what is to be done about listings. */
export async function keepLooked(ctx: Context, sendId: string, looked: readonly Looked[]): Promise<void> {
  await ctx.db.insertMany(
    'send_item',
    ['send_id', 'product_id', 'store_id', 'what', 'changed', 'goes_live', 'reason'],
    looked.map((one) => [
      sendId,
      one.productId,
      one.storeId,
      one.what,
      JSON.stringify(one.what === 'changed' ? one.changed : []),
      one.goesLive,
      one.reason?.slice(0, REASON_MAX) ?? null,
    ]),
    'ON DUPLICATE KEY UPDATE what = VALUE(what), changed = VALUE(changed), goes_live = VALUE(goes_live), reason = VALUE(reason)',
  );
}

/** Looks at all listings of a send that were not looked at yet. */
export async function lookAtAll(ctx: Context, send: SendRow, control?: JobControl): Promise<number> {
  for (;;) {
    // Counted over all tries: whoever begins again after the program was stopped is further than before.
    const { all, looked: done } = await countItems(ctx, send.id);
    await control?.progress(done, all, `${done} of ${all} listings looked at`);
    const { looked } = await nextPage(ctx, send, 'looked');
    if (looked.length === 0) return done;
    await keepLooked(ctx, send.id, looked);
    await emit(ctx.db, send.workspaceId, 'send', { sendId: send.id });
  }
}

/** The job that looks at a large plan. */
export async function lookAtSend(ctx: Context, control: JobControl): Promise<unknown> {
  const { workspaceId, payload } = control.job;
  return { looked: await lookAtAll(ctx, await findSend(ctx, workspaceId, String(payload.sendId)), control) };
}
