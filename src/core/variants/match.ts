import { SIZE_OPTION, type Blank } from '../catalog/blank';
import { variantName } from './tiers';
import { ownEntry } from '../own-entry';

/** One thing that the seller sells already: its SKU and what is said of it. */
export interface SoldItem {
  readonly line: number;
  readonly sku: string;
  /** All words about it: a title, a color, a size. */
  readonly text: string;
  /** What buyers pay, in minor units of the currency that goes with the list; null when not said. */
  readonly priceMinor: number | null;
}

export interface SkuMatch extends SoldItem {
  /** The variant that it is taken for, or null where a person must say. */
  readonly variantKey: string | null;
  /** `sure`: one variant fits and no other row does; `doubtful`: see `says`. */
  readonly certainty: 'sure' | 'doubtful';
  readonly says: string;
  /** What comes into question, most likely first; at most eight. */
  readonly candidates: readonly string[];
}

/** Words for one size; each line is one size. */
const SIZE_WORDS: readonly (readonly string[])[] = [
  ['xxs', '2xs'],
  ['xs', 'x small', 'extra small'],
  ['s', 'small', 'sm'],
  ['m', 'medium', 'med'],
  ['l', 'large', 'lg'],
  ['xl', 'x large', 'extra large'],
  ['xxl', '2xl', 'xx large', '2x large'],
  ['3xl', 'xxxl', '3x large'],
  ['4xl', 'xxxxl', '4x large'],
  ['5xl', '5x large'],
];

/** Lower case without accents; signs become spaces, and letters and digits that touch stay together: `18 × 24 in` is `18 x 24 in`. */
const plain = (text: string): string =>
  text
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/×/g, ' x ')
    .replace(/[^a-z0-9]+/g, ' ')
    .trim();

/** Other ways to write a value of an option, in plain words; the longest first, so that `x large` is not read as `large`. */
function spellings(optionCode: string, name: string, code: string): string[] {
  const words = new Set([plain(name), plain(code)]);
  if (optionCode === SIZE_OPTION) {
    for (const group of SIZE_WORDS)
      if (group.includes(plain(name)) || group.includes(plain(code))) for (const word of group) words.add(word);
    // `11 oz` is written `11oz` as well, `18 × 24 in` as `18x24`.
    words.add(plain(name).replace(/ /g, ''));
    words.add(plain(name).replace(/ (in|cm|mm)$/, ''));
    words.add(
      plain(name)
        .replace(/ (in|cm|mm)$/, '')
        .replace(/ /g, ''),
    );
  }
  return [...words].filter(Boolean).sort((a, b) => b.length - a.length);
}

const holds = (text: string, word: string): boolean => ` ${text} `.includes(` ${word} `);

/** One letter more, less or different. */
function nearlyEqual(one: string, two: string): boolean {
  if (Math.abs(one.length - two.length) > 1 || Math.min(one.length, two.length) < 4) return false;
  let i = 0;
  while (i < Math.min(one.length, two.length) && one[i] === two[i]) i += 1;
  const [a, b] = [one.slice(i), two.slice(i)];
  return a.slice(1) === b.slice(1) || a.slice(1) === b || a === b.slice(1);
}

interface Reading {
  readonly codes: readonly string[];
  /** `exact`, `near` (a letter off), or `none` said. */
  readonly how: 'exact' | 'near' | 'none';
}

/** Which values of an option a text names. A longer spelling uses up its words: in `heather mist` there is no `mist` besides. */
function readOption(text: string, option: Blank['options'][number]): Reading {
  const all = option.values
    .flatMap((value) => spellings(option.code, value.name, value.code).map((word) => ({ code: value.code, word })))
    .sort((a, b) => b.word.length - a.word.length);
  let left = ` ${text} `;
  const codes = new Set<string>();
  for (const { code, word } of all)
    if (holds(left.trim(), word)) {
      codes.add(code);
      left = left.replace(` ${word} `, '  ');
    }
  if (codes.size > 0) return { codes: [...codes], how: 'exact' };
  const words = text.split(' ');
  const near = option.values.filter((value) => {
    const parts = plain(value.name).split(' ');
    return words.some((_, i) => {
      const span = words.slice(i, i + parts.length);
      return span.length === parts.length && nearlyEqual(span.join(' '), parts.join(' '));
    });
  });
  return near.length > 0
    ? { codes: near.map((value) => value.code), how: 'near' }
    : { codes: option.values.map((value) => value.code), how: 'none' };
}

/**
 * Matches what is sold already with the variants of a blank, by the words for their options in text and SKU. One that names each option
 * exactly once and is alone in doing so is sure; all else is left to a person, with the reason. The same input gives the same answer.
 */
export function matchSkus(blank: Pick<Blank, 'options' | 'variants'> & Blank, items: readonly SoldItem[]): SkuMatch[] {
  const open = blank.variants.filter((variant) => !variant.ended);
  const matches = items.map((item): SkuMatch => {
    const text = plain(item.text);
    const readings = blank.options.map((option) => {
      const said = readOption(text, option);
      // The SKU helps where the words say nothing.
      return said.how === 'none' ? readOption(plain(item.sku), option) : said;
    });
    const candidates = open
      .filter((variant) =>
        blank.options.every((option, i) => readings[i]!.codes.includes(ownEntry(variant.values, option.code)!)),
      )
      .map((variant) => variant.key);
    const doubt = (says: string): SkuMatch => ({
      ...item,
      variantKey: candidates.length === 1 ? candidates[0]! : null,
      certainty: 'doubtful',
      says,
      candidates: candidates.slice(0, 8),
    });
    const silent = blank.options.filter((_, i) => readings[i]!.how === 'none' && blank.options[i]!.values.length > 1);
    if (silent.length > 0)
      return doubt(`It names no ${silent.map((option) => option.name.toLowerCase()).join(' and no ')} of this blank.`);
    const several = blank.options.find((_, i) => readings[i]!.codes.length > 1);
    if (several) return doubt(`It names more than one ${several.name.toLowerCase()}.`);
    if (candidates.length === 0) return doubt('The partner does not make this variant any more.');
    const near = blank.options.find((_, i) => readings[i]!.how === 'near');
    if (near)
      return doubt(
        `Its ${near.name.toLowerCase()} is written a letter off; is it ${variantName(blank, candidates[0]!)}?`,
      );
    return { ...item, variantKey: candidates[0]!, certainty: 'sure', says: '', candidates: candidates.slice(0, 8) };
  });
  const linesOf = new Map<string, number[]>();
  for (const { variantKey, line } of matches)
    if (variantKey) linesOf.set(variantKey, [...(linesOf.get(variantKey) ?? []), line]);
  return matches.map((match) => {
    const lines = match.variantKey ? linesOf.get(match.variantKey)! : [];
    if (lines.length < 2) return match;
    const others = lines.filter((line) => line !== match.line);
    return {
      ...match,
      certainty: 'doubtful',
      says: `Line ${others.join(', ')} looks like the same variant; one variant has one SKU.`,
    };
  });
}
