import type { Context } from '../context';
import type { Database } from '../db/pool';

/** A share that its process does not renew is another's after this time. */
export const SHARE_MS = 4_000;
/** Time in which a store that was slowed gets one place more. */
const RECOVER_MS = 30_000;

/** Requests that a store may have in the window now: all that the shop allows, fewer after it had to ask for patience. */
const PLACES = `LEAST(?, COALESCE(r.places, ?) + FLOOR(TIMESTAMPDIFF(MICROSECOND, r.slowed_at, UTC_TIMESTAMP(3)) / 1000 / ${RECOVER_MS}))`;

/** What a process has of a store's limit, and what it could give up. */
export interface Share {
  readonly holder: string;
  /** Places that it has. */
  readonly places: number;
  /** Of these, those that are taken, or were within the shop's window: it cannot give them up yet. */
  readonly taken: number;
  /** Places that it has use for. */
  readonly wanted: number;
}

export interface Shared {
  /** Places that it has from now on. */
  readonly places: number;
  /** How many of them it may use: the rest is given up as soon as the shop counts it no longer. */
  readonly usable: number;
  /** How many it could have had, if it had wanted as many. */
  readonly most: number;
  /** How long nobody may ask the shop, ms. */
  readonly pauseMs: number;
}

interface Held {
  readonly holder: string;
  readonly places: number;
}

/** Places for one of several who share: as many for each, what does not divide goes to the first by name. */
function fairShare(total: number, holder: string, others: readonly Held[]): number {
  const all = [holder, ...others.map((one) => one.holder)].sort();
  const [each, rest] = [Math.floor(total / all.length), total % all.length];
  return each + (all.indexOf(holder) < rest ? 1 : 0);
}

/** Renews a process's share of a store's limit, and evens it out among those who have one. */
export async function renewShare(ctx: Context, storeId: string, perSecond: number, share: Share): Promise<Shared> {
  const shared = await renewIn(ctx, storeId, perSecond, share);
  if (shared) return shared;
  // Made outside the transaction: an insert that meets the row takes a shared lock on it, and two who then want it alone stop each other.
  await ctx.db.run('INSERT IGNORE INTO store_rate (store_id) VALUES (?)', [storeId]);
  return (await renewIn(ctx, storeId, perSecond, share))!;
}

/** Null where the store has no row to hold yet. */
function renewIn(ctx: Context, storeId: string, perSecond: number, share: Share): Promise<Shared | null> {
  return ctx.pools.transaction(async (db) => {
    const rate = await db.row<{ places: number; pauseMs: number }>(
      `SELECT CAST(COALESCE(${PLACES}, ?) AS SIGNED) AS places,
         GREATEST(0, COALESCE(TIMESTAMPDIFF(MICROSECOND, UTC_TIMESTAMP(3), r.paused_until), 0)) / 1000 AS pauseMs
       FROM store_rate r WHERE r.store_id = ? FOR UPDATE`,
      [perSecond, perSecond, perSecond, storeId],
    );
    if (!rate) return null;
    const held = await db.rows<Held>(
      'SELECT holder, places FROM store_share WHERE store_id = ? AND held_until > UTC_TIMESTAMP(3)',
      [storeId],
    );
    const total = Number(rate.places);
    const others = held.filter(({ holder }) => holder !== share.holder);
    const free = total - others.reduce((sum, { places }) => sum + places, 0);
    const most = Math.min(fairShare(total, share.holder, others), Math.max(0, free));
    const usable = Math.min(most, share.wanted);
    const places = Math.max(usable, share.taken);
    await keepShare(db, storeId, { ...share, places });
    return { places, usable, most, pauseMs: Number(rate.pauseMs) };
  });
}

const keepShare = (db: Database, storeId: string, { holder, places, taken }: Omit<Share, 'wanted'>) =>
  db.run(
    `INSERT INTO store_share (store_id, holder, places, taken, held_until) VALUES (?, ?, ?, ?, UTC_TIMESTAMP(3) + INTERVAL ${SHARE_MS * 1000} MICROSECOND)
     ON DUPLICATE KEY UPDATE places = VALUE(places), taken = VALUE(taken), held_until = VALUE(held_until)`,
    [storeId, holder, places, taken],
  );

export const giveUpShare = (ctx: Context, storeId: string, holder: string) =>
  ctx.db.run('DELETE FROM store_share WHERE store_id = ? AND holder = ?', [storeId, holder]);

/** The shop asked to wait: nobody asks it before that, and then fewer at once than before. */
export async function slowStore(ctx: Context, storeId: string, perSecond: number, retryAfterMs: number): Promise<void> {
  await ctx.db.run('INSERT IGNORE INTO store_rate (store_id) VALUES (?)', [storeId]);
  await ctx.db.run(
    `UPDATE store_rate r SET r.paused_until = GREATEST(COALESCE(r.paused_until, UTC_TIMESTAMP(3)), UTC_TIMESTAMP(3) + INTERVAL ? MICROSECOND),
       r.places = IF(r.slowed_at > UTC_TIMESTAMP(3) - INTERVAL 2 SECOND, r.places, GREATEST(1, FLOOR(COALESCE(${PLACES}, ?) / 2))),
       r.slowed_at = UTC_TIMESTAMP(3) WHERE r.store_id = ?`,
    [Math.round(retryAfterMs * 1000), perSecond, perSecond, perSecond, storeId],
  );
}
