import { conflict, fromSystem, TypicaError } from '@/core/errors';
import type { Context } from '../context';
import { isDuplicate } from '../db/errors';
import { newId } from '../db/ids';
import type { Database } from '../db/pool';
import { emit } from '../events/events';

export type JobState = 'waiting' | 'queued' | 'running' | 'done' | 'failed' | 'cancelled';

export interface JobRow {
  readonly id: string;
  readonly workspaceId: string;
  readonly groupId: string | null;
  readonly kind: string;
  readonly title: string;
  readonly payload: Record<string, unknown>;
  readonly state: JobState;
  readonly attempts: number;
  readonly maxAttempts: number;
  readonly cancelAsked: number;
  readonly progressDone: number;
  readonly progressTotal: number;
  readonly progressNote: string;
  readonly result: unknown;
  readonly error: { code: string; message: string } | null;
  readonly storeId: string | null;
  readonly createdAt: Date;
  readonly finishedAt: Date | null;
  /** It is not begun before. */
  readonly runAfter: Date;
}

const COLUMNS = `id, workspace_id AS workspaceId, group_id AS groupId, kind, title, payload, state, attempts, max_attempts AS maxAttempts,
  cancel_asked AS cancelAsked, progress_done AS progressDone, progress_total AS progressTotal, progress_note AS progressNote,
  result, error, store_id AS storeId, created_at AS createdAt, finished_at AS finishedAt, run_after AS runAfter`;

export interface NewJob {
  readonly workspaceId: string;
  readonly kind: string;
  /** What a person reads in the panel of running work. */
  readonly title: string;
  readonly payload: Record<string, unknown>;
  /** Higher runs first. */
  readonly priority?: number;
  /** A second job with the same key in the workspace is not made; the first is given. */
  readonly idempotencyKey?: string;
  /** What it is about, `listing:…`: one job of a subject runs at a time, and one of a kind waits; that one is given in place of another. */
  readonly subject?: string;
  readonly groupId?: string;
  readonly storeId?: string;
  readonly needs?: readonly string[];
  readonly maxAttempts?: number;
  /** Midnight UTC of this day, YYYY-MM-DD, before which it does not run; at once when absent or past. */
  readonly notBefore?: string;
}

/** Writes a job down, inside the caller's transaction; it runs when that commits and what it needs is done. Gives its id. */
export async function enqueue(db: Database, job: NewJob): Promise<string> {
  const id = newId('j');
  const needs = job.needs ?? [];
  const { affectedRows } = await db.run(
    `INSERT IGNORE INTO job (id, workspace_id, group_id, kind, title, payload, state, priority, idempotency_key, subject, store_id, waits_on, max_attempts, run_after)
     VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, GREATEST(UTC_TIMESTAMP(3), COALESCE(?, UTC_TIMESTAMP(3))))`,
    [
      id,
      job.workspaceId,
      job.groupId ?? null,
      job.kind,
      job.title.slice(0, 200),
      JSON.stringify(job.payload),
      needs.length > 0 ? 'waiting' : 'queued',
      job.priority ?? 0,
      job.idempotencyKey ?? null,
      job.subject ?? null,
      job.storeId ?? null,
      needs.length,
      job.maxAttempts ?? 5,
      job.notBefore ?? null,
    ],
  );
  if (affectedRows === 0) {
    const have = await db.row<{ id: string }>(
      'SELECT id FROM job WHERE workspace_id = ? AND (idempotency_key = ? OR waiting_subject = ?) FOR UPDATE',
      [job.workspaceId, job.idempotencyKey ?? null, job.subject ? `${job.kind}:${job.subject}` : null],
    );
    // The one that waited has begun in this very moment.
    if (!have)
      throw new TypicaError('unavailable', 'job-moved', 'Something else happened to this just now; try again.');
    return have.id;
  }
  await keepTurn(db, job.workspaceId, job.storeId ?? '');
  if (needs.length > 0) {
    await db.insertMany(
      'job_dependency',
      ['job_id', 'needs_job_id'],
      needs.map((need) => [id, need]),
    );
    // A need that ended before we wrote ourselves down will not wake us: count again. The rows are locked so that none ends meanwhile.
    const open = await db.rows<{ id: string; state: JobState }>(
      `SELECT id, state FROM job WHERE id IN (${needs.map(() => '?').join(',')}) FOR UPDATE`,
      [...needs],
    );
    const left = open.filter((need) => need.state !== 'done').length;
    await db.run("UPDATE job SET waits_on = ?, state = IF(? = 0, 'queued', 'waiting') WHERE id = ?", [left, left, id]);
  }
  await emit(db, job.workspaceId, 'job', { jobId: id });
  return id;
}

