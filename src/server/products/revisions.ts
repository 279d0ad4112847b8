import type { Operation } from '@/core/document/patch';
import type { Context } from '../context';
import type { Database } from '../db/pool';

export interface RevisionRow {
  readonly revision: number;
  readonly firstRevision: number;
  readonly patch: Operation[];
  readonly undo: Operation[];
  readonly by: string;
  readonly label: string;
  readonly createdAt: Date;
}

const SELECT = `SELECT r.revision, r.first_revision AS firstRevision, r.patch, r.undo_patch AS \`undo\`, p.name AS \`by\`, r.label, r.created_at AS createdAt
  FROM product_revision r JOIN person p ON p.id = r.person_id`;

const parsed = (row: RevisionRow & { patch: unknown; undo: unknown }): RevisionRow => ({
  ...row,
  patch: JSON.parse(row.patch as unknown as string),
  undo: JSON.parse(row.undo as unknown as string),
});

/** Revisions after `revision`, oldest first; null when that revision lies within rows that were merged. */
export async function revisionsSince(db: Database, productId: string, revision: number): Promise<RevisionRow[] | null> {
  const rows = await db.rows<RevisionRow>(`${SELECT} WHERE r.product_id = ? AND r.revision > ? ORDER BY r.revision`, [
    productId,
    revision,
  ]);
  if (rows[0] && rows[0].firstRevision !== revision + 1) return null;
  return rows.map(parsed);
}

/** History for a person, newest first. The caller has checked that the product is in the workspace. */
export const listRevisions = async (ctx: Context, productId: string, limit = 100): Promise<RevisionRow[]> =>
  (
    await ctx.db.rows<RevisionRow>(`${SELECT} WHERE r.product_id = ? ORDER BY r.revision DESC LIMIT ?`, [
      productId,
      limit,
    ])
  ).map(parsed);

/**
 * Thins out old history: rows of one product older than a day are merged by the hour, older than 30 days by the day. A merged row
 * carries all its patches in order, so that history stays whole while it gets coarser. At most 50 merges a call.
 */
export async function thinRevisions(ctx: Context): Promise<number> {
  const groups = await ctx.db.rows<{ productId: string; first: number; last: number }>(
    `SELECT product_id AS productId, MIN(revision) AS first, MAX(revision) AS last FROM product_revision
     WHERE created_at < UTC_TIMESTAMP(3) - INTERVAL 1 DAY
     GROUP BY product_id, IF(created_at < UTC_TIMESTAMP(3) - INTERVAL 30 DAY, DATE_FORMAT(created_at, '%Y-%m-%d'), DATE_FORMAT(created_at, '%Y-%m-%d %H'))
     HAVING COUNT(*) > 1 LIMIT 50`,
  );
  for (const { productId, first, last } of groups) {
    await ctx.pools.transaction(async (db) => {
      await db.row('SELECT id FROM product WHERE id = ? FOR UPDATE', [productId]);
      const rows = (
        await db.rows<RevisionRow>(
          `${SELECT} WHERE r.product_id = ? AND r.revision BETWEEN ? AND ? ORDER BY r.revision`,
          [productId, first, last],
        )
      ).map(parsed);
      if (rows.length < 2) return;
      await db.run('DELETE FROM product_revision WHERE product_id = ? AND revision BETWEEN ? AND ?', [
        productId,
        first,
        last - 1,
      ]);
      await db.run(
        'UPDATE product_revision SET first_revision = ?, patch = ?, undo_patch = ? WHERE product_id = ? AND revision = ?',
        [
          rows[0]!.firstRevision,
          JSON.stringify(rows.flatMap((row) => row.patch)),
          JSON.stringify(rows.toReversed().flatMap((row) => row.undo)),
          productId,
          last,
        ],
      );
    });
  }
  return groups.length;
}
