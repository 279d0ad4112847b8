import { FALLBACK, FAMILIES, familyByCode, styleOf, type FontStyle } from './families';
import { settableText, type Lettering } from './text';
import { ownEntry } from '../own-entry';

/** Which characters each file of a family may hold, by subset: ranges of code points, both ends included. */
export interface FontCatalog {
  readonly [familyCode: string]: readonly {
    readonly subset: string;
    readonly ranges: readonly (readonly [from: number, to: number])[];
  }[];
}

/** A file of a font: `noto-sans/greek/bold`. */
export type FontFileKey = string;

export const fontFileKey = (family: string, subset: string, style: FontStyle): FontFileKey =>
  `${family}/${subset}/${style}`;

/** The family of a file. */
export const familyOfFile = (key: FontFileKey): string => key.split('/')[0]!;

/**
 * The files that a text needs, in the order in which they are tried: those of its own family, and for characters that it may lack those of
 * the fallback and then of any other family, in its style or the nearest that they have. The first is always there.
 */
export function filesFor(lettering: Pick<Lettering, 'text' | 'family' | 'style'>, catalog: FontCatalog): FontFileKey[] {
  const wanted = new Set([...settableText(lettering.text)].map((character) => character.codePointAt(0)!));
  const files: FontFileKey[] = [];
  const take = (code: string, always: boolean) => {
    const family = familyByCode(code);
    if (!family) return;
    for (const { subset, ranges } of ownEntry(catalog, code) ?? []) {
      const held = [...wanted].filter((c) => ranges.some(([from, to]) => c >= from && c <= to));
      if (held.length === 0 && !(always && subset === 'latin')) continue;
      files.push(fontFileKey(code, subset, styleOf(family, lettering.style)));
      for (const c of held) wanted.delete(c);
    }
  };
  take(familyByCode(lettering.family) ? lettering.family : FALLBACK, true);
  for (const code of [FALLBACK, ...FAMILIES.map((family) => family.code)]) {
    if (wanted.size === 0) break;
    if (code !== lettering.family) take(code, false);
  }
  return files;
}
