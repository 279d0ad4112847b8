import { generateNKeysBetween } from 'fractional-indexing';
import type { Option, OptionValue } from '../catalog/blank';
import type { ProductDocument } from '../document/document';
import { ownEntry } from '../own-entry';

/** An option's values in the seller's order: those that have a place first, the others as the blank has them. */
export function orderedValues(doc: Pick<ProductDocument, 'optionOrder'>, option: Option): readonly OptionValue[] {
  const own = ownEntry(doc.optionOrder, option.code);
  if (!own) return option.values;
  const place = (value: OptionValue) => ownEntry(own, value.code)?.order;
  return option.values.toSorted((a, b) => {
    const [x, y] = [place(a), place(b)];
    if (x !== undefined && y !== undefined) return x < y ? -1 : x > y ? 1 : 0;
    return x !== undefined ? -1 : y !== undefined ? 1 : 0;
  });
}

/** The document with one value moved by so many places; all values get a place, so that later ones of the blank come after. */
export function moveValue(doc: ProductDocument, option: Option, valueCode: string, by: number): ProductDocument {
  const codes = orderedValues(doc, option).map((value) => value.code);
  const from = codes.indexOf(valueCode);
  const to = Math.max(0, Math.min(codes.length - 1, from + by));
  if (from < 0 || from === to) return doc;
  codes.splice(to, 0, ...codes.splice(from, 1));
  const keys = generateNKeysBetween(null, null, codes.length);
  const order = Object.fromEntries(codes.map((code, i) => [code, { order: keys[i]! }]));
  return { ...doc, optionOrder: { ...doc.optionOrder, [option.code]: order } };
}
