import { colorOption, type Blank } from '../catalog/blank';
import type { ProductDocument, SplitListing } from './document';
import type { VariantMatch } from './match-variants';

const mapped = (keys: object | undefined, to: ReadonlyMap<string, string>): { readonly [key: string]: true } =>
  Object.fromEntries(Object.keys(keys ?? {}).flatMap((key) => (to.has(key) ? [[to.get(key)!, true as const]] : [])));

const byStore = <T>(stores: { readonly [storeId: string]: T } | undefined, there: (own: T) => T | null) =>
  Object.fromEntries(
    Object.entries(stores ?? {}).flatMap(([id, own]) => {
      const moved = there(own);
      return moved === null ? [] : [[id, moved] as const];
    }),
  );

/** What stores leave out, in how many listings they sell and what they call colors, on another blank: as far as variants and colors are found again there. */
export function storesThere(
  doc: ProductDocument,
  from: Blank,
  to: Blank,
  { keyOf, colors }: VariantMatch,
): Pick<ProductDocument, 'leftOut' | 'split' | 'shades'> {
  const option = colorOption(to)?.code;
  const leftOut = byStore(doc.leftOut, (own) => {
    const there = mapped(own, keyOf);
    return Object.keys(there).length > 0 ? there : null;
  });
  const split = byStore(doc.split, (own) => {
    if (option === undefined || own.option !== colorOption(from)?.code) return null;
    const listings = Object.entries(own.listings).map(([number, { values, ...rest }]): [string, SplitListing] => [
      number,
      values ? { ...rest, values: mapped(values, colors) } : rest,
    ]);
    return { option, listings: Object.fromEntries(listings) };
  });
  const shades = byStore(doc.shades, (own) => {
    const there = Object.entries(own).flatMap(([code, name]) =>
      colors.has(code) ? [[colors.get(code)!, name] as const] : [],
    );
    return there.length > 0 ? Object.fromEntries(there) : null;
  });
  return {
    ...(Object.keys(leftOut).length > 0 ? { leftOut } : {}),
    ...(Object.keys(split).length > 0 ? { split } : {}),
    ...(Object.keys(shades).length > 0 ? { shades } : {}),
  };
}
