import { ownEntry } from '../own-entry';
import { setChosen } from './choosing';
import type { ProductDocument } from './document';

type LeftOut = { readonly [variantKey: string]: true };

/** Chosen variants that a store does not sell; what the product no longer has is none of them. */
export function leftOutOf({ leftOut, variants }: ProductDocument, storeId: string | null): string[] {
  return Object.keys(ownEntry(leftOut, storeId) ?? {}).filter((key) => Object.hasOwn(variants, key));
}

/** The product as one store sells it: without the variants that are left out there. */
export function asSoldIn(doc: ProductDocument, storeId: string | null): ProductDocument {
  const without = leftOutOf(doc, storeId);
  if (without.length === 0) return doc;
  const gone = new Set(without);
  return { ...doc, variants: Object.fromEntries(Object.entries(doc.variants).filter(([key]) => !gone.has(key))) };
}

function withLeftOut(doc: ProductDocument, storeId: string, own: LeftOut): ProductDocument {
  const { [storeId]: _own, ...others } = doc.leftOut ?? {};
  const leftOut = Object.keys(own).length > 0 ? { ...others, [storeId]: own } : others;
  const { leftOut: _all, ...rest } = doc;
  return Object.keys(leftOut).length > 0 ? { ...rest, leftOut } : rest;
}

/** Sells chosen variants in one store, or leaves them out there. */
export function setOffered(
  doc: ProductDocument,
  storeId: string,
  keys: readonly string[],
  offered: boolean,
): ProductDocument {
  const changed = new Set(keys);
  const stay = leftOutOf(doc, storeId).filter((key) => !changed.has(key));
  const added = offered ? [] : keys.filter((key) => Object.hasOwn(doc.variants, key));
  return withLeftOut(doc, storeId, Object.fromEntries([...stay, ...added].map((key) => [key, true])));
}

/** Sells in a store all that the product has. */
export const offerAll = (doc: ProductDocument, storeId: string): ProductDocument => withLeftOut(doc, storeId, {});

/** Leaves variants out of one store, or of the product. */
export const leaveOut = (doc: ProductDocument, storeId: string | null, keys: readonly string[]): ProductDocument =>
  storeId === null ? setChosen(doc, keys, false) : setOffered(doc, storeId, keys, false);
