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

/** Jobs that have not ended. */
export const OPEN_JOBS = "state IN ('waiting', 'queued', 'running')";

/** Holds the jobs of a group, or lets them go on. */
export const holdJobs = (db: Database, groupId: string, held: boolean) =>
  db.run(`UPDATE job SET held = ? WHERE group_id = ? AND ${OPEN_JOBS}`, [held, groupId]);
