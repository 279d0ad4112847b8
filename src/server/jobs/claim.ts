import type { Context } from '../context';
import { isDuplicate } from '../db/errors';
import { newId } from '../db/ids';
import type { Database } from '../db/pool';
import { emit } from '../events/events';
import { settleDependents } from './dependents';
import { JOB_COLUMNS, type JobRow } from './job-row';
import { LEASE_SECONDS, type Lease } from './lease';

export interface ClaimLimits {
  /** Workspaces whose turn it is not, whatever waits for them. */
  readonly passOver?: readonly string[];
  /** Stores for which enough runs here. */
  readonly passStores?: readonly string[];
  /** Whether to look for what a worker left that died; true when absent. */
  readonly left?: boolean;
}

interface Queue {
  readonly workspaceId: string;
  readonly storeId: string;
}

/** Queues that are looked into before giving up for this time: others may hold the first ones. */
const QUEUES_TRIED = 8;

/**
 * Whether nothing of a job's subject runs: a select of its own, in which nothing is locked. Written with a limit, not as NOT EXISTS: that would be
 * made into a table of all jobs that run, whatever is asked of it.
 */
const SUBJECT_FREE = (job: string): string =>
  `(SELECT 1 FROM job other WHERE other.workspace_id = ${job}.workspace_id AND other.running_subject = ${job}.subject LIMIT 1) IS NULL`;

/**
 * Queues with something to do, in turn: workspaces with the fewest jobs running first, then the one that has waited longest for its turn, and in
 * it the store that has waited longest.
 */
const QUEUES = (kinds: string, passedOver: string, passedStores: string): string => `
  SELECT t.workspace_id AS workspaceId, t.store_id AS storeId FROM job_turn t
  JOIN (SELECT workspace_id, MAX(turn_at) AS turn_at FROM job_turn GROUP BY workspace_id) w ON w.workspace_id = t.workspace_id
  LEFT JOIN (SELECT workspace_id, COUNT(*) AS n FROM job WHERE state = 'running' AND lease_until >= UTC_TIMESTAMP(3) GROUP BY workspace_id) r
    ON r.workspace_id = t.workspace_id
  WHERE t.workspace_id NOT IN (${passedOver}) AND t.store_id NOT IN (${passedStores}) AND (
    SELECT 1 FROM job j FORCE INDEX (job_ready) WHERE j.state = 'queued' AND j.held = FALSE AND j.workspace_id = t.workspace_id AND j.queue_store = t.store_id
      AND j.run_after <= UTC_TIMESTAMP(3) AND j.kind IN (${kinds}) AND ${SUBJECT_FREE('j')} LIMIT 1) IS NOT NULL
  ORDER BY COALESCE(r.n, 0), w.turn_at, t.turn_at LIMIT ${QUEUES_TRIED}`;

const marksOf = (values: readonly string[]): string => values.map(() => '?').join(',');

async function findQueued(
  db: Database,
  kinds: readonly string[],
  { passOver = [], passStores = [] }: ClaimLimits,
): Promise<{ readonly id: string } | null> {
  const marks = marksOf(kinds);
  // No workspace and no store has these names: a list must not be empty.
  const [passedOver, passedStores] = [
    ['', ...passOver],
    ['-', ...passStores],
  ];
  const queues = await db.rows<Queue>(QUEUES(marks, marksOf(passedOver), marksOf(passedStores)), [
    ...passedOver,
    ...passedStores,
    ...kinds,
  ]);
  for (const { workspaceId, storeId } of queues) {
    const found = await db.row<{ id: string }>(
      `SELECT id FROM job FORCE INDEX (job_next) WHERE state = 'queued' AND held = FALSE AND workspace_id = ? AND queue_store = ? AND run_after <= UTC_TIMESTAMP(3) AND kind IN (${marks})
         AND ${SUBJECT_FREE('job')}
       ORDER BY priority DESC, run_after, id LIMIT 1 FOR UPDATE SKIP LOCKED`,
      [workspaceId, storeId, ...kinds],
    );
    if (!found) continue;
    await db.run('UPDATE job_turn SET turn_at = UTC_TIMESTAMP(3) WHERE workspace_id = ? AND store_id = ?', [
      workspaceId,
      storeId,
    ]);
    return found;
  }
  return null;
}

