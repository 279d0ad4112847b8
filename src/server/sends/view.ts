import type { ChangedKind } from '@/core/sync/changed';
import type { SendStep } from '@/core/sync/send-step';
import type { Context } from '../context';
import type { JobState } from '../jobs/job-row';
import { loadRateTable } from '../rates/rates';
import { listingFeeMinor, listStores } from '../stores/stores';
import { haltedBy, type SendRow } from './send-row';

/** How many jobs of a send are where. */
export interface SendProgress {
  readonly done: number;
  readonly failed: number;
  readonly cancelled: number;
  readonly open: number;
  /** Done within the last minute: what the time left is told by. */
  readonly lastMinute: number;
}

/** What a send does in one store. */
export interface SendStoreView {
  readonly storeId: string;
  readonly name: string;
  readonly currency: string;
  readonly steps: { readonly [step in SendStep]?: number };
  /** How many of the changed ones changed in which kinds of fields. */
  readonly changed: { readonly [kind in ChangedKind]?: number };
  readonly goLive: number;
  /** What the store takes for each listing that goes on sale, minor units; 0 for nothing. */
  readonly feeMinor: number;
  readonly progress: SendProgress;
}

export interface SendView {
  readonly id: string;
  readonly state: SendRow['state'];
  readonly paused: boolean;
  readonly visibility: SendRow['visibility'];
  readonly by: string;
  readonly startsAt: Date | null;
  readonly begunAt: Date | null;
  readonly madeAt: Date;
  readonly total: number;
  /** Why no more of it goes out until it is tried again; null while it does. */
  readonly halted: string | null;
  /** How many were not looked at yet. */
  readonly unseen: number;
  readonly stores: readonly SendStoreView[];
}

interface StepRow {
  readonly storeId: string;
  readonly what: SendStep | null;
  readonly changed: string;
  readonly n: number;
  readonly live: number;
}

interface JobCount {
  readonly storeId: string;
  readonly state: JobState | null;
  readonly n: number;
  readonly lastMinute: number;
}

const add = <K extends string>(counts: { [key in K]?: number }, key: K, n: number) => {
  counts[key] = (counts[key] ?? 0) + n;
};

function stepsOf(rows: readonly StepRow[]) {
  const steps: { [step in SendStep]?: number } = {};
  const changed: { [kind in ChangedKind]?: number } = {};
  let goLive = 0;
  for (const row of rows) {
    if (row.what === null) continue;
    add(steps, row.what, Number(row.n));
    for (const kind of JSON.parse(row.changed) as ChangedKind[]) add(changed, kind, Number(row.n));
    goLive += Number(row.live);
  }
  return { steps, changed, goLive };
}

function progressOf(rows: readonly JobCount[]): SendProgress {
  const of = (...states: (JobState | null)[]) =>
    rows.filter(({ state }) => states.includes(state)).reduce((sum, { n }) => sum + Number(n), 0);
  return {
    // A job that was done long ago is no longer written down.
    done: of('done', null),
    failed: of('failed'),
    cancelled: of('cancelled'),
    open: of('waiting', 'queued', 'running'),
    lastMinute: rows.reduce((sum, { lastMinute }) => sum + Number(lastMinute), 0),
  };
}

export async function viewSend(ctx: Context, send: SendRow): Promise<SendView> {
  const [steps, jobs, stores, halted, rates] = await Promise.all([
    ctx.db.rows<StepRow>(
      'SELECT store_id AS storeId, what, changed, COUNT(*) AS n, SUM(goes_live) AS live FROM send_item WHERE send_id = ? GROUP BY store_id, what, changed',
      [send.id],
    ),
    ctx.db.rows<JobCount>(
      `SELECT i.store_id AS storeId, j.state, COUNT(*) AS n, SUM(COALESCE(j.state = 'done' AND j.finished_at > UTC_TIMESTAMP(3) - INTERVAL 60 SECOND, 0)) AS lastMinute
       FROM send_item i LEFT JOIN job j ON j.id = i.job_id WHERE i.send_id = ? AND i.job_id IS NOT NULL GROUP BY i.store_id, j.state`,
      [send.id],
    ),
    listStores(ctx, send.workspaceId),
    haltedBy(ctx, send),
    loadRateTable(ctx, send.workspaceId),
  ]);
  const count = (rows: readonly StepRow[]) => rows.reduce((sum, { n }) => sum + Number(n), 0);
  const { id, state, visibility, by, startsAt, begunAt, madeAt } = send;
  return {
    ...{ id, state, visibility, by, startsAt, begunAt, madeAt },
    paused: Boolean(send.paused),
    halted: halted && halted.says,
    total: count(steps),
    unseen: count(steps.filter(({ what }) => what === null)),
    stores: stores.flatMap((store) => {
      const own = steps.filter(({ storeId }) => storeId === store.id);
      if (own.length === 0) return [];
      return [
        {
          storeId: store.id,
          name: store.name,
          currency: store.currency,
          ...stepsOf(own),
          feeMinor: listingFeeMinor(ctx, store, rates),
          progress: progressOf(jobs.filter(({ storeId }) => storeId === store.id)),
        },
      ];
    }),
  };
}

/** One listing of a send. */
export interface SendItemView {
  readonly productId: string;
  readonly title: string;
  readonly storeId: string;
  /** Of the listings of the product in the store. */
  readonly number: number;
  readonly what: SendStep | null;
  readonly changed: readonly ChangedKind[];
  readonly reason: string | null;
  readonly jobState: JobState | null;
  /** What its job failed with, or waits for. */
  readonly trouble: string | null;
}

export const ITEMS_PAGE = 100;

/** Listings of a send, those that are not sent and those that failed first. */
export async function sendItems(ctx: Context, send: SendRow, from: number): Promise<SendItemView[]> {
  const rows = await ctx.db.rows<
    Omit<SendItemView, 'changed' | 'trouble'> & { changed: string; error: { message?: string } | null }
  >(
    `SELECT i.product_id AS productId, p.title, i.store_id AS storeId, i.number, i.what, i.changed, i.reason, j.state AS jobState, j.error
     FROM send_item i JOIN product p ON p.id = i.product_id LEFT JOIN job j ON j.id = i.job_id WHERE i.send_id = ?
     ORDER BY COALESCE(j.state = 'failed', FALSE) DESC, FIELD(COALESCE(i.what, ''), 'stopped', 'new', 'changed', 'shown', 'busy', 'unchanged', ''), p.title, i.product_id, i.store_id, i.number
     LIMIT ? OFFSET ?`,
    [send.id, ITEMS_PAGE, from],
  );
  return rows.map(({ changed, error, ...row }) => ({
    ...row,
    changed: JSON.parse(changed) as ChangedKind[],
    trouble: row.jobState === 'failed' || row.jobState === 'queued' ? (error?.message ?? null) : null,
  }));
}
