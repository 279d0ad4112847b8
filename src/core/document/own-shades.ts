import { ownEntry } from '../own-entry';
import type { ProductDocument } from './document';

/** The product with a store's own names for colors, by color, laid over those that it has; null takes a color's away. */
export function nameColors(
  doc: ProductDocument,
  storeId: string,
  names: { readonly [colorCode: string]: string | null },
): ProductDocument {
  const { [storeId]: _own, ...others } = doc.shades ?? {};
  const own = Object.fromEntries(
    Object.entries({ ...ownEntry(doc.shades, storeId), ...names }).flatMap(([code, name]) =>
      name === null ? [] : [[code, name] as const],
    ),
  );
  const shades = Object.keys(own).length > 0 ? { ...others, [storeId]: own } : others;
  const { shades: _all, ...rest } = doc;
  return Object.keys(shades).length > 0 ? { ...rest, shades } : rest;
}

/** Takes all of a store's own names for colors away. */
export const followShades = (doc: ProductDocument, storeId: string): ProductDocument =>
  nameColors(
    doc,
    storeId,
    Object.fromEntries(Object.keys(ownEntry(doc.shades, storeId) ?? {}).map((code) => [code, null])),
  );
