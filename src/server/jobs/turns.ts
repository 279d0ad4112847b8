import type { Context } from '../context';
import type { Database } from '../db/pool';

/** Minutes for which a queue's row is taken to be fresh; one that is older is renewed when something is queued. */
const TURN_FRESH_MINUTES = 30;

/** Makes sure that a job's queue has its turns. The row is rarely written: whoever queues must not wait for others who do. */
export async function saveTurn(db: Database, workspaceId: string, storeId: string): Promise<void> {
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
