import { orderAtEnd } from '../order-key';
import { ownEntry } from '../own-entry';
import type { Aim } from '../pricing/solve';
import type { Bundle, BundleItem, Bundles, ProductDocument } from './document';

/** What shops call the choice of bundles until the seller says otherwise. */
export const PLAIN_NAMES = { option: 'Set', alone: 'On its own' } as const;

const withEntries = (doc: ProductDocument, entries: Bundles['entries']): ProductDocument => {
  if (Object.keys(entries).length > 0) return { ...doc, bundles: { ...(doc.bundles ?? PLAIN_NAMES), entries } };
  const { bundles: _none, ...rest } = doc;
  return rest;
};

/** A new bundle at the end, with a first product in it. */
export function addBundle(
  doc: ProductDocument,
  ids: { readonly bundle: string; readonly item: string },
  bundle: { readonly name: string; readonly aim: Aim; readonly item: Omit<BundleItem, 'order'> },
): ProductDocument {
  const entries = doc.bundles?.entries ?? {};
  const { name, aim, item } = bundle;
  const items = { [ids.item]: { ...item, order: orderAtEnd({}) } };
  return withEntries(doc, { ...entries, [ids.bundle]: { name, aim, items, order: orderAtEnd(entries) } });
}

/** Changes parts of a bundle; one that is gone stays gone. */
export function setBundle(doc: ProductDocument, id: string, part: Partial<Bundle>): ProductDocument {
  const bundle = ownEntry(doc.bundles?.entries, id);
  return bundle ? withEntries(doc, { ...doc.bundles!.entries, [id]: { ...bundle, ...part } }) : doc;
}

/** What a bundle's price is to reach, in the base or in one store; `null` lets the store follow the base again. */
export function setBundleAim(
  doc: ProductDocument,
  id: string,
  storeId: string | null,
  aim: Aim | null,
): ProductDocument {
  if (storeId === null) return aim ? setBundle(doc, id, { aim }) : doc;
  const { [storeId]: _before, ...others } = ownEntry(doc.bundles?.entries, id)?.stores ?? {};
  return setBundle(doc, id, { stores: aim ? { ...others, [storeId]: aim } : others });
}

/** Puts a product into a bundle, or with `item` null takes one out. */
export function setBundleItem(
  doc: ProductDocument,
  id: string,
  itemId: string,
  item: Omit<BundleItem, 'order'> | null,
): ProductDocument {
  const bundle = ownEntry(doc.bundles?.entries, id);
  if (!bundle) return doc;
  const { [itemId]: before, ...others } = bundle.items;
  if (item === null) return setBundle(doc, id, { items: others });
  const order = before?.order ?? orderAtEnd(others);
  return setBundle(doc, id, { items: { ...bundle.items, [itemId]: { ...item, order } } });
}

export function removeBundle(doc: ProductDocument, id: string): ProductDocument {
  const { [id]: _gone, ...entries } = doc.bundles?.entries ?? {};
  return withEntries(doc, entries);
}

/** What shops call the choice, and the product by itself. */
export const setBundleNames = (doc: ProductDocument, names: Partial<Omit<Bundles, 'entries'>>): ProductDocument =>
  doc.bundles ? { ...doc, bundles: { ...doc.bundles, ...names } } : doc;
