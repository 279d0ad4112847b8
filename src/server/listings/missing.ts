import { invalid } from '@/core/errors';
import { isMass, type Missing } from '@/core/sync/missing';
import { count } from '@/core/words/count';
import { note } from '../activity/note';
import type { Context } from '../context';
import type { Database } from '../db/pool';
import { emit } from '../events/events';
import type { Actor } from '../people/people';
import type { Store } from '../stores/stores';

/** Hours for which a person's word holds that what is not found was deleted. */
const BELIEVED_HOURS = 2;

/** How many listings of a store its shop did not find when they were looked for last. */
export async function missingIn(db: Database, storeId: string): Promise<Missing> {
  const row = await db.row<{ missing: number; total: number }>(
    `SELECT (SELECT COUNT(*) FROM listing WHERE store_id = ? AND missing_since IS NOT NULL) AS missing,
       (SELECT COUNT(*) FROM listing WHERE store_id = ? AND external_id IS NOT NULL) AS total`,
    [storeId, storeId],
  );
  return { missing: Number(row!.missing), total: Number(row!.total) };
}

/** Whether it waits for a person's word that what is missing in a store was deleted there: it is much at once, and nobody said so lately. */
export async function waitsForWord(db: Database, storeId: string): Promise<boolean> {
  const said = await db.row('SELECT id FROM store WHERE id = ? AND believe_missing_until > UTC_TIMESTAMP(3)', [
    storeId,
  ]);
  return !said && isMass(await missingIn(db, storeId));
}

const isNo = (n: number) => (n === 1 ? 'was' : 'were');

/**
 * Somebody says what became of the listings that a shop does not find: `deleted`, which is believed where they are not found once more, or not, and
 * all are looked for again. Throws `none-missing`.
 */
export async function sayOfMissing(ctx: Context, actor: Actor, store: Store, deleted: boolean): Promise<number> {
  return ctx.pools.transaction(async (db) => {
    const { affectedRows } = await db.run(
      `UPDATE listing SET ${deleted ? '' : 'missing_since = NULL, '}read_level = 0, read_due_at = UTC_TIMESTAMP(3)
       WHERE store_id = ? AND external_id IS NOT NULL AND missing_since IS NOT NULL`,
      [store.id],
    );
    if (affectedRows === 0)
      throw invalid('none-missing', `Every listing in ${store.name} was found when it was last looked for.`);
    await db.run(
      `UPDATE store SET believe_missing_until = ${deleted ? `UTC_TIMESTAMP(3) + INTERVAL ${BELIEVED_HOURS} HOUR` : 'NULL'} WHERE id = ?`,
      [store.id],
    );
    const says = deleted
      ? `Said that ${count(affectedRows, 'listing')} that ${store.name} does not find ${isNo(affectedRows)} deleted there.`
      : `Had ${count(affectedRows, 'listing')} looked for again in ${store.name}.`;
    await note(db, actor, {
      about: 'store',
      what: deleted ? 'believed-deleted' : 'looked-again',
      says,
      storeId: store.id,
    });
    await emit(db, actor.workspaceId, 'listing', { storeId: store.id });
    return affectedRows;
  });
}
