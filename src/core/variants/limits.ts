import type { Blank } from '../catalog/blank';
import { colorOption } from '../catalog/blank';
import type { ProductDocument } from '../document/document';
import { orderedValues } from './order';
import { ownEntry } from '../own-entry';

/** What a store can hold of a product, and a way out where it cannot. */
export interface StoreLimit {
  readonly options: number;
  readonly optionsMax: number;
  readonly variants: number;
  readonly variantsMax: number;
  /** A sentence; null where all fits. */
  readonly says: string | null;
  /** Colors, the last ones first, without which the variants fit; none where that does not help. */
  readonly dropColors: readonly { readonly code: string; readonly name: string }[];
  /** Variants of the second half of the colors, where two listings would hold all; none where they would not. */
  readonly split: readonly string[];
}

/** Holds the chosen variants against what a store can hold. An option of which one value is chosen counts too: the listing has it. */
export function storeLimit(
  doc: ProductDocument,
  blank: Blank,
  demands: { readonly optionsMax: number; readonly variantsMax: number },
  shop: string,
): StoreLimit {
  const chosen = blank.variants.filter((variant) => Object.hasOwn(doc.variants, variant.key) && !variant.ended);
  const { optionsMax, variantsMax } = demands;
  const options = blank.options.length;
  const fits = { options, optionsMax, variants: chosen.length, variantsMax, says: null, dropColors: [], split: [] };
  const tooMany = chosen.length - variantsMax;
  if (tooMany <= 0 && options <= optionsMax) return fits;
  if (options > optionsMax)
    return {
      ...fits,
      says: `${shop} holds ${optionsMax} options; this blank has ${options}: ${blank.options.map((option) => option.name).join(', ')}. Choose a blank with fewer, or another store.`,
    };
  const color = colorOption(blank);
  const says = `${shop} holds ${variantsMax} variants; ${chosen.length} are chosen, ${tooMany} too many.`;
  if (!color) return { ...fits, says };
  const own = orderedValues(doc, color)
    .map((value) => ({
      ...value,
      keys: chosen.filter((v) => ownEntry(v.values, color.code) === value.code).map((v) => v.key),
    }))
    .filter(({ keys }) => keys.length > 0);
  let left = chosen.length;
  const dropColors: { code: string; name: string }[] = [];
  for (const { code, name, keys } of own.toReversed()) {
    if (left <= variantsMax || dropColors.length + 1 >= own.length) break;
    dropColors.push({ code, name });
    left -= keys.length;
  }
  let first = 0;
  const split: string[] = [];
  for (const { keys } of own) {
    if (
      split.length === 0 &&
      first + keys.length <= variantsMax &&
      first + keys.length <= Math.ceil(chosen.length / 2) + keys.length / 2
    )
      first += keys.length;
    else split.push(...keys);
  }
  return {
    ...fits,
    says,
    dropColors: left <= variantsMax ? dropColors : [],
    split: first > 0 && split.length > 0 && split.length <= variantsMax ? split : [],
  };
}
