import type { Context } from '../context';

/** How many listings of a store are where, and what its shop is asked just now. */
export interface StoreStanding {
  readonly live: number;
  readonly drafts: number;
  readonly onWay: number;
  readonly refused: number;
  /** Changed in the shop since both agreed. */
  readonly changedThere: number;
  /** Requests that hold a place of the shop's second now. */
  readonly requests: number;
}

const NONE: StoreStanding = { live: 0, drafts: 0, onWay: 0, refused: 0, changedThere: 0, requests: 0 };

/** Where the listings of a workspace's stores stand, by store, from what is written down. */
export async function standings(ctx: Context, workspaceId: string): Promise<(storeId: string) => StoreStanding> {
  const [listings, requests] = await Promise.all([
    ctx.db.rows<{ storeId: string } & Omit<StoreStanding, 'requests'>>(
      `SELECT l.store_id AS storeId, SUM(l.external_id IS NOT NULL AND l.visibility = 'live') AS live,
         SUM(l.external_id IS NOT NULL AND l.visibility = 'draft') AS drafts,
         SUM(COALESCE(j.state IN ('queued', 'running', 'waiting'), 0)) AS onWay, SUM(l.refusal IS NOT NULL) AS refused,
         SUM(l.there_hash IS NOT NULL AND l.there_hash <> l.agreed_hash) AS changedThere
       FROM listing l LEFT JOIN job j ON j.id = l.job_id WHERE l.workspace_id = ? GROUP BY l.store_id`,
      [workspaceId],
    ),
    ctx.db.rows<{ storeId: string; n: number }>(
      `SELECT r.store_id AS storeId, COUNT(*) AS n FROM store_request r JOIN store s ON s.id = r.store_id
       WHERE s.workspace_id = ? AND r.held_until > UTC_TIMESTAMP(3) GROUP BY r.store_id`,
      [workspaceId],
    ),
  ]);
  const byStore = new Map(listings.map(({ storeId, ...counts }) => [storeId, counts]));
  const asked = new Map(requests.map(({ storeId, n }) => [storeId, Number(n)]));
  return (storeId) => {
    const counts = byStore.get(storeId);
    const numbers = counts && Object.entries(counts).map(([name, n]) => [name, Number(n)] as const);
    return { ...NONE, ...(numbers ? Object.fromEntries(numbers) : {}), requests: asked.get(storeId) ?? 0 };
  };
}
