import type { SentSkus } from '@/core/variants/sku';
import type { Database } from '../db/pool';
import { putEntry } from '@/core/own-entry';

/** SKUs that shops have seen, by product. */
export async function sentSkusOf(db: Database, productIds: readonly string[]): Promise<Map<string, SentSkus>> {
  const sent = new Map<string, Record<string, string>>();
  if (productIds.length === 0) return sent;
  const rows = await db.rows<{ productId: string; variantKey: string; sku: string }>(
    `SELECT product_id AS productId, variant_key AS variantKey, sku FROM sent_sku WHERE product_id IN (${productIds.map(() => '?').join(',')})`,
    productIds,
  );
  for (const { productId, variantKey, sku } of rows) {
    const own = sent.get(productId) ?? {};
    putEntry(own, variantKey, sku);
    sent.set(productId, own);
  }
  return sent;
}

/** Keeps the SKUs of a form before a shop sees them: from then on they stay. */
export async function saveSentSkus(
  db: Database,
  productId: string,
  variants: { readonly [variantKey: string]: { readonly sku: string } },
): Promise<void> {
  const rows = Object.entries(variants);
  if (rows.length === 0) return;
  await db.run(
    `INSERT IGNORE INTO sent_sku (product_id, variant_key, sku) VALUES ${rows.map(() => '(?, ?, ?)').join(', ')}`,
    rows.flatMap(([key, { sku }]) => [productId, key, sku]),
  );
}
