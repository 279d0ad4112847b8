import { setTimeout as delay } from 'node:timers/promises';
import { TypicaError } from '@/core/errors';
import type { Context } from '../context';

/** Longest that a request waits in its place; who would wait longer gives its lane to others. */
const MAX_WAIT_MS = 5_000;
/** The window in which a shop counts, and what clocks may differ by within one. */
const WINDOW_MS = 1_050;
/** A request whose process died holds its place as long as the longest that a request may take. */
const LONGEST_MS = 25_000;
/** Time in which a store that was slowed gets one place more. */
const RECOVER_MS = 30_000;

export interface Turn {
  /** To be called when the request is answered, or failed. */
  answered(): Promise<void>;
}

interface Look {
  readonly waitMs: number;
  readonly place: number | null;
}

/** Requests that a store may have in the window now: all that the shop allows, fewer after it had to ask for patience. */
const PLACES = `LEAST(?, COALESCE(r.places, ?) + FLOOR(TIMESTAMPDIFF(MICROSECOND, r.slowed_at, UTC_TIMESTAMP(3)) / 1000 / ${RECOVER_MS}))`;

async function look(ctx: Context, storeId: string, perSecond: number): Promise<Look | null> {
  return ctx.pools.transaction(async (db) => {
    const rate = await db.row<{ places: number; pauseMs: number }>(
      `SELECT CAST(COALESCE(${PLACES}, ?) AS SIGNED) AS places,
         GREATEST(0, COALESCE(TIMESTAMPDIFF(MICROSECOND, UTC_TIMESTAMP(3), r.paused_until), 0)) / 1000 AS pauseMs
       FROM store_rate r WHERE r.store_id = ? FOR UPDATE`,
      [perSecond, perSecond, perSecond, storeId],
    );
    if (!rate) return null;
    if (Number(rate.pauseMs) > 0) return { waitMs: Number(rate.pauseMs), place: null };
    await db.run('DELETE FROM store_request WHERE store_id = ? AND held_until <= UTC_TIMESTAMP(3)', [storeId]);
    const taken = await db.row<{ n: number; nextMs: number }>(
      'SELECT COUNT(*) AS n, COALESCE(TIMESTAMPDIFF(MICROSECOND, UTC_TIMESTAMP(3), MIN(held_until)), 0) / 1000 AS nextMs FROM store_request WHERE store_id = ?',
      [storeId],
    );
    if (Number(taken!.n) >= Number(rate.places)) return { waitMs: Number(taken!.nextMs), place: null };
    const { insertId } = await db.run(
      'INSERT INTO store_request (store_id, held_until) VALUES (?, UTC_TIMESTAMP(3) + INTERVAL ? MICROSECOND)',
      [storeId, LONGEST_MS * 1000],
    );
    return { waitMs: 0, place: insertId };
  });
}

/**
 * Waits until the shop allows one more request of a store, whichever worker makes it. A place is held from before a request until a second
 * after its answer: wherever in between the shop counted it, no second of the shop's has more than `perSecond`. Throws `shop-busy` when it would
 * wait for long.
 */
export async function takeTurn(ctx: Context, storeId: string, perSecond: number, signal?: AbortSignal): Promise<Turn> {
  for (let waited = 0; ;) {
    signal?.throwIfAborted();
    const found = await look(ctx, storeId, perSecond);
    if (found === null) {
      // Made outside the transaction: an insert that meets the row takes a shared lock on it, and two who then want it alone stop each other.
      await ctx.db.run('INSERT IGNORE INTO store_rate (store_id) VALUES (?)', [storeId]);
      continue;
    }
    const { place, waitMs } = found;
    if (place !== null)
      return {
        answered: async () => {
          await ctx.db.run(
            'UPDATE store_request SET held_until = UTC_TIMESTAMP(3) + INTERVAL ? MICROSECOND WHERE id = ?',
            [WINDOW_MS * 1000, place],
          );
        },
      };
    // Those who wait do not come back in the same moment.
    const wait = Math.max(5, waitMs) + ctx.chance.fraction() * 100;
    if (waited + wait > MAX_WAIT_MS && waitMs > MAX_WAIT_MS / 2) throw shopBusy(waitMs);
    waited += wait;
    await delay(wait, undefined, { signal });
  }
}

/** The shop cannot take it now; nothing is wrong with it, so that it costs no try. */
export const shopBusy = (retryAfterMs: number): TypicaError =>
  new TypicaError('unavailable', 'shop-busy', 'The shop asks to wait; it continues automatically.', {
    retryAfterMs: Math.ceil(retryAfterMs),
    costsNoTry: true,
  });

/** The shop asked to wait: nobody asks it before that, and then fewer at once than before. */
export async function slowDown(ctx: Context, storeId: string, perSecond: number, retryAfterMs: number): Promise<void> {
  await ctx.db.run('INSERT IGNORE INTO store_rate (store_id) VALUES (?)', [storeId]);
  await ctx.db.run(
    `UPDATE store_rate r SET r.paused_until = GREATEST(COALESCE(r.paused_until, UTC_TIMESTAMP(3)), UTC_TIMESTAMP(3) + INTERVAL ? MICROSECOND),
       r.places = IF(r.slowed_at > UTC_TIMESTAMP(3) - INTERVAL 2 SECOND, r.places, GREATEST(1, FLOOR(COALESCE(${PLACES}, ?) / 2))),
       r.slowed_at = UTC_TIMESTAMP(3) WHERE r.store_id = ?`,
    [Math.round(retryAfterMs * 1000), perSecond, perSecond, perSecond, storeId],
  );
}
