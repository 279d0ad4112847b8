import { conflict } from '@/core/errors';
import type { Context } from '../context';
import { emit } from '../events/events';
import { enqueue } from '../jobs/jobs';
import type { JobControl } from '../jobs/worker';
import { findStore, type Store } from './stores';

/** Takes everything of a store off sale for a while, or shows it again as it was. Throws `store-paused` or `store-not-paused`. */
export async function pauseStore(ctx: Context, store: Store, paused: boolean): Promise<Store> {
  await ctx.pools.transaction(async (db) => {
    const { affectedRows } = await db.run(
      `UPDATE store SET paused_at = ${paused ? 'UTC_TIMESTAMP(3)' : 'NULL'} WHERE id = ? AND state <> 'disconnected' AND paused_at IS ${paused ? '' : 'NOT'} NULL`,
      [store.id],
    );
    if (affectedRows === 0)
      throw paused
        ? conflict('store-paused', `${store.name} is paused already.`)
        : conflict('store-not-paused', `${store.name} is not paused.`);
    await enqueue(db, {
      workspaceId: store.workspaceId,
      kind: 'pause-store',
      title: paused ? `Pause ${store.name}` : `Show ${store.name} again`,
      payload: { storeId: store.id },
      subject: `pause:${store.id}`,
      storeId: store.id,
      priority: 8,
    });
    await emit(db, store.workspaceId, 'store', { storeId: store.id });
  });
  return findStore(ctx, store.workspaceId, store.id);
}

/** Listings whose jobs are written down in one go. */
const PAGE = 200;

/**
 * Writes down a job for each listing that a pause hides, or that its end shows again. What is wanted is read from the store when each runs: a
 * pause that ended meanwhile hides nothing.
 */
export async function layOutPause(ctx: Context, control: JobControl): Promise<unknown> {
  const { workspaceId, payload } = control.job;
  const store = await findStore(ctx, workspaceId, String(payload.storeId));
  const concerned = store.pausedAt ? "visibility = 'live'" : 'hidden_by_pause';
  let after = '';
  let laid = 0;
  for (;;) {
    const rows = await ctx.db.rows<{ id: string }>(
      `SELECT id FROM listing WHERE store_id = ? AND external_id IS NOT NULL AND ${concerned} AND id > ? ORDER BY id LIMIT ${PAGE}`,
      [store.id, after],
    );
    if (rows.length === 0) return { laid };
    await control.write(async (db) => {
      for (const { id } of rows) {
        const jobId = await enqueue(db, {
          workspaceId,
          kind: 'show-listing',
          title: store.pausedAt ? `Take off sale in ${store.name}` : `Show again in ${store.name}`,
          payload: { listingId: id },
          subject: `listing:${id}`,
          storeId: store.id,
          priority: 6,
          maxAttempts: 8,
        });
        await db.run('UPDATE listing SET job_id = ? WHERE id = ?', [jobId, id]);
      }
    });
    after = rows.at(-1)!.id;
    laid += rows.length;
    await control.progress(laid, laid + 1, `${laid} listings`);
  }
}
