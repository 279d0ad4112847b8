import { TypicaError, notFound } from '@/core/errors';
import { note } from '../activity/note';
import type { Context } from '../context';
import type { Database } from '../db/pool';
import { emit } from '../events/events';
import type { Actor } from '../people/people';

/** Where a product is: in the range, archived, or deleted and kept for a while. */
export const SHELVES = ['range', 'archived', 'deleted'] as const;
export type ProductShelf = (typeof SHELVES)[number];

/** How each is found in the table of products. */
export const SHELF_WHERE: Readonly<Record<ProductShelf, string>> = {
  range: 'archived_at IS NULL',
  archived: 'archived_at IS NOT NULL AND deleted_at IS NULL',
  deleted: 'deleted_at IS NOT NULL',
};

/** Days in which a deleted product can be brought back. */
export const KEPT_DAYS = 30;

/** Where a product of the workspace is. Throws `not-found`. */
export async function shelfOf(
  db: Database,
  workspaceId: string,
  id: string,
): Promise<{ shelf: ProductShelf; title: string }> {
  const row = await db.row<{ title: string; archived: number; deleted: number }>(
    'SELECT title, archived_at IS NOT NULL AS archived, deleted_at IS NOT NULL AS deleted FROM product WHERE id = ? AND workspace_id = ?',
    [id, workspaceId],
  );
  if (!row) throw notFound('product', id);
  return { shelf: row.deleted ? 'deleted' : row.archived ? 'archived' : 'range', title: row.title };
}

const MOVED = {
  archived: 'Archived the product.',
  restored: 'Brought the product back into the range.',
  deleted: 'Deleted the product.',
};

async function move(
  ctx: Context,
  actor: Actor,
  id: string,
  set: string,
  what: 'archived' | 'restored' | 'deleted',
): Promise<void> {
  await ctx.pools.transaction(async (db) => {
    const { affectedRows } = await db.run(`UPDATE product SET ${set} WHERE id = ? AND workspace_id = ?`, [
      id,
      actor.workspaceId,
    ]);
    if (affectedRows === 0) throw notFound('product', id);
    await note(db, actor, { about: 'product', what, says: MOVED[what], productId: id });
    await emit(db, actor.workspaceId, 'product', { productId: id, by: actor.personName });
  });
}

/** Takes a product out of the range; its listings stay as they are in the shops. Once more changes nothing. */
export const archiveProduct = (ctx: Context, actor: Actor, id: string): Promise<void> =>
  move(ctx, actor, id, 'archived_at = COALESCE(archived_at, UTC_TIMESTAMP(3)), deleted_at = NULL', 'archived');

/** Brings an archived or deleted product back into the range. */
export const restoreProduct = (ctx: Context, actor: Actor, id: string): Promise<void> =>
  move(ctx, actor, id, 'archived_at = NULL, deleted_at = NULL', 'restored');

/**
 * Deletes a product: it can be brought back for `KEPT_DAYS` days. Throws `product-listed` while a shop has it: nobody would keep that
 * listing in step any more.
 */
export async function deleteProduct(ctx: Context, actor: Actor, id: string): Promise<void> {
  const { title } = await shelfOf(ctx.db, actor.workspaceId, id);
  const stores = await ctx.db.rows<{ name: string }>(
    'SELECT DISTINCT s.name FROM listing l JOIN store s ON s.id = l.store_id WHERE l.product_id = ? AND l.external_id IS NOT NULL ORDER BY s.name LIMIT 20',
    [id],
  );
  if (stores.length > 0)
    throw new TypicaError(
      'conflict',
      'product-listed',
      `${title} is still in ${stores.map(({ name }) => name).join(', ')}. Delete the listing in the shop and check the shop here, or archive the product instead.`,
    );
  await move(
    ctx,
    actor,
    id,
    'archived_at = COALESCE(archived_at, UTC_TIMESTAMP(3)), deleted_at = COALESCE(deleted_at, UTC_TIMESTAMP(3))',
    'deleted',
  );
}

/** What of a product is in tables of its own that do not go with its row. */
const PARTS = [
  'product_picture',
  'picture_problem',
  'finding_acceptance',
  'listing',
  'listing_outcome',
  'outcome_rule',
  'judge_due',
] as const;
const AT_ONCE = 20;

/** Deletes for good what was deleted `KEPT_DAYS` days ago. Gives how many. */
export async function dropDeletedProducts(ctx: Context): Promise<number> {
  const rows = await ctx.db.rows<{ id: string }>(
    `SELECT id FROM product WHERE deleted_at < UTC_TIMESTAMP(3) - INTERVAL ${KEPT_DAYS} DAY ORDER BY deleted_at LIMIT ${AT_ONCE}`,
  );
  for (const { id } of rows)
    await ctx.pools.transaction(async (db) => {
      // Somebody may have brought it back meanwhile.
      const still = await db.row('SELECT id FROM product WHERE id = ? AND deleted_at IS NOT NULL FOR UPDATE', [id]);
      if (!still) return;
      for (const table of PARTS) await db.run(`DELETE FROM ${table} WHERE product_id = ?`, [id]);
      await db.run('DELETE FROM product WHERE id = ?', [id]);
    });
  return rows.length;
}
