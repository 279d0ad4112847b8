import { parseVariantKey, type Blank, type Option, type OptionValue, type PriceList } from '../catalog/blank';
import { ownEntry } from '../own-entry';

/** Variants with the same costs, grouped by itself. */
export interface Tier {
  /** Base cost in minor units of the price list's currency; -1 when the list has none. */
  readonly costMinor: number;
  readonly variantKeys: readonly string[];
  /** What a person calls it: the values that all have, or the span of sizes. */
  readonly name: string;
}

/** The tiers of the chosen variants, cheapest first; within a tier in the blank's order. */
export function tiersOf(blank: Blank, list: PriceList, chosen: { readonly [variantKey: string]: unknown }): Tier[] {
  const groups = new Map<number, string[]>();
  for (const variant of blank.variants) {
    if (!Object.hasOwn(chosen, variant.key)) continue;
    const cost = ownEntry(list.baseCostMinor, variant.key) ?? -1;
    groups.set(cost, [...(groups.get(cost) ?? []), variant.key]);
  }
  // Where the same size is in two tiers, it is the color that decides.
  const tiersWith = new Map<string, Set<number>>();
  for (const [cost, keys] of groups)
    for (const key of keys) {
      const rest = withoutColors(blank, key);
      tiersWith.set(rest, (tiersWith.get(rest) ?? new Set()).add(cost));
    }
  return [...groups.entries()]
    .sort(([a], [b]) => a - b)
    .map(([costMinor, variantKeys]) => {
      const byColor = variantKeys.some((key) => tiersWith.get(withoutColors(blank, key))!.size > 1);
      return { costMinor, variantKeys, name: tierName(blank, variantKeys, byColor) };
    });
}

const isColor = (option: Option): boolean => option.values.some((value) => value.hex !== null);

/** What a variant is apart from its colors. */
function withoutColors(blank: Blank, key: string): string {
  const values = parseVariantKey(key);
  return blank.options
    .filter((option) => !isColor(option))
    .map((option) => ownEntry(values, option.code) ?? '')
    .join(';');
}

/** More colors than this are counted, not named. */
const MAX_NAMED = 3;

const valuesUsed = (option: Option, variantKeys: readonly string[]): OptionValue[] => {
  const codes = new Set(variantKeys.map((key) => ownEntry(parseVariantKey(key), option.code)));
  return option.values.filter((value) => codes.has(value.code));
};

const colorsText = (used: readonly OptionValue[]): string =>
  used.length > MAX_NAMED ? `${used.length} colors` : used.map((value) => value.name).join(', ');

/** A run of values by its ends, others one by one. */
function spanText(option: Option, used: readonly OptionValue[]): string {
  if (used.length === 1) return used[0]!.name;
  const run = option.values.slice(option.values.indexOf(used[0]!), option.values.indexOf(used.at(-1)!) + 1);
  return run.length === used.length
    ? `${used[0]!.name} – ${used.at(-1)!.name}`
    : used.map((value) => value.name).join(', ');
}

/**
 * Names variants: `S – XL`, `15 oz`, and where colors decide (`byColor`) or there is nothing else `Chalk, XS – XL`. Values are named in the blank's
 * order.
 */
export function tierName(blank: Blank, variantKeys: readonly string[], byColor = false): string {
  const parts = blank.options.flatMap((option) => {
    const used = valuesUsed(option, variantKeys);
    if (used.length === 0) return [];
    if (!isColor(option)) return [spanText(option, used)];
    return byColor ? [colorsText(used)] : [];
  });
  if (parts.length > 0) return parts.join(', ');
  if (variantKeys.length === 1) return variantName(blank, variantKeys[0]!);
  const colors = blank.options.map((option) => valuesUsed(option, variantKeys)).find((used) => used.length > 0);
  return colors ? colorsText(colors) : `${variantKeys.length} variants`;
}

/** `Estuary, M`. */
export function variantName(blank: Blank, key: string): string {
  const values = parseVariantKey(key);
  return blank.options
    .map((option) => option.values.find((value) => value.code === ownEntry(values, option.code))?.name)
    .filter(Boolean)
    .join(', ');
}
