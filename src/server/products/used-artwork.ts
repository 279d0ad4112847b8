import { artworkIdsOf, type ProductDocument } from '@/core/document/document';
import type { Database } from '../db/pool';

/** Keeps which artwork a product prints, in the transaction that changes its document: what is used cannot be deleted. */
export async function recordUsedArtwork(
  db: Database,
  productId: string,
  before: ProductDocument | null,
  after: ProductDocument,
): Promise<void> {
  const had = new Set(before ? artworkIdsOf(before.areas) : []);
  const has = new Set(artworkIdsOf(after.areas));
  const gone = [...had].filter((id) => !has.has(id));
  if (gone.length > 0)
    await db.run(
      `DELETE FROM product_artwork WHERE product_id = ? AND artwork_id IN (${gone.map(() => '?').join(',')})`,
      [productId, ...gone],
    );
  await db.insertMany(
    'product_artwork',
    ['product_id', 'artwork_id'],
    [...has].filter((id) => !had.has(id)).map((artworkId) => [productId, artworkId]),
    'ON DUPLICATE KEY UPDATE artwork_id = artwork_id',
  );
}
