import type { SyncState } from '@/core/sync/state';
import type { Database } from '../db/pool';
import { emit, tell } from '../events/events';

interface Settled {
  readonly workspaceId: string;
  readonly productId: string;
  readonly storeId: string;
  /** Of the listings of the product in the store. */
  readonly number: number;
  /** Of the form that was sent. */
  readonly hash: string;
  readonly state: Exclude<SyncState, 'on-its-way'>;
}

/**
 * Notes, in the transaction that ends a send, where its listing stands now, and tells browsers. Nothing is judged anew as long as the outcome is one of the
 * very form that was sent: what the rules say of it stays. Where it is of another form, or there is none, the product is marked.
 */
export async function noteSettled(db: Database, settled: Settled): Promise<void> {
  const { workspaceId, productId, storeId, number, hash, state } = settled;
  // Who judges the product just now has read it before this, and comes again. The mark is held first, as there: one writes after the other.
  await db.run('UPDATE judge_due SET asked = asked + 1 WHERE product_id = ?', [productId]);
  const { affectedRows } = await db.run(
    "UPDATE listing_outcome SET state = ?, changed = '[]' WHERE product_id = ? AND store_id = ? AND number = ? AND here_hash = ?",
    [state, productId, storeId, number, hash],
  );
  const note = affectedRows > 0 ? tell : emit;
  await note(db, workspaceId, 'listing', { productId, storeId });
}
