import { isTypicaError, TypicaError } from '@/core/errors';
import type { Context } from '../context';
import { emit } from '../events/events';
import type { JobControl } from '../jobs/worker';
import { MAX_SENDS_AT_ONCE, refusePaused, writeSends, type AskedSend } from '../listings/request-send';
import type { Product } from '../products/products';
import { refuseOver } from '../quotas/quotas';
import { channelOf, type Store } from '../stores/stores';
import { keepLaidOut, nextPage, type LaidOut, type Looked } from './look';
import { countItems, findSend, holdJobs, type SendRow } from './send-row';

/**
 * Jobs of a send that are open at once for one store: more are written down as these are done. So a store's queue stays short, one whose shop is slow holds
 * up no other, and what is looked at in a large send is spread over it. A shop that takes files of rows has two of them ready.
 */
const MAX_OPEN = 60;
const FILES_READY = 2;
const LATER_MS = 1000;
/** Products that are looked at in one go, and at first: shops have something to do while the rest is looked at. */
const [PAGE, FIRST_PAGE] = [40, 4];
const later = () =>
  new TypicaError('unavailable', 'send-going-on', 'The next listings follow as earlier ones are done.', {
    retryAfterMs: LATER_MS,
    costsNoTry: true,
  });

const SENDS: ReadonlySet<Looked['what']> = new Set(['new', 'changed', 'shown']);

/**
 * Writes down the jobs of a send, page by page, and with them that they were. Each listing is looked at anew: between the plan and now it can
 * have changed.
 */
export async function layOutSend(ctx: Context, control: JobControl): Promise<unknown> {
  const { workspaceId, payload } = control.job;
  for (let page = 0; ; page += 1) {
    // Counted over all tries: whoever begins again after the program was stopped is further than before.
    const { all, laid } = await countItems(ctx, String(payload.sendId));
    await control.progress(laid, all, `${laid} of ${all} listings are on their way`);
    const send = await findSend(ctx, workspaceId, String(payload.sendId));
    if (send.state === 'stopped') return { laid };
    if (send.paused) throw later();
    if (laid === all) {
      await ctx.db.run("UPDATE send SET state = 'laid' WHERE id = ? AND state = 'begun'", [send.id]);
      await emit(ctx.db, workspaceId, 'send', { sendId: send.id });
      return { laid };
    }
    const next = await nextPage(ctx, send, 'laid', page === 0 ? FIRST_PAGE : PAGE, await fullStores(ctx, send));
    if (next.looked.length === 0) throw later();
    // What an earlier job carries just now may be older than the product: it is decided when that has ended.
    const free = next.looked.filter(({ what }) => what !== 'busy');
    if (free.length === 0 && page > 0) throw later();
    await layOutPage(ctx, send, { ...next, looked: free }, String(payload.by ?? send.by));
  }
}

/** Stores for which enough is open. */
async function fullStores(ctx: Context, { groupId, workspaceId }: SendRow): Promise<string[]> {
  const open = await ctx.db.rows<{ id: string; channel: string; n: number }>(
    `SELECT s.id, s.channel, COUNT(*) AS n FROM job j JOIN store s ON s.id = j.store_id
     WHERE j.group_id = ? AND j.kind = 'send-listing' AND j.state IN ('waiting', 'queued', 'running') AND s.workspace_id = ? GROUP BY s.id, s.channel`,
    [groupId, workspaceId],
  );
  return open.flatMap(({ id, channel, n }) => {
    const rowsMax = channelOf(ctx, channel).about.batches?.rowsMax ?? 0;
    return Number(n) >= Math.max(MAX_OPEN, FILES_READY * rowsMax) ? [id] : [];
  });
}

async function layOutPage(
  ctx: Context,
  send: SendRow,
  { looked, products, stores }: Awaited<ReturnType<typeof nextPage>>,
  by: string,
): Promise<void> {
  const [productOf, storeOf] = [
    new Map(products.map((product) => [product.id, product])),
    new Map(stores.map((store) => [store.id, store])),
  ];
  const ready = looked.map((one) => readyOne(one, productOf.get(one.productId), storeOf.get(one.storeId)));
  for (let i = 0; i < ready.length; i += MAX_SENDS_AT_ONCE)
    await writeTogether(ctx, send, ready.slice(i, i + MAX_SENDS_AT_ONCE), by);
  // A pause that came meanwhile holds these too.
  const now = await findSend(ctx, send.workspaceId, send.id);
  if (now.paused) await holdJobs(ctx.db, send.groupId, true);
  await emit(ctx.db, send.workspaceId, 'send', { sendId: send.id });
}

/** A listing as it will be noted, and what is asked for it; nothing where it is not sent. */
interface Ready {
  readonly laid: Looked;
  readonly asked: AskedSend | null;
}

/** Its rules and its design were just looked at with its standing; the job that brings it looks at the rules once more. */
function readyOne(laid: Looked, product: Product | undefined, store: Store | undefined): Ready {
  if (!SENDS.has(laid.what) || !product || !store) return { laid, asked: null };
  const { number, visibility } = laid;
  try {
    refusePaused(store, visibility);
    return { laid, asked: { product, store, number, visibility } };
  } catch (error) {
    if (!isTypicaError(error, 'store-paused')) throw error;
    return { laid: { ...laid, what: 'stopped', goesLive: false, reason: error.message }, asked: null };
  }
}

/** Writes the jobs down, and that they were. */
async function writeTogether(ctx: Context, send: SendRow, ready: readonly Ready[], by: string): Promise<void> {
  const asked = ready.flatMap((one) => (one.asked ? [one.asked] : []));
  await refuseOver(ctx, send.workspaceId, 'jobs', asked.length);
  await ctx.pools.transaction(async (db) => {
    const jobs = (await writeSends(db, send.workspaceId, asked, { by, groupId: send.groupId })).values();
    const laid = ready.map((one): LaidOut => ({ ...one.laid, jobId: one.asked ? jobs.next().value!.jobId : null }));
    await keepLaidOut(db, send.id, laid);
  });
}