export async function createGroup(db: Database, workspaceId: string, title: string): Promise<string> {
  const id = newId('q');
  await db.run('INSERT INTO job_group (id, workspace_id, title) VALUES (?, ?, ?)', [id, workspaceId, title]);
  return id;
}

export const LEASE_SECONDS = 30;

export interface Lease {
  readonly job: JobRow;
  readonly token: string;
}

export interface ClaimLimits {
  /** Workspaces whose turn it is not, whatever waits for them. */
  readonly passOver?: readonly string[];
}

interface Queue {
  readonly workspaceId: string;
  readonly storeId: string;
}

/** Queues that are looked into before giving up for this time: others may hold the first ones. */
const QUEUES_TRIED = 8;

/** Whether nothing of a job's subject runs: a select of its own, in which nothing is locked. */
const SUBJECT_FREE = (job: string): string =>
  `NOT EXISTS (SELECT 1 FROM job other WHERE other.workspace_id = ${job}.workspace_id AND other.running_subject = ${job}.subject)`;

/**
 * Queues with something to do, in turn: workspaces with the fewest jobs running first, then the one that has waited longest for its turn, and in
 * it the store that has waited longest.
 */
const QUEUES = (kinds: string, passedOver: string): string => `
  SELECT t.workspace_id AS workspaceId, t.store_id AS storeId FROM job_turn t
  JOIN (SELECT workspace_id, MAX(turn_at) AS turn_at FROM job_turn GROUP BY workspace_id) w ON w.workspace_id = t.workspace_id
  LEFT JOIN (SELECT workspace_id, COUNT(*) AS n FROM job WHERE state = 'running' AND lease_until >= UTC_TIMESTAMP(3) GROUP BY workspace_id) r
    ON r.workspace_id = t.workspace_id
  WHERE t.workspace_id NOT IN (${passedOver}) AND EXISTS (
    SELECT 1 FROM job j WHERE j.state = 'queued' AND j.workspace_id = t.workspace_id AND j.queue_store = t.store_id
      AND j.run_after <= UTC_TIMESTAMP(3) AND j.kind IN (${kinds}) AND ${SUBJECT_FREE('j')})
  ORDER BY COALESCE(r.n, 0), w.turn_at, t.turn_at LIMIT ${QUEUES_TRIED}`;

