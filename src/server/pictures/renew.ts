import type { Database } from '../db/pool';
import { enqueue } from '../jobs/jobs';

/** Asks for the pictures of a product to be made as it is now, in a job; one that has not begun yet does for all. Gives its id. */
export async function askForPictures(
  db: Database,
  { id, workspaceId, title }: { readonly id: string; readonly workspaceId: string; readonly title: string },
): Promise<string> {
  return enqueue(db, {
    workspaceId,
    kind: 'make-pictures',
    title: `Pictures of ${title}`,
    payload: { productId: id },
    subject: `product:${id}`,
    priority: 12,
    maxAttempts: 3,
  });
}

/** Renews the pictures of a product whose pictures someone has looked at. */
export async function enqueuePictures(
  db: Database,
  product: { readonly id: string; readonly workspaceId: string; readonly title: string },
): Promise<void> {
  const seen = await db.row('SELECT 1 AS one FROM product_picture WHERE product_id = ? LIMIT 1', [product.id]);
  if (seen) await askForPictures(db, product);
}
