import { notFound } from '@/core/errors';
import type { WantedVisibility } from '@/core/sync/send-step';
import type { Context } from '../context';
import type { Database } from '../db/pool';

/** A group of listings that are sent together. */
export interface SendRow {
  readonly id: string;
  readonly workspaceId: string;
  readonly groupId: string;
  readonly visibility: WantedVisibility;
  /** planned: to be looked at; begun: its jobs are being written down; laid: they all are; stopped: no more of it is sent. */
  readonly state: 'planned' | 'begun' | 'laid' | 'stopped';
  readonly paused: number;
  readonly by: string;
  readonly startsAt: Date | null;
  readonly begunAt: Date | null;
  readonly madeAt: Date;
}

const SELECT = `SELECT s.id, s.workspace_id AS workspaceId, s.group_id AS groupId, s.visibility, s.state, s.paused, p.name AS \`by\`, s.starts_at AS startsAt,
  s.begun_at AS begunAt, s.made_at AS madeAt FROM send s JOIN person p ON p.id = s.person_id`;

export async function findSend(ctx: Context, workspaceId: string, id: string): Promise<SendRow> {
  const row = await ctx.db.row<SendRow>(`${SELECT} WHERE s.id = ? AND s.workspace_id = ?`, [id, workspaceId]);
  if (!row) throw notFound('send', id);
  return row;
}

/** Those made last first. */
export const listSends = (ctx: Context, workspaceId: string, limit = 50): Promise<SendRow[]> =>
  ctx.db.rows<SendRow>(`${SELECT} WHERE s.workspace_id = ? ORDER BY s.made_at DESC, s.id LIMIT ?`, [
    workspaceId,
    limit,
  ]);

/** How many listings of a send are in it, and how many of them were looked at, or had their jobs written down. */
export async function countItems(
  ctx: Context,
  sendId: string,
): Promise<{ readonly all: number; readonly looked: number; readonly laid: number }> {
  const row = await ctx.db.row<{ n: number; looked: number | null; laid: number | null }>(
    'SELECT COUNT(*) AS n, SUM(what IS NOT NULL) AS looked, SUM(laid) AS laid FROM send_item WHERE send_id = ?',
    [sendId],
  );
  return { all: Number(row!.n), looked: Number(row!.looked ?? 0), laid: Number(row!.laid ?? 0) };
}

/** The failed job that looks at a send's listings, or writes down their jobs: until it is tried again nothing more of it goes out. */
export async function haltedBy(
  ctx: Context,
  { state, groupId }: Pick<SendRow, 'state' | 'groupId'>,
): Promise<{ readonly jobId: string; readonly says: string } | null> {
  if (state !== 'begun' && state !== 'planned') return null;
  const row = await ctx.db.row<{ jobId: string; error: { message?: string } | null }>(
    "SELECT id AS jobId, error FROM job WHERE group_id = ? AND kind = ? AND state = 'failed'",
    [groupId, state === 'begun' ? 'begin-send' : 'look-at-send'],
  );
  return row && { jobId: row.jobId, says: row.error?.message ?? 'It stopped in the middle.' };
}

/** Jobs that have not ended. */
export const OPEN_JOBS = "state IN ('waiting', 'queued', 'running')";

/** Holds the jobs of a group, or lets them go on. */
export const holdJobs = (db: Database, groupId: string, held: boolean) =>
  db.run(`UPDATE job SET held = ? WHERE group_id = ? AND ${OPEN_JOBS}`, [held, groupId]);
