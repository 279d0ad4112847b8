import { firstGraphemes } from './graphemes';

/** A text cut to so many graphemes at most, after a whole word where there is one; without what would hang on at its end. */
export function cutAtWord(text: string, max: number): string {
  const kept = firstGraphemes(text, max + 1);
  if (kept.length <= max) return text;
  const next = kept.pop()!;
  const end = /\s/u.test(next) ? kept.length : kept.findLastIndex((one) => /\s/u.test(one));
  const words = end > 0 ? kept.slice(0, end) : kept;
  // What would hang on at the end of what is left.
  const last = words.findLastIndex((one) => !/^[\s,;:–—(&-]$/u.test(one));
  return words.slice(0, last + 1).join('');
}

/** A text as an address has it: small letters a to z, digits and single hyphens; marks on letters are left out. */
export const slugOf = (text: string, max: number): string =>
  text
    .normalize('NFKD')
    .replace(/[\u0300-\u036f]/g, '')
    .toLowerCase()
    .replace(/ß/g, 'ss')
    .replace(/[^a-z0-9]+/g, '-')
    .slice(0, max)
    .replace(/^-|-$/g, '');
