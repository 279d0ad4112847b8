import { geometryIdFor, parseVariantKey, sizeOption, type Blank } from '@/core/catalog/blank';
import type { ProductDocument } from '@/core/document/document';
import { chosenGeometryIds } from '@/core/document/chosen';
import { ownEntry } from '@/core/own-entry';

type Chosen = Pick<ProductDocument, 'variants'>;

/** The shapes that an area has among the chosen sizes, each once; all of its shapes while no size is chosen. */
export function shapesOf(blank: Blank, areaKey: string, doc: ProductDocument): readonly string[] {
  const used = chosenGeometryIds(doc, blank, areaKey);
  const area = blank.areas.find(({ key }) => key === areaKey)!;
  return [...new Set(used.length > 0 ? used : area.geometries.map(({ geometryId }) => geometryId))];
}

/** The sizes of which a shape is: `S – XL`, `S, M`, or `all` where the blank has no sizes. */
export function shapeName(blank: Blank, areaKey: string, doc: Chosen, geometryId: string): string {
  const area = blank.areas.find(({ key }) => key === areaKey)!;
  const option = sizeOption(blank);
  const any = Object.keys(doc.variants).length === 0;
  const sizes = blank.variants
    .filter((v) => geometryIdFor(area, v.values) === geometryId && (any || Object.hasOwn(doc.variants, v.key)))
    .map((v) => (option ? ownEntry(parseVariantKey(v.key), option.code) : undefined));
  const names = option?.values.filter(({ code }) => sizes.includes(code)).map(({ name }) => name) ?? [];
  return names.length > 2 ? `${names[0]} – ${names.at(-1)}` : names.join(', ') || 'all';
}
