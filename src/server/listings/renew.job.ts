import { isTypicaError } from '@/core/errors';
import type { ListingForm } from '@/core/listing/form';
import type { Context } from '../context';
import { emit } from '../events/events';
import { enqueue } from '../jobs/jobs';
import type { JobControl } from '../jobs/worker';
import { openStore } from '../stores/keys';
import { findStore, markLapsed } from '../stores/stores';
import { findListing, recordHistory } from './listings';
import { readThere } from './read-there';

/** A live listing is renewed so many hours before it ends. */
const BEFORE_HOURS = 48;
/** Listings that the chore asks for in one go. */
const AT_ONCE = 500;

const soonFrom = (ctx: Context): Date => new Date(ctx.clock.now().getTime() + BEFORE_HOURS * 3_600_000);

/** Asks for every listing to be renewed that ends soon in a store whose rule that is. */
export async function renewEnding(ctx: Context): Promise<number> {
  const rows = await ctx.db.rows<{ id: string; workspaceId: string; storeId: string; name: string }>(
    `SELECT l.id, l.workspace_id AS workspaceId, l.store_id AS storeId, s.name FROM listing l JOIN store s ON s.id = l.store_id LEFT JOIN job j ON j.id = l.job_id
     WHERE l.ends_at < ? AND l.visibility = 'live' AND l.external_id IS NOT NULL AND s.state = 'connected' AND s.paused_at IS NULL
       AND JSON_VALUE(s.settings, '$.renewal') = 'renew' AND COALESCE(j.state, 'done') NOT IN ('queued', 'running', 'waiting') ORDER BY l.ends_at LIMIT ?`,
    [soonFrom(ctx), AT_ONCE],
  );
  for (const { id, workspaceId, storeId, name } of rows)
    await ctx.pools.transaction((db) =>
      enqueue(db, {
        workspaceId,
        kind: 'renew-listing',
        title: `Renew in ${name}`,
        payload: { listingId: id },
        subject: `listing:${id}`,
        storeId,
        priority: 6,
        maxAttempts: 8,
      }),
    );
  return rows.length;
}

/**
 * Pays a live listing's next span. The shop is asked first when it ends: an earlier try whose answer was lost has paid already, and nothing is
 * paid twice.
 */
export async function renewListing(ctx: Context, control: JobControl): Promise<unknown> {
  const { job } = control;
  const row = await findListing(ctx.db, job.workspaceId, String(job.payload.listingId));
  if (!row?.externalId || !row.agreedForm || !row.endsAt || row.visibility !== 'live') return { renewed: false };
  // One that was renewed since this was asked for is not renewed once more.
  if (row.endsAt > soonFrom(ctx)) return { renewed: false };
  const store = await findStore(ctx, job.workspaceId, row.storeId);
  try {
    const client = await openStore(ctx, store, control);
    const there = await readThere(client, row, JSON.parse(row.agreedForm) as ListingForm);
    if (!client.renew || !there?.endsAt) return { renewed: false };
    await control.mayGoOn();
    const endsAt = there.endsAt > row.endsAt ? there.endsAt : await client.renew(row.externalId);
    await control.write(async (db) => {
      await db.run('UPDATE listing SET ends_at = ? WHERE id = ?', [endsAt, row.id]);
      await recordHistory(
        db,
        row,
        'renewed',
        `Renewed until ${endsAt.toISOString().slice(0, 10)}, by the store’s rule.`,
      );
      await emit(db, job.workspaceId, 'listing', { productId: row.productId, storeId: store.id });
    });
    return { renewed: true };
  } catch (error) {
    if (isTypicaError(error, 'shop-token')) await markLapsed(ctx, store, error.message);
    throw error;
  }
}
