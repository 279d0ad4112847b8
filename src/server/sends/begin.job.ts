import PQueue from 'p-queue';
import { isTypicaError, TypicaError } from '@/core/errors';
import { groupBy } from '@/core/group';
import type { Context } from '../context';
import { emit } from '../events/events';
import type { JobControl } from '../jobs/worker';
import { refuseDesign, requestSend } from '../listings/listings';
import { loadBundles, type ProductBundle } from '../products/bundle';
import type { Store } from '../stores/stores';
import { keepLaidOut, nextPage, type LaidOut, type Looked } from './look';
import { countItems, findSend, holdJobs, type SendRow } from './send-row';

/** Jobs of a send that wait at once: more are written down as these are done, so that a store's queue stays short. */
const MAX_OPEN = 600;
const LATER_MS = 2000;
/** Products that are looked at in one go, and at first: shops have something to do while the rest is looked at. */
const [PAGE, FIRST_PAGE] = [40, 4];
/** Listings of a product that are written down at a time. */
const AT_ONCE = 5;

const later = () =>
  new TypicaError('unavailable', 'send-going-on', 'The next listings follow as earlier ones are done.', {
    retryAfterMs: LATER_MS,
    costsNoTry: true,
  });

const SENDS: ReadonlySet<Looked['what']> = new Set(['new', 'changed', 'shown']);

/**
 * Writes down the jobs of a send, page by page. Each listing is looked at anew: between the plan and now it can have changed. A page that
 * was written down and not noted is written down again without harm: of a listing one job waits.
 */
export async function layOutSend(ctx: Context, control: JobControl): Promise<unknown> {
  const { workspaceId, payload } = control.job;
  for (let page = 0; ; page += 1) {
    // Counted over all tries: whoever begins again after the program was stopped is further than before.
    const { all, laid } = await countItems(ctx, String(payload.sendId));
    await control.progress(laid, all, `${laid} of ${all} listings are on their way`);
    const send = await findSend(ctx, workspaceId, String(payload.sendId));
    if (send.state === 'stopped') return { laid };
    if (send.paused || (await openJobs(ctx, send)) >= MAX_OPEN) throw later();
    const next = await nextPage(ctx, send, 'laid', page === 0 ? FIRST_PAGE : PAGE);
    if (next.looked.length === 0) {
      await ctx.db.run("UPDATE send SET state = 'laid' WHERE id = ? AND state = 'begun'", [send.id]);
      await emit(ctx.db, workspaceId, 'send', { sendId: send.id });
      return { laid };
    }
    // What an earlier job carries just now may be older than the product: it is decided when that has ended.
    const free = next.looked.filter(({ what }) => what !== 'busy');
    if (free.length === 0 && page > 0) throw later();
    await layOutPage(ctx, send, { ...next, looked: free }, String(payload.by ?? send.by));
  }
}

async function openJobs(ctx: Context, { groupId }: SendRow): Promise<number> {
  const row = await ctx.db.row<{ n: number }>(
    "SELECT COUNT(*) AS n FROM job WHERE group_id = ? AND kind = 'send-listing' AND state IN ('waiting', 'queued', 'running')",
    [groupId],
  );
  return Number(row!.n);
}

async function layOutPage(
  ctx: Context,
  send: SendRow,
  { looked, products, stores }: Awaited<ReturnType<typeof nextPage>>,
  by: string,
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
  const atOnce = new PQueue({ concurrency: AT_ONCE });
  // Noted product by product: what was written down and not noted is written down again.
  for (const own of groupBy(looked, ({ productId }) => productId).values()) {
    const bundle = bundleOf.get(own[0]!.productId);
    let design: Promise<void> | null = null;
    const mayBeSold = () => (design ??= refuseDesign(ctx, bundle!));
    const layOut = async (one: Looked): Promise<LaidOut> => {
      const store = storeOf.get(one.storeId);
      const isSent = SENDS.has(one.what) && bundle && store;
      return isSent ? ask(ctx, send, one, { bundle, mayBeSold }, store, by) : { ...one, jobId: null };
    };
    await keepLaidOut(ctx, send.id, await atOnce.addAll(own.map((one) => () => layOut(one))));
  }
  // A pause that came meanwhile holds these too.
  const now = await findSend(ctx, send.workspaceId, send.id);
  if (now.paused) await holdJobs(ctx.db, send.groupId, true);
  await emit(ctx.db, send.workspaceId, 'send', { sendId: send.id });
}

/** Asks for one listing to be sent; what stands in its way is the reason why it is not. */
async function ask(
  ctx: Context,
  send: SendRow,
  one: Looked,
  { bundle, mayBeSold }: { readonly bundle: ProductBundle; readonly mayBeSold: () => Promise<void> },
  store: Store,
  by: string,
): Promise<LaidOut> {
  try {
    const { number, visibility } = one;
    const { jobId } = await requestSend(ctx, bundle, store, visibility, {
      by,
      groupId: send.groupId,
      number,
      mayBeSold,
    });
    return { ...one, jobId };
  } catch (error) {
    if (!isTypicaError(error) || !error.visible || error.kind !== 'invalid') throw error;
    return { ...one, what: 'stopped', goesLive: false, reason: error.message, jobId: null };
  }
}
