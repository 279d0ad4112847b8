import type { ProductDocument } from '@/core/document/document';
import { MAX_THREADS } from '@/core/embroidery/limits';
import { inOrder, orderAtEnd } from '@/core/order-key';
import { ownEntry } from '@/core/own-entry';

/** Pins a thread or lets it go, or swaps one for another; swapped for itself it is as it was. Of seven pinned the first goes. */
export function chooseThread(
  doc: ProductDocument,
  areaKey: string,
  change: { readonly pin: string } | { readonly swap: string; readonly by: string },
): ProductDocument {
  const area = ownEntry(doc.areas, areaKey);
  if (!area) return doc;
  const { pinned, swaps } = area.threads ?? { pinned: {}, swaps: {} };
  let threads;
  if ('pin' in change) {
    const { [change.pin]: there, ...others } = pinned;
    const next = there ? others : { ...pinned, [change.pin]: { order: orderAtEnd(pinned) } };
    threads = { pinned: Object.fromEntries(inOrder(next).slice(-MAX_THREADS)), swaps };
  } else {
    const { [change.swap]: _before, ...others } = swaps;
    threads = { pinned, swaps: change.by === change.swap ? others : { ...others, [change.swap]: change.by } };
  }
  return { ...doc, areas: { ...doc.areas, [areaKey]: { ...area, threads } } };
}
