import { artworkIdsOf, companionIdsOf, type ProductDocument } from '@/core/document/document';
import type { Database } from '../db/pool';

/** Where it is kept what a product uses. */
const USES = [
  { table: 'product_artwork', column: 'artwork_id', of: (doc: ProductDocument) => artworkIdsOf(doc.areas) },
  { table: 'product_companion', column: 'companion_id', of: companionIdsOf },
] as const;

/**
 * Keeps which artwork a product prints and which products are sold together with it, in the transaction that changes its document: artwork
 * that is used cannot be deleted, and what changes in one is known in the other.
 */
export async function recordUsed(
  db: Database,
  productId: string,
  before: ProductDocument | null,
  after: ProductDocument,
): Promise<void> {
  for (const { table, column, of } of USES) {
    const had = new Set(before ? of(before) : []);
    const has = new Set(of(after));
    const gone = [...had].filter((id) => !has.has(id));
    if (gone.length > 0)
      await db.run(`DELETE FROM ${table} WHERE product_id = ? AND ${column} IN (${gone.map(() => '?').join(',')})`, [
        productId,
        ...gone,
      ]);
    await db.insertMany(
      table,
      ['product_id', column],
      [...has].filter((id) => !had.has(id)).map((id) => [productId, id]),
      `ON DUPLICATE KEY UPDATE ${column} = ${column}`,
    );
  }
}
