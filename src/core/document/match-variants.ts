import { andMore } from '../words/and-more';
import { colorOption, variantKey, type Blank, type Option } from '../catalog/blank';
import { ownEntry, putEntry } from '../own-entry';
import type { ProductDocument } from './document';

/** How the chosen variants of a product are found again on another blank. */
export interface VariantMatch {
  /** Keys that are chosen there, in that blank's order; ended ones are left out. */
  readonly keys: readonly string[];
  /** What a variant here became there, where it became exactly one. */
  readonly keyOf: ReadonlyMap<string, string>;
  /** Codes of colors here to codes there. */
  readonly colors: ReadonlyMap<string, string>;
  /** What was not found, as sentences. */
  readonly notes: readonly string[];
}

const plain = (text: string) => text.toLocaleLowerCase('en').replace(/\s+/g, ' ').trim();

/** The option there that says what this one says: the color for the color, else the one of the same code or name. */
function optionLike(option: Option, from: Blank, to: Blank): Option | null {
  if (option === colorOption(from)) return colorOption(to);
  return (
    to.options.find(({ code }) => code === option.code) ??
    to.options.find(({ name }) => plain(name) === plain(option.name)) ??
    null
  );
}

/** Values of an option here by code to codes there: of the same code, else of the same name. */
function valuesLike(option: Option, other: Option): Map<string, string> {
  return new Map(
    option.values.flatMap(({ code, name }) => {
      const found =
        other.values.find((value) => value.code === code) ??
        other.values.find((value) => plain(value.name) === plain(name));
      return found ? [[code, found.code] as const] : [];
    }),
  );
}

/** What a person calls values that were not found: at most six by name. */
function missingNote(option: Option, codes: ReadonlySet<string>, to: Blank): string {
  const names = option.values.filter(({ code }) => codes.has(code)).map(({ name }) => name);
  return `${to.name} does not come in ${andMore(names, 6)}.`;
}

/**
 * Chosen variants of a product on another blank: those whose values are found there. An option that only the other blank has takes every
 * value; one that only this blank has falls away.
 */
export function matchVariants(doc: ProductDocument, from: Blank, to: Blank): VariantMatch {
  const chosen = from.variants.filter(({ key }) => Object.hasOwn(doc.variants, key));
  const notes: string[] = [];
  const pairs = from.options.flatMap((option) => {
    const other = optionLike(option, from, to);
    return other ? [{ option, other, values: valuesLike(option, other) }] : [];
  });
  for (const { option, values } of pairs) {
    const missing = new Set(
      chosen.flatMap(({ values: own }) => {
        const code = ownEntry(own, option.code);
        return code !== undefined && !values.has(code) ? [code] : [];
      }),
    );
    if (missing.size > 0) notes.push(missingNote(option, missing, to));
  }
  /** The values there that a variant here asks for, or null where one of its values is not found. */
  const asked = (own: { readonly [code: string]: string }): Record<string, string> | null => {
    const there: Record<string, string> = {};
    for (const { option, other, values } of pairs) {
      const code = values.get(ownEntry(own, option.code) ?? '');
      if (code === undefined) return null;
      putEntry(there, other.code, code);
    }
    return there;
  };
  const wanted = new Map<string, string>();
  for (const { key, values } of chosen) {
    const there = asked(values);
    if (there) wanted.set(key, variantKey(there));
  }
  const partial = new Set(wanted.values());
  const codes = pairs.map(({ other }) => other.code);
  const part = (values: { readonly [code: string]: string }) =>
    variantKey(
      Object.fromEntries(
        codes.flatMap((code) => {
          const value = ownEntry(values, code);
          return value === undefined ? [] : [[code, value] as const];
        }),
      ),
    );
  const found = to.variants.filter(({ ended, values }) => !ended && partial.has(part(values)));
  const counts = new Map<string, string[]>();
  for (const { key, values } of found) counts.set(part(values), [...(counts.get(part(values)) ?? []), key]);
  const heres = new Map<string, number>();
  for (const there of wanted.values()) heres.set(there, (heres.get(there) ?? 0) + 1);
  const keyOf = new Map(
    [...wanted].flatMap(([key, there]) => {
      const keys = counts.get(there) ?? [];
      return keys.length === 1 && heres.get(there) === 1 ? [[key, keys[0]!] as const] : [];
    }),
  );
  if (chosen.length > 0 && found.length === 0)
    notes.push('None of the chosen variants are there; choose new ones under Colors & sizes.');
  const color = pairs.find(({ option }) => option === colorOption(from));
  return { keys: found.map(({ key }) => key), keyOf, colors: color?.values ?? new Map(), notes };
}
