import { conflict, TypicaError } from '@/core/errors';
import type { Context } from '../context';
import { isDuplicate } from '../db/errors';
import { newId } from '../db/ids';
import type { Database } from '../db/pool';
import { emit, tellAll } from '../events/events';
import { settleDependents } from './dependents';
import { JOB_COLUMNS, type JobRow, type JobState } from './job-row';
import { saveTurns } from './turns';

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
  /** A moment, or midnight UTC of a day (YYYY-MM-DD), before which it does not run; at once when absent or past. */
  readonly notBefore?: string | Date;
}

/** How often a job is written down anew where the one in its place began in that very moment. */
const TRIES = 4;

/** Writes a job down, inside the caller's transaction; it runs when that commits and what it needs is done. Gives its id. */
export async function enqueue(db: Database, job: NewJob): Promise<string> {
  for (let i = 0; i < TRIES; i += 1) {
    const id = await writeDown(db, job);
    if (id !== null) return id;
  }
  throw new TypicaError('unavailable', 'job-moved', 'Something else happened to this just now; try again.');
}

const JOB_VALUES = '(?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, GREATEST(UTC_TIMESTAMP(3), COALESCE(?, UTC_TIMESTAMP(3))))';

/** Inserts jobs under these ids where nothing stands in their place. Gives how many. */
async function insertJobs(db: Database, jobs: readonly (readonly [id: string, job: NewJob])[]): Promise<number> {
  const { affectedRows } = await db.run(
    `INSERT IGNORE INTO job (id, workspace_id, group_id, kind, title, payload, state, priority, idempotency_key, subject, store_id, waits_on, max_attempts, run_after)
     VALUES ${jobs.map(() => JOB_VALUES).join(',')}`,
    jobs.flatMap(([id, job]) => [
      id,
      job.workspaceId,
      job.groupId ?? null,
      job.kind,
      job.title.slice(0, 200),
      JSON.stringify(job.payload),
      job.needs && job.needs.length > 0 ? 'waiting' : 'queued',
      job.priority ?? 0,
      job.idempotencyKey ?? null,
      job.subject ?? null,
      job.storeId ?? null,
      job.needs?.length ?? 0,
      job.maxAttempts ?? 5,
      job.notBefore ?? null,
    ]),
  );
  return affectedRows;
}

/**
 * Writes down many jobs of one workspace that need no others, as `enqueue` does one: in a few statements, unless something stands in the place of
 * some. Gives their ids in order.
 */
export async function enqueueAll(db: Database, jobs: readonly Omit<NewJob, 'needs'>[]): Promise<string[]> {
  if (jobs.length === 0) return [];
  const { workspaceId } = jobs[0]!;
  const under = jobs.map((job) => [newId('j'), job] as const);
  const made =
    (await insertJobs(db, under)) === jobs.length
      ? new Set(under.map(([id]) => id))
      : new Set(
          (
            await db.rows<{ id: string }>(
              `SELECT id FROM job WHERE id IN (${under.map(() => '?').join(',')})`,
              under.map(([id]) => id),
            )
          ).map(({ id }) => id),
        );
  await saveTurns(db, workspaceId, [...new Set(jobs.map(({ storeId }) => storeId ?? ''))]);
  await tellAll(
    db,
    workspaceId,
    'job',
    [...made].map((jobId) => ({ jobId })),
  );
  const ids: string[] = [];
  for (const [id, job] of under) ids.push(made.has(id) ? id : await enqueue(db, job));
  return ids;
}

/** Writes a job down, or gives the one that waits in its place; null where that one began just then. */
async function writeDown(db: Database, job: NewJob): Promise<string | null> {
  const id = newId('j');
  const needs = job.needs ?? [];
  if ((await insertJobs(db, [[id, job]])) === 0) {
    const have = await db.row<{ id: string }>(
      'SELECT id FROM job WHERE workspace_id = ? AND (idempotency_key = ? OR waiting_subject = ?) FOR UPDATE',
      [job.workspaceId, job.idempotencyKey ?? null, job.subject ? `${job.kind}:${job.subject}` : null],
    );
    return have?.id ?? null;
  }
  await saveTurns(db, job.workspaceId, [job.storeId ?? '']);
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
    await saveTurns(db, workspaceId, [job.storeId ?? '']);
    await emit(db, workspaceId, 'job', { jobId });
    return true;
  });
}

export const findJob = (ctx: Context, workspaceId: string, jobId: string): Promise<JobRow | null> =>
  ctx.db.row<JobRow>(`SELECT ${JOB_COLUMNS} FROM job WHERE id = ? AND workspace_id = ?`, [jobId, workspaceId]);

/** Jobs of a workspace for the panel: all that run or wait, then what ended lately, at most `limit`. */
export const listJobs = (ctx: Context, workspaceId: string, limit = 50): Promise<JobRow[]> =>
  ctx.db.rows<JobRow>(
    `SELECT ${JOB_COLUMNS} FROM job WHERE workspace_id = ? ORDER BY state IN ('running', 'queued', 'waiting') DESC, created_at DESC LIMIT ?`,
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