async function findQueued(db: Database, kinds: readonly string[], { passOver = [] }: ClaimLimits) {
  const marks = kinds.map(() => '?').join(',');
  const passedOver = ['', ...passOver];
  const queues = await db.rows<Queue>(QUEUES(marks, passedOver.map(() => '?').join(',')), [...passedOver, ...kinds]);
  for (const { workspaceId, storeId } of queues) {
    const found = await db.row<{ id: string }>(
      `SELECT id FROM job WHERE state = 'queued' AND workspace_id = ? AND queue_store = ? AND run_after <= UTC_TIMESTAMP(3) AND kind IN (${marks})
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
  const left = await findLeft(db, kinds, limits);
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
      const job = await db.row<JobRow>(`SELECT ${COLUMNS} FROM job WHERE id = ?`, [found.id]);
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

/** Minutes for which a queue's row is taken to be fresh; one that is older is renewed when something is queued. */
const TURN_FRESH_MINUTES = 30;

/** Makes sure that a job's queue has its turns. The row is rarely written: whoever queues must not wait for others who do. */
async function keepTurn(db: Database, workspaceId: string, storeId: string): Promise<void> {
  const fresh = await db.row(
    'SELECT 1 AS one FROM job_turn WHERE workspace_id = ? AND store_id = ? AND touched_at > UTC_TIMESTAMP(3) - INTERVAL ? MINUTE',
    [workspaceId, storeId, TURN_FRESH_MINUTES],
  );
  if (fresh) return;
  await db.run(
    'INSERT INTO job_turn (workspace_id, store_id) VALUES (?, ?) ON DUPLICATE KEY UPDATE touched_at = UTC_TIMESTAMP(3)',
    [workspaceId, storeId],
  );
}

/** Forgets queues in which nothing has been for long. */
export async function dropIdleTurns(ctx: Context): Promise<void> {
  await ctx.db.run(
    `DELETE FROM job_turn WHERE touched_at < UTC_TIMESTAMP(3) - INTERVAL ? MINUTE AND NOT EXISTS (
       SELECT 1 FROM job j WHERE j.workspace_id = job_turn.workspace_id AND j.queue_store = job_turn.store_id AND j.state IN ('waiting', 'queued', 'running'))`,
    [2 * TURN_FRESH_MINUTES],
  );
}

export class LeaseLost extends Error {}

/** Does `work` in a transaction in which the lease holds: a worker that was stopped and wakes up writes nothing. Throws LeaseLost. */
export async function underLease<T>(ctx: Context, lease: Lease, work: (db: Database) => Promise<T>): Promise<T> {
  return ctx.pools.transaction(async (db) => {
    const holds = await db.row(
      "SELECT 1 AS one FROM job WHERE id = ? AND lease_token = ? AND state = 'running' FOR UPDATE",
      [lease.job.id, lease.token],
    );
    if (!holds) throw new LeaseLost(lease.job.id);
    return work(db);
  });
}

/** Extends the lease. Throws LeaseLost when another worker has taken the job. Tells whether cancelling was asked for. */
export async function heartbeat(ctx: Context, lease: Lease): Promise<{ cancelAsked: boolean }> {
  const { affectedRows } = await ctx.db.run(
    "UPDATE job SET lease_until = UTC_TIMESTAMP(3) + INTERVAL ? SECOND WHERE id = ? AND lease_token = ? AND state = 'running'",
    [LEASE_SECONDS, lease.job.id, lease.token],
  );
  if (affectedRows === 0) throw new LeaseLost(lease.job.id);
  const row = await ctx.db.row<{ cancel_asked: number }>('SELECT cancel_asked FROM job WHERE id = ?', [lease.job.id]);
  return { cancelAsked: row?.cancel_asked === 1 };
}

export async function reportProgress(
  ctx: Context,
  lease: Lease,
  done: number,
  total: number,
  note: string,
): Promise<void> {
  const { affectedRows } = await ctx.db.run(
    "UPDATE job SET progress_done = ?, progress_total = ?, progress_note = ?, lease_until = UTC_TIMESTAMP(3) + INTERVAL ? SECOND WHERE id = ? AND lease_token = ? AND state = 'running'",
    [done, total, note.slice(0, 200), LEASE_SECONDS, lease.job.id, lease.token],
  );
  if (affectedRows === 0) throw new LeaseLost(lease.job.id);
  await emit(ctx.db, lease.job.workspaceId, 'job', { jobId: lease.job.id });
}

/** Ends a job and wakes what waited for it; what waited for one that was not done is cancelled. False when the lease was lost. */
async function end(
  ctx: Context,
  lease: Lease,
  state: 'done' | 'failed' | 'cancelled',
  columns: { result?: unknown; error?: unknown },
): Promise<boolean> {
  return ctx.pools.transaction(async (db) => {
    const { affectedRows } = await db.run(
      `UPDATE job SET state = ?, result = ?, error = ?, lease_token = NULL, lease_until = NULL, finished_at = UTC_TIMESTAMP(3) WHERE id = ? AND lease_token = ? AND state = 'running'`,
      [
        state,
        columns.result === undefined ? null : JSON.stringify(columns.result),
        columns.error === undefined ? null : JSON.stringify(columns.error),
        lease.job.id,
        lease.token,
      ],
    );
    if (affectedRows === 0) return false;
    await settleDependents(db, lease.job.id, state);
    await emit(db, lease.job.workspaceId, 'job', { jobId: lease.job.id });
    return true;
  });
}

async function settleDependents(db: Database, jobId: string, state: JobState): Promise<void> {
  if (state === 'done') {
    await db.run(
      `UPDATE job j JOIN job_dependency d ON d.job_id = j.id
       SET j.state = IF(j.waits_on <= 1, 'queued', j.state), j.waits_on = j.waits_on - 1, j.run_after = UTC_TIMESTAMP(3)
       WHERE d.needs_job_id = ? AND j.state = 'waiting'`,
      [jobId],
    );
    return;
  }
  const dependents = await db.rows<{ id: string }>(
    "SELECT j.id FROM job j JOIN job_dependency d ON d.job_id = j.id WHERE d.needs_job_id = ? AND j.state = 'waiting'",
    [jobId],
  );
  for (const { id } of dependents) {
    await db.run(
      "UPDATE job SET state = 'cancelled', finished_at = UTC_TIMESTAMP(3), error = ? WHERE id = ? AND state = 'waiting'",
      [JSON.stringify({ code: 'need-not-done', message: 'What this waited for was not done.' }), id],
    );
    await settleDependents(db, id, 'cancelled');
  }
}

export const complete = (ctx: Context, lease: Lease, result: unknown): Promise<boolean> =>
  end(ctx, lease, 'done', { result: result ?? null });
export const endCancelled = (ctx: Context, lease: Lease): Promise<boolean> => end(ctx, lease, 'cancelled', {});

/** Delay before try `attempt + 1`: 2, 4, 8 … s up to 5 minutes, times a random 0.5 to 1.5, so that many do not come back at once. */
export function backOffMs(attempt: number, fraction: number): number {
  return Math.min(300_000, 1000 * 2 ** attempt) * (0.5 + fraction);
}

/** Whether trying again can help: what the user has to mend cannot. */
const canRetry = (error: unknown): boolean =>
  !(error instanceof TypicaError) || error.kind === 'unavailable' || error.kind === 'too-many' || error.kind === 'bug';

/** For so long a job is put off that nothing is wrong with. */
const PATIENCE_HOURS = 24;

/** Notes a failure: queued again after a back-off (or after what the error asks for), or given up. What only came too soon costs no try. */
export async function fail(ctx: Context, lease: Lease, failure: unknown): Promise<void> {
  const error = fromSystem(failure) ?? failure;
  const { job, token } = lease;
  const visible = error instanceof TypicaError && error.visible;
  const told = {
    code: error instanceof TypicaError ? error.code : 'internal',
    message: visible ? error.message : 'Something went wrong in Typica; it is written to the log.',
    fields: visible ? error.fields : {},
  };
  const free =
    error instanceof TypicaError &&
    error.fields.costsNoTry === true &&
    ctx.clock.now().getTime() - job.createdAt.getTime() < PATIENCE_HOURS * 3_600_000;
  if (!canRetry(error) || (!free && job.attempts >= job.maxAttempts)) {
    await end(ctx, lease, 'failed', { error: told });
    return;
  }
  const asked = error instanceof TypicaError ? Number(error.fields.retryAfterMs) : Number.NaN;
  const delayMs = Number.isFinite(asked)
    ? Math.min(asked, 3_600_000) * (1 + ctx.chance.fraction() / 4)
    : backOffMs(job.attempts, ctx.chance.fraction());
  const queued = ctx.db.run(
    `UPDATE job SET state = 'queued', lease_token = NULL, lease_until = NULL, error = ?, lost = 0, lost_at_progress = 0,
       attempts = attempts - ?, run_after = UTC_TIMESTAMP(3) + INTERVAL ? MICROSECOND WHERE id = ? AND lease_token = ?`,
    [JSON.stringify(told), free ? 1 : 0, Math.round(delayMs * 1000), job.id, token],
  );
  try {
    await queued;
  } catch (trouble) {
    if (!isDuplicate(trouble)) throw trouble;
    // Another one about the same waits already, and does all that this one would have done.
    await end(ctx, lease, 'cancelled', { error: told });
    return;
  }
  await emit(ctx.db, job.workspaceId, 'job', { jobId: job.id });
}

/** Asks a job to stop: at once when it has not begun, else at its next step. False when there is no such job or it has ended. */
export async function cancelJob(ctx: Context, workspaceId: string, jobId: string): Promise<boolean> {
  return ctx.pools.transaction(async (db) => {
    const row = await db.row<{ state: JobState }>(
      'SELECT state FROM job WHERE id = ? AND workspace_id = ? FOR UPDATE',
      [jobId, workspaceId],
    );
    if (!row || ['done', 'failed', 'cancelled'].includes(row.state)) return false;
    if (row.state === 'running') await db.run('UPDATE job SET cancel_asked = TRUE WHERE id = ?', [jobId]);
    else {
      await db.run("UPDATE job SET state = 'cancelled', finished_at = UTC_TIMESTAMP(3) WHERE id = ?", [jobId]);
      await settleDependents(db, jobId, 'cancelled');
    }
    await emit(db, workspaceId, 'job', { jobId });
    return true;
  });
}

const underWay = () => conflict('job-under-way', 'The same is under way already; nothing was begun a second time.');

/**
 * Puts a job that was given up or cancelled in the queue again. False when there is none. Throws `job-under-way` when another job is about the
 * same subject just now.
 */
export async function retryJob(ctx: Context, workspaceId: string, jobId: string): Promise<boolean> {
  return ctx.pools.transaction(async (db) => {
    const job = await db.row<{ subject: string | null; storeId: string | null }>(
      "SELECT subject, store_id AS storeId FROM job WHERE id = ? AND workspace_id = ? AND state IN ('failed', 'cancelled') FOR UPDATE",
      [jobId, workspaceId],
    );
    if (!job) return false;
    const open = await db.row(
      "SELECT 1 AS one FROM job WHERE workspace_id = ? AND subject = ? AND state IN ('waiting', 'queued', 'running') LIMIT 1",
      [workspaceId, job.subject],
    );
    if (open) throw underWay();
    await db
      .run(
        `UPDATE job SET state = 'queued', attempts = 0, lost = 0, lost_at_progress = 0, cancel_asked = FALSE, error = NULL, finished_at = NULL,
           run_after = UTC_TIMESTAMP(3) WHERE id = ?`,
        [jobId],
      )
      .catch((error: unknown) => {
        throw isDuplicate(error) ? underWay() : error;
      });
    await db.run("UPDATE listing SET job_id = ? WHERE workspace_id = ? AND ? = CONCAT('listing:', id)", [
      jobId,
      workspaceId,
      job.subject,
    ]);
    await keepTurn(db, workspaceId, job.storeId ?? '');
    await emit(db, workspaceId, 'job', { jobId });
    return true;
  });
}

export const findJob = (ctx: Context, workspaceId: string, jobId: string): Promise<JobRow | null> =>
  ctx.db.row<JobRow>(`SELECT ${COLUMNS} FROM job WHERE id = ? AND workspace_id = ?`, [jobId, workspaceId]);

/** Jobs of a workspace for the panel: all that run or wait, then what ended lately, at most `limit`. */
export const listJobs = (ctx: Context, workspaceId: string, limit = 50): Promise<JobRow[]> =>
  ctx.db.rows<JobRow>(
    `SELECT ${COLUMNS} FROM job WHERE workspace_id = ? ORDER BY state IN ('running', 'queued', 'waiting') DESC, created_at DESC LIMIT ?`,
    [workspaceId, limit],
  );

/** How far a group is. */
export const groupProgress = (
  ctx: Context,
  workspaceId: string,
  groupId: string,
): Promise<{ total: number; done: number; failed: number; open: number } | null> =>
  ctx.db.row(
    `SELECT COUNT(*) AS total, CAST(SUM(state = 'done') AS SIGNED) AS done, CAST(SUM(state IN ('failed', 'cancelled')) AS SIGNED) AS failed,
     CAST(SUM(state IN ('waiting', 'queued', 'running')) AS SIGNED) AS open FROM job WHERE workspace_id = ? AND group_id = ? HAVING COUNT(*) > 0`,
    [workspaceId, groupId],
  );
