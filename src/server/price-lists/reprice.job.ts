import type { Context } from '../context';
import type { JobControl } from '../jobs/worker';
import type { Product } from '../products/products';
import { loadSearchWorld, writeSearchRows, type SearchWorld } from '../products/search-rows';

/** Brings the searchable prices of a workspace's products on one partner's blanks up to date, after its costs changed. */
export async function repriceProducts(ctx: Context, { job, progress }: JobControl): Promise<unknown> {
  const products = await ctx.db.rows<{ id: string; blankId: string }>(
    `SELECT p.id, p.blank_id AS blankId FROM product p JOIN blank b ON b.id = p.blank_id
     WHERE p.workspace_id = ? AND p.archived_at IS NULL AND b.partner_id = ? ORDER BY p.blank_id, p.id`,
    [job.workspaceId, String(job.payload.partnerId)],
  );
  let world: SearchWorld | null = null;
  for (const [index, { id, blankId }] of products.entries()) {
    if (index % 20 === 0) await progress(index, products.length, `${index} of ${products.length} products`);
    if (world?.blank.id !== blankId) world = await loadSearchWorld(ctx, job.workspaceId, blankId);
    const current = world;
    await ctx.pools.transaction(async (db) => {
      const product = await db.row<Pick<Product, 'id' | 'workspaceId' | 'document'>>(
        'SELECT id, workspace_id AS workspaceId, document FROM product WHERE id = ? FOR UPDATE',
        [id],
      );
      if (product) await writeSearchRows(db, product, current);
    });
  }
  return { products: products.length };
}
