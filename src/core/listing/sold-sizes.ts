import { parseVariantKey, type Blank } from '../catalog/blank';
import { sizeLines, type SizesIn } from '../catalog/size-guide';
import { wordsFor, type ProductDocument, type Words } from '../document/document';
import { asSoldIn } from '../document/offered';
import { ownEntry } from '../own-entry';

/** The sizes of a product's variants as lines of text; null where there is nothing to tell. */
export function soldSizes(
  doc: Pick<ProductDocument, 'variants'>,
  blank: Pick<Blank, 'sizeGuide' | 'options'>,
  unit: SizesIn,
): string | null {
  const code = blank.sizeGuide?.optionCode;
  const sold = new Set(Object.keys(doc.variants).map((key) => ownEntry(parseVariantKey(key), code)));
  return sizeLines(blank, unit, (value) => sold.has(value));
}

const BETWEEN = '\n\n';

/** A description with sizes under it; one that is empty stays so: sizes alone describe nothing. */
const withSizes = (description: string, sizes: string): string =>
  description.trim() === '' ? description : `${description.trim()}${BETWEEN}${sizes}`;

/** The words of a store, with the sizes that it sells under the description where it tells them. */
export function describedFor(
  doc: ProductDocument,
  storeId: string | null,
  blank: Pick<Blank, 'sizeGuide' | 'options'>,
  sizesIn: SizesIn | undefined,
): Words {
  const words = wordsFor(doc, storeId);
  const sizes = sizesIn ? soldSizes(asSoldIn(doc, storeId), blank, sizesIn) : null;
  return sizes === null ? words : { ...words, description: withSizes(words.description, sizes) };
}

/** Characters that sizes take of a description. */
export const sizesRoom = (sizes: string | null): number => (sizes === null ? 0 : BETWEEN.length + sizes.length);