interface Found {
  readonly id: string;
  /** Whether it is taken from a worker that died or was stopped. */
  readonly left: boolean;
}

/**
 * A running job whose lease has run out: its worker died or was stopped. It had its turn already, so that it does not wait for another. One that
 * loses its worker over and over without having come further is given up by `giveUpLost`.
 */
const findLeft = (db: Database, kinds: readonly string[], { passOver = [] }: ClaimLimits) => {
  const passedOver = ['', ...passOver];
  return db.row<{ id: string }>(
    `SELECT id FROM job WHERE state = 'running' AND lease_until < UTC_TIMESTAMP(3) AND lost < GREATEST(max_attempts, 3)
       AND kind IN (${kinds.map(() => '?').join(',')}) AND workspace_id NOT IN (${passedOver.map(() => '?').join(',')})
     ORDER BY lease_until LIMIT 1 FOR UPDATE SKIP LOCKED`,
    [...kinds, ...passedOver],
  );
};

async function find(db: Database, kinds: readonly string[], limits: ClaimLimits): Promise<Found | null> {
  const left = limits.left === false ? null : await findLeft(db, kinds, limits);
  if (left) return { id: left.id, left: true };
  const queued = await findQueued(db, kinds, limits);
  return queued && { id: queued.id, left: false };
}

/**
 * Takes the next job for this worker, or null: what a worker left first, then in turn by workspace, then by store, then by priority. `FOR UPDATE
 * SKIP LOCKED` lets workers pass each other's rows; the row is held only until its lease is written. A try that lost its worker goes on as the
 * same try.
 */
export async function claim(ctx: Context, kinds: readonly string[], limits: ClaimLimits = {}): Promise<Lease | null> {
  try {
    return await ctx.pools.transaction(async (db) => {
      const found = await find(db, kinds, limits);
      if (!found) return null;
      const token = newId('lease-').slice(0, 22);
      await db.run(
        found.left
          ? `UPDATE job SET lease_token = ?, lease_until = UTC_TIMESTAMP(3) + INTERVAL ? SECOND,
               lost = IF(progress_done > lost_at_progress, 1, lost + 1), lost_at_progress = progress_done WHERE id = ?`
          : `UPDATE job SET state = 'running', lease_token = ?, lease_until = UTC_TIMESTAMP(3) + INTERVAL ? SECOND,
               attempts = attempts + 1 WHERE id = ?`,
        [token, LEASE_SECONDS, found.id],
      );
      const job = await db.row<JobRow>(`SELECT ${JOB_COLUMNS} FROM job WHERE id = ?`, [found.id]);
      await emit(db, job!.workspaceId, 'job', { jobId: found.id });
      return { job: job!, token };
    });
  } catch (error) {
    // Another worker began with the same subject in the same moment.
    if (isDuplicate(error)) return null;
    throw error;
  }
}

const KILLS_ITS_WORKER = {
  code: 'job-kills-worker',
  message:
    'The program that does this stopped in the middle, over and over at the same place. It is written to the log; try it again, or change what it works on.',
  fields: {},
};

/** Gives up jobs that lose their worker over and over without having come further. */
export async function giveUpLost(ctx: Context): Promise<void> {
  const rows = await ctx.db.rows<{ id: string; workspaceId: string }>(
    "SELECT id, workspace_id AS workspaceId FROM job WHERE state = 'running' AND lease_until < UTC_TIMESTAMP(3) AND lost >= GREATEST(max_attempts, 3) LIMIT 100",
  );
  for (const { id, workspaceId } of rows)
    await ctx.pools.transaction(async (db) => {
      const { affectedRows } = await db.run(
        `UPDATE job SET state = 'failed', error = ?, lease_token = NULL, lease_until = NULL, finished_at = UTC_TIMESTAMP(3)
         WHERE id = ? AND state = 'running' AND lease_until < UTC_TIMESTAMP(3)`,
        [JSON.stringify(KILLS_ITS_WORKER), id],
      );
      if (affectedRows === 0) return;
      await settleDependents(db, id, 'failed');
      await emit(db, workspaceId, 'job', { jobId: id });
    });
}
