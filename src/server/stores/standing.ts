import type { SyncState } from '@/core/sync/state';
import type { Context } from '../context';

/** How many listings of a store are in each sync state, and what its shop is asked just now. */
export interface StoreStanding {
  readonly states: { readonly [state in SyncState]?: number };
  /** Requests that hold a place of the shop's second now. */
  readonly requests: number;
}

interface Count {
  readonly storeId: string;
  readonly state: SyncState | null;
  readonly n: number;
}

/** Where the listings of a workspace's stores stand, by store, from what is stored. */
export async function standings(ctx: Context, workspaceId: string): Promise<(storeId: string) => StoreStanding> {
  const [stored, travelling, requests] = await Promise.all([
    ctx.db.rows<Count>(
      'SELECT store_id AS storeId, state, COUNT(*) AS n FROM listing_outcome WHERE workspace_id = ? GROUP BY store_id, state',
      [workspaceId],
    ),
    // Few at a time, and stored as what they are when they stand still.
    ctx.db.rows<Count>(
      `SELECT l.store_id AS storeId, o.state, COUNT(*) AS n FROM job j JOIN listing l ON l.job_id = j.id
         LEFT JOIN listing_outcome o ON o.product_id = l.product_id AND o.store_id = l.store_id AND o.number = l.number
       WHERE j.workspace_id = ? AND j.state IN ('queued', 'running', 'waiting') GROUP BY l.store_id, o.state`,
      [workspaceId],
    ),
    ctx.db.rows<{ storeId: string; n: number }>(
      `SELECT r.store_id AS storeId, SUM(r.taken) AS n FROM store_share r JOIN store s ON s.id = r.store_id
       WHERE s.workspace_id = ? AND r.held_until > UTC_TIMESTAMP(3) GROUP BY r.store_id`,
      [workspaceId],
    ),
  ]);
  const asked = new Map(requests.map(({ storeId, n }) => [storeId, Number(n)]));
  return (storeId) => {
    const counts = new Map<SyncState, number>();
    const add = (state: SyncState, n: number) => counts.set(state, (counts.get(state) ?? 0) + n);
    for (const one of stored) if (one.storeId === storeId) add(one.state!, Number(one.n));
    for (const one of travelling)
      if (one.storeId === storeId) {
        add('on-its-way', Number(one.n));
        if (one.state) add(one.state, -Number(one.n));
      }
    return { states: Object.fromEntries(counts), requests: asked.get(storeId) ?? 0 };
  };
}
