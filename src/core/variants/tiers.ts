import { parseVariantKey, type Blank, type PriceList } from '../catalog/blank';
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
  return [...groups.entries()]
    .sort(([a], [b]) => a - b)
    .map(([costMinor, variantKeys]) => ({ costMinor, variantKeys, name: tierName(blank, variantKeys) }));
}

/** `S – XL`, `15 oz`, or for several options that differ `S – XL, 3 colors`. Values are named in the blank's order. */
export function tierName(blank: Blank, variantKeys: readonly string[]): string {
  const parts: string[] = [];
  const plain = blank.options.filter((option) => option.values.every((value) => value.hex === null));
  for (const option of plain) {
    const used = option.values.filter((value) =>
      variantKeys.some((key) => ownEntry(parseVariantKey(key), option.code) === value.code),
    );
    if (used.length === 1) parts.push(used[0]!.name);
    else if (used.length > 1) {
      const run = option.values.slice(option.values.indexOf(used[0]!), option.values.indexOf(used.at(-1)!) + 1);
      parts.push(
        run.length === used.length
          ? `${used[0]!.name} – ${used.at(-1)!.name}`
          : used.map((value) => value.name).join(', '),
      );
    }
  }
  return (
    parts.join(', ') ||
    (variantKeys.length === 1 ? variantName(blank, variantKeys[0]!) : `${variantKeys.length} variants`)
  );
}

/** `Estuary, M`. */
export function variantName(blank: Blank, key: string): string {
  const values = parseVariantKey(key);
  return blank.options
    .map((option) => option.values.find((value) => value.code === ownEntry(values, option.code))?.name)
    .filter(Boolean)
    .join(', ');
}
