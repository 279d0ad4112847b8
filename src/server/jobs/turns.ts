import type { Context } from '../context';
import type { Database } from '../db/pool';

/** Minutes for which a queue's row is taken to be fresh; one that is older is renewed when something is queued. */
const TURN_FRESH_MINUTES = 30;

/** Makes sure that queues of jobs have their turns. Their rows are rarely written: whoever queues must not wait for others who do. */
export async function saveTurns(db: Database, workspaceId: string, storeIds: readonly string[]): Promise<void> {
  const rows = await db.rows<{ storeId: string }>(
    `SELECT store_id AS storeId FROM job_turn WHERE workspace_id = ? AND store_id IN (${storeIds.map(() => '?').join(',')})
       AND touched_at > UTC_TIMESTAMP(3) - INTERVAL ? MINUTE`,
    [workspaceId, ...storeIds, TURN_FRESH_MINUTES],
  );
  const fresh = new Set(rows.map(({ storeId }) => storeId));
  await db.insertMany(
    'job_turn',
    ['workspace_id', 'store_id'],
    storeIds.filter((id) => !fresh.has(id)).map((id) => [workspaceId, id]),
    'ON DUPLICATE KEY UPDATE touched_at = UTC_TIMESTAMP(3)',
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
