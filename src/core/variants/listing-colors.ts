import { colorOption, type Blank, type OptionValue } from '../catalog/blank';
import { chosenColors } from '../document/chosen';
import type { ProductDocument } from '../document/document';
import { asSoldIn } from '../document/offered';
import { asListed, soldListings } from '../document/split';
import { orderedValues } from './order';

/** Colors as they are told in short: all of a few, else the first and the last. */
export function colorNames(colors: readonly { readonly name: string }[]): string {
  const names = colors.map(({ name }) => name);
  return names.length > 3 ? `${names[0]!} to ${names.at(-1)!}` : names.join(', ');
}

/** One of several listings in which a store sells a product. */
export interface ColorListing {
  readonly number: number;
  readonly colors: readonly OptionValue[];
  /** Chosen variants that it sells. */
  readonly variants: number;
}

/** The listings of a store with the colors that each sells, in the seller's order. */
export function colorListings(doc: ProductDocument, blank: Blank, storeId: string): ColorListing[] {
  const color = colorOption(blank);
  const sold = asSoldIn(doc, storeId);
  return soldListings(doc, storeId).map((number) => {
    const own = asListed(sold, storeId, number);
    const codes = chosenColors(own, blank);
    const values = color ? orderedValues(doc, color).filter(({ code }) => codes.includes(code)) : [];
    return { number, colors: values, variants: Object.keys(own.variants).length };
  });
}

/** What one of several listings of a product in a store is called beside the others; null where it is the only one. */
export function listingName(doc: ProductDocument, blank: Blank, storeId: string, number: number): string | null {
  const all = colorListings(doc, blank, storeId);
  const own = all.find((one) => one.number === number);
  if (own) return all.length > 1 ? `listing ${number}: ${colorNames(own.colors)}` : null;
  return `listing ${number}, sells nothing any more`;
}
