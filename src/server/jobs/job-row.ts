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

export const JOB_COLUMNS = `id, workspace_id AS workspaceId, group_id AS groupId, kind, title, payload, state, attempts, max_attempts AS maxAttempts,
  cancel_asked AS cancelAsked, progress_done AS progressDone, progress_total AS progressTotal, progress_note AS progressNote,
  result, error, store_id AS storeId, created_at AS createdAt, finished_at AS finishedAt, run_after AS runAfter`;
