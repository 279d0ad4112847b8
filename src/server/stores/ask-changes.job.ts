import { isTypicaError } from '@/core/errors';
import type { ListedThere } from '@/ports/channel';
import type { Context } from '../context';
import type { JobControl } from '../jobs/worker';
import { requestReadings } from '../listings/readings';
import { openStore } from './keys';
import { findStore, markLapsed, type Store } from './stores';

/** Pages that are read in one job: what is left comes with the next. */
const PAGES_AT_ONCE = 40;

/** Asks a shop what changed since it was last asked, and has those of our listings read of which it shows something else than we know. */
export async function askChanges(ctx: Context, control: JobControl): Promise<unknown> {
  const { workspaceId, payload } = control.job;
  const store = await findStore(ctx, workspaceId, String(payload.storeId));
  if (store.state !== 'connected') return { changed: 0 };
  try {
    const client = await openStore(ctx, store, control);
    let { mark, page } = await markOf(ctx, store);
    let changed = 0;
    for (let pages = 0; pages < PAGES_AT_ONCE; pages += 1) {
      const { listings, cursor, mark: reached } = await client.list(mark, page);
      // By where the shop has come to, and not by page: a page moves on when something on it changes. Pages only within one moment of the shop's.
      page = reached === mark ? cursor : null;
      const done = cursor === null;
      mark = reached;
      changed += await control.write(async (db) => {
        const found = await markChanged(db, store, listings);
        await db.run('UPDATE store_watch SET mark = ?, page = ?, asked_at = UTC_TIMESTAMP(3) WHERE store_id = ?', [
          ...[mark, page, store.id],
        ]);
        if (found > 0) await requestReadings(db, store);
        return found;
      });
      await control.progress(pages + 1, pages + 2, `${changed} changed`);
      if (done) break;
    }
    return { changed };
  } catch (error) {
    if (isTypicaError(error, 'shop-token')) await markLapsed(ctx, store, error.message);
    throw error;
  }
}

async function markOf({ db }: Context, { id }: Store): Promise<{ mark: string | null; page: string | null }> {
  await db.run('INSERT IGNORE INTO store_watch (store_id) VALUES (?)', [id]);
  return (await db.row<{ mark: string | null; page: string | null }>(
    'SELECT mark, page FROM store_watch WHERE store_id = ?',
    [id],
  ))!;
}

/** Marks those of our listings to be read at once that are not as they were last seen. Gives how many. */
async function markChanged(db: Context['db'], store: Store, listings: readonly ListedThere[]): Promise<number> {
  if (listings.length === 0) return 0;
  const stamps = new Map(listings.map(({ externalId, stamp }) => [externalId, stamp.slice(0, 64)]));
  const ours = await db.rows<{ id: string; externalId: string; thereStamp: string | null }>(
    `SELECT l.id, l.external_id AS externalId, l.there_stamp AS thereStamp FROM listing l LEFT JOIN job j ON j.id = l.job_id
     WHERE l.store_id = ? AND l.external_id IN (${[...stamps].map(() => '?').join(',')}) AND l.agreed_form IS NOT NULL AND COALESCE(j.state, 'done') NOT IN ('queued', 'running', 'waiting')`,
    [store.id, ...stamps.keys()],
  );
  const ids = ours.flatMap(({ id, externalId, thereStamp }) => (stamps.get(externalId) === thereStamp ? [] : [id]));
  if (ids.length > 0)
    await db.run(
      `UPDATE listing SET read_due_at = UTC_TIMESTAMP(3), read_how = 'since' WHERE id IN (${ids.map(() => '?').join(',')})`,
      ids,
    );
  return ids.length;
}
