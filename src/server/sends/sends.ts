import { conflict, invalid, isTypicaError, notFound } from '@/core/errors';
import type { WantedVisibility } from '@/core/sync/send-step';
import { note } from '../activity/note';
import type { Context } from '../context';
import { newId } from '../db/ids';
import type { Database, Value } from '../db/pool';
import { emit } from '../events/events';
import { cancelJob, createGroup, enqueue, retryJob } from '../jobs/jobs';
import type { Actor } from '../people/people';
import { askedNow, foundInRange } from '../range/found';
import { readFilter } from '../range/query';
import { listStores } from '../stores/stores';
import { lookAtAll } from './look';
import { findSend, haltedBy, holdJobs, OPEN_JOBS, type SendRow } from './send-row';

/** Which listings: pairs one by one, products in stores, or whatever a search finds in stores. */
export interface SendSelection {
  readonly listings?: readonly { readonly productId: string; readonly storeId: string }[];
  readonly productIds?: readonly string[];
  /** The parameters of an address of the range. */
  readonly found?: { readonly query: string };
  readonly storeIds?: readonly string[];
}

/** Listings in one send. */
const MAX_LISTINGS = 100_000;
/** So many are looked at before the plan is answered; more by a job. */
const AT_ONCE = 200;

const marksOf = (ids: readonly unknown[]) => ids.map(() => '?').join(',');

const tooMany = () =>
  invalid('send-too-many', `One send takes up to ${MAX_LISTINGS} listings; select fewer products or stores.`);

async function insertItems(db: Database, workspaceId: string, sendId: string, selection: SendSelection): Promise<void> {
  const { listings, productIds, found, storeIds = [] } = selection;
  if (listings) {
    const known = await db.rows<{ id: string }>(
      `SELECT id FROM product WHERE workspace_id = ? AND archived_at IS NULL AND id IN (${marksOf(listings)})`,
      [workspaceId, ...listings.map(({ productId }) => productId)],
    );
    const ids = new Set(known.map(({ id }) => id));
    await db.insertMany(
      'send_item',
      ['send_id', 'product_id', 'store_id'],
      listings.filter(({ productId }) => ids.has(productId)).map((one) => [sendId, one.productId, one.storeId]),
      'ON DUPLICATE KEY UPDATE laid = laid',
    );
    return;
  }
  const { where, values }: { where: string; values: Value[] } = found
    ? foundInRange(await askedNow(db, workspaceId, readFilter(new URLSearchParams(found.query))))
    : {
        where: `workspace_id = ? AND archived_at IS NULL AND id IN (${marksOf(productIds!)})`,
        values: [workspaceId, ...productIds!],
      };
  let n = 0;
  for (const storeId of storeIds) {
    const { affectedRows } = await db.run(
      `INSERT IGNORE INTO send_item (send_id, product_id, store_id) SELECT ?, id, ? FROM product WHERE ${where} LIMIT ${MAX_LISTINGS + 1}`,
      [sendId, storeId, ...values],
    );
    n += affectedRows;
    if (n > MAX_LISTINGS) throw tooMany();
  }
}

function refuseSelection({ listings, productIds, found, storeIds }: SendSelection): void {
  const ways = [listings, productIds, found].filter((one) => one !== undefined).length;
  if (ways !== 1)
    throw invalid(
      'send-selection',
      'Say which listings in one way: listings, or productIds with storeIds, or found with storeIds.',
    );
  const size = listings?.length ?? productIds?.length ?? 1;
  if (size === 0 || (!listings && !storeIds?.length))
    throw invalid('send-empty', 'Nothing is selected: name at least one product and one store.');
}

/** Plans a send: nothing is sent yet. Throws `send-selection`, `send-empty`, `send-too-many`, `not-found` for a store. */
export async function planSend(
  ctx: Context,
  actor: Actor,
  selection: SendSelection,
  visibility: WantedVisibility,
): Promise<string> {
  refuseSelection(selection);
  const stores = new Set((await listStores(ctx, actor.workspaceId)).map(({ id }) => id));
  const named = selection.listings?.map(({ storeId }) => storeId) ?? selection.storeIds ?? [];
  const unknown = named.find((id) => !stores.has(id));
  if (unknown !== undefined) throw notFound('connected store', unknown);
  const id = newId('d');
  const count = await ctx.pools.transaction(async (db) => {
    const groupId = await createGroup(db, actor.workspaceId, 'Send many');
    await db.run('INSERT INTO send (id, workspace_id, person_id, group_id, visibility) VALUES (?, ?, ?, ?, ?)', [
      id,
      actor.workspaceId,
      actor.personId,
      groupId,
      visibility,
    ]);
    await insertItems(db, actor.workspaceId, id, selection);
    const row = await db.row<{ n: number }>('SELECT COUNT(*) AS n FROM send_item WHERE send_id = ?', [id]);
    const n = Number(row!.n);
    if (n === 0) throw invalid('send-empty', 'None of these products is in the range; nothing was planned.');
    if (n > AT_ONCE) await enqueueLook(db, { id, groupId, workspaceId: actor.workspaceId });
    return n;
  });
  if (count <= AT_ONCE) await lookAtAll(ctx, await findSend(ctx, actor.workspaceId, id));
  return id;
}

