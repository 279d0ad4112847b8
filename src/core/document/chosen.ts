import { colorOption, geometryIdFor, parseVariantKey, type Blank } from '../catalog/blank';
import { ownEntry } from '../own-entry';
import { orderedValues } from '../variants/order';
import type { ProductDocument } from './document';

/** Chosen color codes in the seller's order; `[null]` for a blank without colors that has a chosen variant. */
export function chosenColors(doc: ProductDocument, blank: Blank): (string | null)[] {
  const option = colorOption(blank);
  const values = Object.keys(doc.variants).map(parseVariantKey);
  if (!option) return values.length > 0 ? [null] : [];
  return orderedValues(doc, option)
    .map((value) => value.code)
    .filter((code) => values.some((v) => ownEntry(v, option.code) === code));
}

/** Geometries of an area that the chosen variants use, in the area's order. */
export function chosenGeometryIds(doc: ProductDocument, blank: Blank, areaKey: string): string[] {
  const area = blank.areas.find((a) => a.key === areaKey);
  if (!area) return [];
  const used = new Set(Object.keys(doc.variants).map((key) => geometryIdFor(area, parseVariantKey(key))));
  return area.geometries.map((g) => g.geometryId).filter((id, index, all) => used.has(id) && all.indexOf(id) === index);
}
