import type { ProductDocument } from '@/core/document/document';
import { skusOf } from '@/core/variants/sku';
import { loadBlank } from '../catalog/blanks';
import type { Context } from '../context';
import type { Database } from '../db/pool';
import { log } from '../log';
import { sentSkusOf } from './sent-skus';

/**
 * The SKUs of all products in a table, by which they are searched (`product_variant`). It is written after a product is saved, by what is
 * different, so that saving does not wait for it; `product.variants_revision` says up to which revision it holds. What was cut off in between
 * is made up for by `catchUpVariants`.
 */
interface Saved {
  readonly workspaceId: string;
  readonly blankId: string;
  readonly revision: number;
  readonly document: ProductDocument;
}

async function writeDifference(db: Database, id: string, workspaceId: string, skus: ReadonlyMap<string, string>) {
  const rows = await db.rows<{ key: string; sku: string }>(
    'SELECT variant_key AS `key`, sku FROM product_variant WHERE product_id = ?',
    [id],
  );
  const there = new Map(rows.map(({ key, sku }) => [key, sku]));
  const gone = [...there.keys()].filter((key) => !skus.has(key));
  for (let i = 0; i < gone.length; i += 500) {
    const part = gone.slice(i, i + 500);
    await db.run(
      `DELETE FROM product_variant WHERE product_id = ? AND variant_key IN (${part.map(() => '?').join(',')})`,
      [id, ...part],
    );
  }
  await db.insertMany(
    'product_variant',
    ['product_id', 'variant_key', 'workspace_id', 'sku'],
    [...skus].filter(([key, sku]) => there.get(key) !== sku).map(([key, sku]) => [id, key, workspaceId, sku]),
    'ON DUPLICATE KEY UPDATE sku = VALUES(sku)',
  );
}

/** Brings one product's rows up to its document; nothing for a product that is gone or whose rows hold already. */
export async function writeVariantRows(ctx: Context, productId: string): Promise<void> {
  const which = await ctx.db.row<{ blankId: string }>('SELECT blank_id AS blankId FROM product WHERE id = ?', [
    productId,
  ]);
  if (!which) return;
  const blank = await loadBlank(ctx, which.blankId);
  await ctx.pools.transaction(async (db) => {
    const product = await db.row<Saved>(
      `SELECT workspace_id AS workspaceId, blank_id AS blankId, revision, document FROM product
       WHERE id = ? AND variants_revision < revision FOR UPDATE`,
      [productId],
    );
    if (!product) return;
    const sent = (await sentSkusOf(db, [productId])).get(productId);
    const all = skusOf(productId, product.document, blank, sent);
    const skus = new Map(Object.keys(product.document.variants).map((key) => [key, all.get(key) ?? '']));
    await writeDifference(db, productId, product.workspaceId, skus);
    await db.run('UPDATE product SET variants_revision = ? WHERE id = ?', [product.revision, productId]);
  });
}

/** As `writeVariantRows`, for whoever has just saved: what fails now is made up for later. */
export const writeVariantRowsSoon = (ctx: Context, productId: string): Promise<void> =>
  writeVariantRows(ctx, productId).catch((error: unknown) =>
    log.warn({ err: error, productId }, 'SKUs of a product are written later'),
  );

/** Products that are caught up with in one go of the chore. */
const AT_ONCE = 200;

/** Writes the rows of products whose save was cut off before them. Gives how many. */
export async function catchUpVariants(ctx: Context): Promise<number> {
  const behind = await ctx.db.rows<{ id: string }>(
    'SELECT id FROM product WHERE variants_behind = TRUE AND updated_at < UTC_TIMESTAMP(3) - INTERVAL 5 SECOND LIMIT ?',
    [AT_ONCE],
  );
  for (const { id } of behind) await writeVariantRows(ctx, id);
  return behind.length;
}
