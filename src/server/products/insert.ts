import type { ProductDocument } from '@/core/document/document';
import { newId } from '../db/ids';
import { note } from '../activity/note';
import type { Database } from '../db/pool';
import { emit } from '../events/events';
import { recordUsed } from './used';

/** Writes a new product down, in its first revision, and tells the workspace that it is there. Gives its id. */
export async function insertProduct(
  db: Database,
  doer: { readonly workspaceId: string; readonly personName: string },
  document: ProductDocument,
  says = 'Made the product.',
): Promise<string> {
  const { workspaceId } = doer;
  const id = newId('p');
  await db.run(
    'INSERT INTO product (id, workspace_id, blank_id, title, revision, document) VALUES (?, ?, ?, ?, 1, ?)',
    [id, workspaceId, document.blankId, document.words.base.title, JSON.stringify(document)],
  );
  await recordUsed(db, id, null, document);
  await note(db, doer, { about: 'product', what: 'made', says, productId: id });
  await emit(db, workspaceId, 'product', { productId: id, revision: 1 });
  return id;
}
