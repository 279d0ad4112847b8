import type { Blank, BlankVariant, Option, OptionValue } from '../catalog/blank';
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

interface SoldValue extends OptionValue {
  readonly keys: readonly string[];
}

/** Values of an option that chosen variants have, in the seller's order, each with these variants. */
const valuesOf = (doc: ProductDocument, option: Option, chosen: readonly BlankVariant[]): SoldValue[] =>
  orderedValues(doc, option)
    .map((value) => ({
      ...value,
      keys: chosen.filter((v) => ownEntry(v.values, option.code) === value.code).map((v) => v.key),
    }))
    .filter(({ keys }) => keys.length > 0);

/** Values from the end, the last first, without which so many variants are at most `most`; none where one value alone is too many. */
function lastValues(values: readonly SoldValue[], variants: number, times: number, most: number): SoldValue[] {
  let left = variants;
  const dropped: SoldValue[] = [];
  for (const value of values.toReversed()) {
    if (left <= most || dropped.length + 1 >= values.length) break;
    dropped.push(value);
    left -= value.keys.length * times;
  }
  return left <= most ? dropped : [];
}

/** Ways to have no more than so many variants: for each option the values at its end that are left out for it. */
export function waysToFewer(
  doc: ProductDocument,
  blank: Blank,
  most: number,
): { readonly option: Option; readonly without: readonly SoldValue[]; readonly left: number }[] {
  const chosen = blank.variants.filter((variant) => Object.hasOwn(doc.variants, variant.key) && !variant.ended);
  const times = 1 + Object.keys(doc.bundles?.entries ?? {}).length;
  const variants = chosen.length * times;
  return blank.options.flatMap((option) => {
    const without = lastValues(valuesOf(doc, option, chosen), variants, times, most);
    const left = variants - without.reduce((sum, { keys }) => sum + keys.length * times, 0);
    return without.length > 0 ? [{ option, without, left }] : [];
  });
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
  // Each variant is there by itself and in every bundle.
  const bundles = Object.keys(doc.bundles?.entries ?? {}).length;
  const times = 1 + bundles;
  // A choice of bundles is folded into another option where there is no room for one more.
  const own = blank.options.length;
  const options = bundles > 0 && own < optionsMax ? own + 1 : own;
  const variants = chosen.length * times;
  const fits = { options, optionsMax, variants, variantsMax, says: null, dropColors: [], split: [] };
  const tooMany = variants - variantsMax;
  if (tooMany <= 0 && options <= optionsMax) return fits;
  if (options > optionsMax)
    return {
      ...fits,
      says: `${shop} holds ${optionsMax} options; this blank has ${options}: ${blank.options.map((option) => option.name).join(', ')}. Choose a blank with fewer, or another store.`,
    };
  const color = colorOption(blank);
  const inBundles =
    bundles > 0
      ? ` (${chosen.length} without bundles and in ${bundles === 1 ? 'a bundle' : `${bundles} bundles`})`
      : '';
  const says = `${shop} holds ${variantsMax} variants; ${variants} are chosen${inBundles}, ${tooMany} too many.`;
  if (!color) return { ...fits, says };
  const colors = valuesOf(doc, color, chosen);
  const dropColors = lastValues(colors, variants, times, variantsMax);
  let first = 0;
  const split: string[] = [];
  for (const { keys } of colors) {
    if (
      split.length === 0 &&
      (first + keys.length) * times <= variantsMax &&
      first + keys.length <= Math.ceil(chosen.length / 2) + keys.length / 2
    )
      first += keys.length;
    else split.push(...keys);
  }
  return {
    ...fits,
    says,
    dropColors: dropColors.map(({ code, name }) => ({ code, name })),
    split: first > 0 && split.length > 0 && split.length * times <= variantsMax ? split : [],
  };
}
