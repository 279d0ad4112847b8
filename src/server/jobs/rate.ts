import { setTimeout as delay } from 'node:timers/promises';
import type { Context } from '../context';

/**
 * Waits until the store's token bucket has a token and takes it; all workers on one database share the bucket, so that a shop's rate
 * holds however many of them run. The bucket's row is locked for the moment of counting only.
 */
export async function takeRateToken(
  ctx: Context,
  storeId: string,
  rate: { perSecond: number; burst: number },
): Promise<void> {
  for (;;) {
    const waitMs = await ctx.pools.transaction(async (db) => {
      const row = await db.row<{ tokens: number; elapsed: number }>(
        'SELECT tokens, TIMESTAMPDIFF(MICROSECOND, refilled_at, UTC_TIMESTAMP(3)) / 1000000 AS elapsed FROM store_rate WHERE store_id = ? FOR UPDATE',
        [storeId],
      );
      if (!row) return null;
      const tokens = Math.min(rate.burst, Number(row.tokens) + Number(row.elapsed) * rate.perSecond);
      if (tokens < 1) return ((1 - tokens) / rate.perSecond) * 1000;
      await db.run('UPDATE store_rate SET tokens = ?, refilled_at = UTC_TIMESTAMP(3) WHERE store_id = ?', [
        tokens - 1,
        storeId,
      ]);
      return 0;
    });
    if (waitMs === null) {
      // Made outside the transaction: an insert that meets the row takes a shared lock on it, and two who then want it alone stop each other.
      await ctx.db.run(
        'INSERT IGNORE INTO store_rate (store_id, tokens, refilled_at) VALUES (?, ?, UTC_TIMESTAMP(3))',
        [storeId, rate.burst],
      );
      continue;
    }
    if (waitMs === 0) return;
    await delay(Math.max(5, waitMs));
  }
}
