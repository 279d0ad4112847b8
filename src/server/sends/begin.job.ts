import { setImmediate as turn } from 'node:timers/promises';
import { isTypicaError, TypicaError } from '@/core/errors';
import { groupBy } from '@/core/group';
import type { Context } from '../context';
import { emit } from '../events/events';
import type { JobControl } from '../jobs/worker';
import { refuseDesign } from '../listings/listings';
import { MAX_SENDS_AT_ONCE, refuseUnfit, writeSends, type AskedSend } from '../listings/request-send';
import { loadBundles, type ProductBundle } from '../products/bundle';
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
/** Listings after which what is ready is written down: a few statements for all of them. At first each product by itself, so that sending begins. */
const [TOGETHER, FIRST_TOGETHER] = [16, 1];

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
    const by = String(payload.by ?? send.by);
    await layOutPage(ctx, send, { ...next, looked: free }, { by, together: page === 0 ? FIRST_TOGETHER : TOGETHER });
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
  { by, together }: { readonly by: string; readonly together: number },
): Promise<void> {
  const wanted = new Set(looked.filter(({ what }) => SENDS.has(what)).map(({ productId }) => productId));
  const bundles = await loadBundles(
    ctx,
    send.workspaceId,
    products.filter(({ id }) => wanted.has(id)),
  );
  const [bundleOf, storeOf] = [
    new Map(bundles.map((bundle) => [bundle.product.id, bundle])),
    new Map(stores.map((store) => [store.id, store])),
  ];
  let ready: Ready[] = [];
  for (const own of groupBy(looked, ({ productId }) => productId).values()) {
    ready.push(...(await readyOnes(ctx, own, bundleOf.get(own[0]!.productId), storeOf)));
    if (ready.length < together) continue;
    await writeTogether(ctx, send, ready, by);
    ready = [];
  }
  await writeTogether(ctx, send, ready, by);
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

/** Listings of one product; what stands in the way of one is the reason why it is not sent. */
async function readyOnes(
  ctx: Context,
  own: readonly Looked[],
  bundle: ProductBundle | undefined,
  storeOf: ReadonlyMap<string, Store>,
): Promise<Ready[]> {
  let design: Promise<void> | null = null;
  const ready: Ready[] = [];
  for (const one of own) {
    const store = storeOf.get(one.storeId);
    if (!SENDS.has(one.what) || !bundle || !store) {
      ready.push({ laid: one, asked: null });
      continue;
    }
    // Each takes some ms, in which nothing else goes on here: listings that are on their way come between.
    await turn();
    try {
      refuseUnfit(ctx, bundle, store, one);
      await (design ??= refuseDesign(ctx, bundle));
      const { number, visibility } = one;
      ready.push({ laid: one, asked: { product: bundle.product, store, number, visibility } });
    } catch (error) {
      if (!isTypicaError(error) || !error.visible || error.kind !== 'invalid') throw error;
      ready.push({ laid: { ...one, what: 'stopped', goesLive: false, reason: error.message }, asked: null });
    }
  }
  return ready;
}

/** Writes the jobs down, and that they were. */
async function writeTogether(ctx: Context, send: SendRow, ready: readonly Ready[], by: string): Promise<void> {
  for (let i = 0; i < ready.length; i += MAX_SENDS_AT_ONCE) {
    const part = ready.slice(i, i + MAX_SENDS_AT_ONCE);
    const asked = part.flatMap((one) => (one.asked ? [one.asked] : []));
    await refuseOver(ctx, send.workspaceId, 'jobs', asked.length);
    await ctx.pools.transaction(async (db) => {
      const jobs = (await writeSends(db, send.workspaceId, asked, { by, groupId: send.groupId })).values();
      const laid = part.map((one): LaidOut => ({
        ...one.laid,
        jobId: one.asked ? jobs.next().value!.jobId : null,
      }));
      await keepLaidOut(db, send.id, laid);
    });
  }
}
