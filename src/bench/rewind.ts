import type { ProductDocument } from '@/core/document/document';
import { applyPatch, KEPT, type Operation } from '@/core/document/patch';

/**
 * The document as it was before the revision at `index` of a history that lists the newest first: back through it and all that came
 * after it. Throws `patch-failed` when the document is not the newest of that history.
 */
export function documentBefore(
  now: ProductDocument,
  newestFirst: readonly { readonly undo: readonly Operation[] }[],
  index: number,
): ProductDocument {
  return newestFirst.slice(0, index + 1).reduce((document, row) => applyPatch(document, row.undo, KEPT), now);
}
