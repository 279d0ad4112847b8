import { ownEntry } from '@/core/own-entry';
import type { Database } from '../db/pool';

/** A product that is marked for one store and then for another is judged in all of them. */
const MARK =
  "ON DUPLICATE KEY UPDATE asked = asked + 1, store_id = IF(judge_due.store_id = VALUES(store_id), judge_due.store_id, '')";

/** What a mark says that is for all stores. */
export const EVERY_STORE = '';

/** Products of a workspace that something concerns, by what it is about. */
const CONCERNED: ReadonlyMap<string, { readonly where: string; readonly key: string | null }> = new Map([
  [
    'product',
    { where: '(id = ? OR id IN (SELECT product_id FROM product_companion WHERE companion_id = ?))', key: 'productId' },
  ],
  ['listing', { where: 'id = ?', key: 'productId' }],
  ['finding', { where: 'id = ?', key: 'productId' }],
  ['artwork', { where: 'id IN (SELECT product_id FROM product_artwork WHERE artwork_id = ?)', key: 'artworkId' }],
  ['store', { where: 'TRUE', key: null }],
  ['catalog', { where: 'TRUE', key: null }],
  ['money', { where: 'TRUE', key: null }],
  ['sale', { where: 'TRUE', key: null }],
]);

const textOf = (payload: object, key: string): string | null => {
  const value = ownEntry(payload as { readonly [name: string]: unknown }, key);
  return typeof value === 'string' ? value : null;
};

/** Marks the products whose outcomes in stores something can change, in the transaction that changes it. */
export async function markDue(db: Database, workspaceId: string, topic: string, payload: object): Promise<void> {
  const concerned = CONCERNED.get(topic);
  if (!concerned) return;
  const { where, key } = concerned;
  const id = key === null ? null : textOf(payload, key);
  if (key !== null && id === null) return;
  const storeId = topic === 'listing' ? (textOf(payload, 'storeId') ?? EVERY_STORE) : EVERY_STORE;
  const marks = where.split('?').length - 1;
  await db.run(
    `INSERT INTO judge_due (product_id, store_id, workspace_id) SELECT id, ?, workspace_id FROM product WHERE workspace_id = ? AND ${where} ${MARK}`,
    [storeId, workspaceId, ...Array.from({ length: marks }, () => id!)],
  );
}

/** Marks every product that is printed on one of the catalog's blanks: of all workspaces. */
export const markAllDue = (db: Database): Promise<unknown> =>
  db.run(
    `INSERT INTO judge_due (product_id, workspace_id) SELECT id, workspace_id FROM product WHERE archived_at IS NULL ${MARK}`,
  );

/** Marks what was judged before today (UTC): fees, sales and price lists begin and end by the day. */
export const markOfEarlierDays = (db: Database, today: string, limit: number): Promise<unknown> =>
  db.run(
    `INSERT INTO judge_due (product_id, workspace_id) SELECT DISTINCT product_id, workspace_id FROM listing_outcome WHERE judged_at < ? LIMIT ? ${MARK}`,
    [today, limit],
  );
