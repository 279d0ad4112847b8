import { LRUCache } from 'lru-cache';
import { TypicaError } from '@/core/errors';
import type { Quotas } from '../config';
import type { Context } from '../context';
import type { Database } from '../db/pool';
import { processWide } from '../process-wide';

export type Quota = Exclude<keyof Quotas, 'streams' | 'renderingBytes'>;

/** How much of each a workspace has, by the rows themselves: nothing that is counted beside them could go wrong. */
const COUNTS: { readonly [quota in Quota]: string } = {
  bytes: 'SELECT COALESCE(SUM(size_bytes), 0) AS n FROM artwork WHERE workspace_id = ? AND deleted_at IS NULL',
  // Shots of a seller's own are files too.
  files:
    'SELECT (SELECT COUNT(*) FROM artwork WHERE workspace_id = ? AND deleted_at IS NULL) + (SELECT COUNT(*) FROM shot WHERE workspace_id = ?) AS n',
  jobs: "SELECT COUNT(*) AS n FROM job WHERE workspace_id = ? AND state IN ('waiting', 'queued', 'running')",
  products: 'SELECT COUNT(*) AS n FROM product WHERE workspace_id = ?',
  tokens:
    'SELECT COUNT(*) AS n FROM access_token WHERE workspace_id = ? AND revoked_at IS NULL AND expires_at > UTC_TIMESTAMP(3)',
};

const SAYS: { readonly [quota in Quota]: (most: number) => string } = {
  bytes: (most) =>
    `This workspace holds ${Math.floor(most / 1e9)} GB of files, the most it may. Delete artwork that you no longer need.`,
  files: (most) => `This workspace has ${most} files, the most it may. Delete artwork that you no longer need.`,
  jobs: (most) => `This workspace has ${most} jobs waiting, the most it may. Wait until some are done, or stop some.`,
  products: (most) => `This workspace has ${most} products, the most it may.`,
  tokens: (most) => `This workspace has ${most} personal tokens, the most it may. Revoke one that is no longer used.`,
};

/** Counts for a few seconds: a script that sends thousands would have all of them counted for each. */
const counted = processWide('quotas', () => new LRUCache<string, { n: number }>({ max: 10_000, ttl: 3000 }));
/** From here on counting takes its time. */
const MANY = 100;

async function countOf(db: Database, workspaceId: string, quota: Quota): Promise<{ n: number }> {
  const key = `${quota}/${workspaceId}`;
  const known = counted.get(key);
  if (known) return known;
  const sql = COUNTS[quota];
  const values = Array<string>(sql.split('?').length - 1).fill(workspaceId);
  const count = { n: Number((await db.row<{ n: number | string }>(sql, values))?.n ?? 0) };
  if (count.n >= MANY) counted.set(key, count);
  return count;
}

/** Throws `quota-…` when a workspace would have more than it may with `more` of it. Of many it is counted again every few seconds only. */
export async function refuseOver(
  ctx: Context,
  workspaceId: string,
  quota: Quota,
  more = 1,
  db: Database = ctx.db,
): Promise<void> {
  const most = ctx.config.quotas[quota];
  const count = await countOf(db, workspaceId, quota);
  if (count.n + more > most) throw new TypicaError('too-many', `quota-${quota}`, SAYS[quota](most), { quota, most });
  count.n += more;
}
