import type { Blank, BlankVariant, Option, OptionValue } from '../catalog/blank';
import { colorOption } from '../catalog/blank';
import type { ProductDocument } from '../document/document';
import { orderedValues } from './order';
import { MAX_LISTINGS } from '../document/split';
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
  /** Colors by listing, where several listings would hold all; none where one color alone is too many. */
  readonly split: readonly (readonly SoldValue[])[];
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

/** Values in their order, in groups of up to so many variants each; null where a value alone has more. */
function inGroupsOf(values: readonly SoldValue[], times: number, most: number): SoldValue[][] | null {
  const groups: SoldValue[][] = [];
  let room = 0;
  for (const value of values) {
    const size = value.keys.length * times;
    if (size > most) return null;
    if (size > room) {
      groups.push([]);
      room = most;
    }
    groups.at(-1)!.push(value);
    room -= size;
  }
  return groups;
}

/** As few groups as hold all values, as even as can be; none where one value alone is too many. */
function evenGroups(values: readonly SoldValue[], times: number, most: number): SoldValue[][] {
  const fewest = inGroupsOf(values, times, most);
  if (!fewest) return [];
  const all = values.reduce((sum, { keys }) => sum + keys.length * times, 0);
  for (let size = Math.ceil(all / fewest.length); size < most; size += 1) {
    const groups = inGroupsOf(values, times, size);
    if (groups && groups.length <= fewest.length) return groups;
  }
  return fewest;
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
  const groups = evenGroups(colors, times, variantsMax);
  return {
    ...fits,
    says,
    dropColors: dropColors.map(({ code, name }) => ({ code, name })),
    split: groups.length <= MAX_LISTINGS ? groups : [],
  };
}
