import { fromSystem, TypicaError } from '@/core/errors';
import type { Context } from '../context';
import { isDuplicate } from '../db/errors';
import type { Database } from '../db/pool';
import { emit } from '../events/events';
import { settleDependents } from './dependents';
import type { JobRow } from './job-row';

export const LEASE_SECONDS = 30;

export interface Lease {
  readonly job: JobRow;
  readonly token: string;
}

export class LeaseLost extends Error {}

/**
 * Does `work` in a transaction in which the lease holds: a worker that was stopped and wakes up writes nothing. Tells, too, whether cancelling was
 * asked for. Throws LeaseLost.
 */
export async function underLease<T>(
  ctx: Context,
  { job, token }: Lease,
  work: (db: Database) => Promise<T>,
): Promise<{ made: T; cancelAsked: boolean }> {
  return ctx.pools.transaction(async (db) => {
    const held = await db.row<{ cancelAsked: number }>(
      "SELECT cancel_asked AS cancelAsked FROM job WHERE id = ? AND lease_token = ? AND state = 'running' FOR UPDATE",
      [job.id, token],
    );
    if (!held) throw new LeaseLost(job.id);
    return { made: await work(db), cancelAsked: held.cancelAsked === 1 };
  });
}

/** How far a job is. */
export interface Progress {
  readonly done: number;
  readonly total: number;
  readonly note: string;
}

const FAR = ', progress_done = ?, progress_total = ?, progress_note = ?';
const farOf = (progress?: Progress) => (progress ? [progress.done, progress.total, progress.note.slice(0, 200)] : []);

/**
 * Extends the lease, and writes down how far the job is where that is given. Throws LeaseLost when another worker has taken the job. Tells whether
 * cancelling was asked for.
 */
export async function heartbeat(
  ctx: Context,
  { job, token }: Lease,
  progress?: Progress,
): Promise<{ cancelAsked: boolean }> {
  // What LAST_INSERT_ID is given comes back with the count of rows: no second statement is needed to read it.
  const { affectedRows, insertId } = await ctx.db.run(
    `UPDATE job SET lease_until = UTC_TIMESTAMP(3) + INTERVAL ? SECOND, cancel_asked = LAST_INSERT_ID(cancel_asked)${progress ? FAR : ''} WHERE id = ? AND lease_token = ? AND state = 'running'`,
    [LEASE_SECONDS, ...farOf(progress), job.id, token],
  );
  if (affectedRows === 0) throw new LeaseLost(job.id);
  if (progress) await emit(ctx.db, job.workspaceId, 'job', { jobId: job.id });
  return { cancelAsked: insertId === 1 };
}

/** Ends a job and wakes what waited for it; what waited for one that was not done is cancelled. False when the lease was lost. */
async function end(
  ctx: Context,
  lease: Lease,
  state: 'done' | 'failed' | 'cancelled',
  columns: { result?: unknown; error?: unknown; progress?: Progress },
): Promise<boolean> {
  return ctx.pools.transaction(async (db) => {
    const { affectedRows } = await db.run(
      `UPDATE job SET state = ?, result = ?, error = ?${columns.progress ? FAR : ''}, lease_token = NULL, lease_until = NULL, finished_at = UTC_TIMESTAMP(3) WHERE id = ? AND lease_token = ? AND state = 'running'`,
      [
        state,
        columns.result === undefined ? null : JSON.stringify(columns.result),
        columns.error === undefined ? null : JSON.stringify(columns.error),
        ...farOf(columns.progress),
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

/** `progress`: how far it said to be last, where that is not written down yet. */
export const complete = (ctx: Context, lease: Lease, result: unknown, progress?: Progress): Promise<boolean> =>
  end(ctx, lease, 'done', { result: result ?? null, progress });
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