const enqueueLook = (db: Database, { id, groupId, workspaceId }: Pick<SendRow, 'id' | 'groupId' | 'workspaceId'>) =>
  enqueue(db, {
    workspaceId,
    kind: 'look-at-send',
    title: 'Look at what would be sent',
    payload: { sendId: id },
    subject: `send:${id}`,
    groupId,
    priority: 7,
  });

const MAX_DAYS_AHEAD = 366;

/** Begins a planned send, now or at a moment to come. Throws `send-begun`, `send-too-far`. */
export async function beginSend(ctx: Context, send: SendRow, at: Date | null): Promise<void> {
  if (at && at.getTime() > ctx.clock.now().getTime() + MAX_DAYS_AHEAD * 86_400_000)
    throw invalid('send-too-far', 'A send begins within a year from now; choose an earlier moment.');
  await ctx.pools.transaction(async (db) => {
    const { affectedRows } = await db.run(
      "UPDATE send SET state = 'begun', starts_at = ?, begun_at = UTC_TIMESTAMP(3) WHERE id = ? AND state = 'planned'",
      [at, send.id],
    );
    if (affectedRows === 0)
      throw conflict('send-begun', 'This was begun already, or stopped; make a new plan to send again.');
    await enqueue(db, {
      workspaceId: send.workspaceId,
      kind: 'begin-send',
      title: 'Send many listings',
      payload: { sendId: send.id, by: send.by },
      subject: `send:${send.id}`,
      groupId: send.groupId,
      priority: 6,
      maxAttempts: 8,
      ...(at ? { notBefore: at } : {}),
    });
    const says = at
      ? `Planned a send of many for ${at.toISOString().slice(0, 16).replace('T', ', ')} UTC.`
      : 'Began a send of many.';
    await note(db, { workspaceId: send.workspaceId, personName: send.by }, { about: 'send', what: 'begun', says });
    await emit(db, send.workspaceId, 'send', { sendId: send.id });
  });
}

/** Holds what of a send has not begun, or lets it go on. What a worker has begun is finished. Throws `send-ended`. */
export async function holdSend(ctx: Context, send: SendRow, held: boolean): Promise<void> {
  await ctx.pools.transaction(async (db) => {
    const { affectedRows } = await db.run("UPDATE send SET paused = ? WHERE id = ? AND state IN ('begun', 'laid')", [
      held,
      send.id,
    ]);
    if (affectedRows === 0)
      throw conflict('send-ended', 'This has not begun, or was stopped; there is nothing to pause or resume.');
    await holdJobs(db, send.groupId, held);
    await emit(db, send.workspaceId, 'send', { sendId: send.id });
  });
}

/** Stops a send: what was sent stays, what is being sent ends at its next step. */
export async function stopSend(ctx: Context, send: SendRow, by: string): Promise<void> {
  const { affectedRows } = await ctx.db.run(
    "UPDATE send SET state = 'stopped', paused = FALSE WHERE id = ? AND state <> 'stopped'",
    [send.id],
  );
  if (affectedRows === 0) throw conflict('send-ended', 'This was stopped already.');
  const jobs = await ctx.db.rows<{ id: string }>(`SELECT id FROM job WHERE group_id = ? AND ${OPEN_JOBS}`, [
    send.groupId,
  ]);
  for (const { id } of jobs) await cancelJob(ctx, send.workspaceId, id);
  const doer = { workspaceId: send.workspaceId, personName: by };
  await note(ctx.db, doer, { about: 'send', what: 'stopped', says: 'Stopped a send of many.' });
  await emit(ctx.db, send.workspaceId, 'send', { sendId: send.id });
}

/** One whose listing another job carries by now needs no second try. */
async function retryUnlessUnderWay(ctx: Context, workspaceId: string, jobId: string): Promise<boolean> {
  try {
    return await retryJob(ctx, workspaceId, jobId);
  } catch (error) {
    if (isTypicaError(error, 'job-under-way')) return false;
    throw error;
  }
}

/** Failed listings that are tried again at once; asking once more takes the next. */
const RETRIED_AT_ONCE = 200;

/** Tries again what failed. Gives how many, and how many are left. */
export async function retrySend(ctx: Context, send: SendRow): Promise<{ retried: number; left: number }> {
  const failed = await ctx.db.rows<{ id: string }>(
    "SELECT j.id FROM send_item i JOIN job j ON j.id = i.job_id WHERE i.send_id = ? AND j.state = 'failed'",
    [send.id],
  );
  let retried = 0;
  const halted = await haltedBy(ctx, send);
  if (halted && (await retryUnlessUnderWay(ctx, send.workspaceId, halted.jobId))) retried += 1;
  for (const { id } of failed.slice(0, RETRIED_AT_ONCE))
    if (await retryUnlessUnderWay(ctx, send.workspaceId, id)) retried += 1;
  await emit(ctx.db, send.workspaceId, 'send', { sendId: send.id });
  return { retried, left: Math.max(0, failed.length - RETRIED_AT_ONCE) };
}
