/** What a family is good for, as a seller would ask for it. */
export const MOODS = ['plain', 'bookish', 'strong', 'elegant', 'handwritten', 'friendly', 'old-time', 'loud'] as const;
export type Mood = (typeof MOODS)[number];

/** Scripts that a family can set beside Latin. */
export const SCRIPTS = ['Latin', 'Greek', 'Cyrillic', 'Hebrew', 'Arabic', 'Devanagari'] as const;
export type Script = (typeof SCRIPTS)[number];

export const FONT_STYLES = ['regular', 'bold', 'italic', 'bold-italic'] as const;
export type FontStyle = (typeof FONT_STYLES)[number];

export interface FontFamily {
  readonly code: string;
  readonly name: string;
  readonly mood: Mood;
  readonly styles: readonly FontStyle[];
  /** In which its letters are drawn; the first is what it is best at. */
  readonly scripts: readonly Script[];
}

const family = (
  code: string,
  name: string,
  mood: Mood,
  styles: readonly FontStyle[] = ['regular'],
  scripts: readonly Script[] = ['Latin'],
): FontFamily => ({ code, name, mood, styles, scripts });

const ALL: readonly FontStyle[] = FONT_STYLES;
const TWO: readonly FontStyle[] = ['regular', 'bold'];

/** The families that ship with the app, all under open licenses (OFL 1.1, and Apache 2.0 for Special Elite). */
export const FAMILIES: readonly FontFamily[] = [
  family('noto-sans', 'Noto Sans', 'plain', ALL, ['Latin', 'Greek', 'Cyrillic', 'Devanagari']),
  family('montserrat', 'Montserrat', 'plain', ALL, ['Latin', 'Cyrillic']),
  family('josefin-sans', 'Josefin Sans', 'elegant', ALL),
  family('eb-garamond', 'EB Garamond', 'bookish', ALL, ['Latin', 'Greek', 'Cyrillic']),
  family('playfair-display', 'Playfair Display', 'elegant', ALL, ['Latin', 'Cyrillic']),
  family('zilla-slab', 'Zilla Slab', 'strong', ALL),
  family('oswald', 'Oswald', 'strong', TWO, ['Latin', 'Cyrillic']),
  family('graduate', 'Graduate', 'strong'),
  family('stardos-stencil', 'Stardos Stencil', 'strong', TWO),
  family('nunito', 'Nunito', 'friendly', ALL, ['Latin', 'Cyrillic']),
  family('comfortaa', 'Comfortaa', 'friendly', TWO, ['Latin', 'Greek', 'Cyrillic']),
  family('bangers', 'Bangers', 'loud'),
  family('limelight', 'Limelight', 'loud'),
  family('rye', 'Rye', 'old-time'),
  family('pirata-one', 'Pirata One', 'old-time'),
  family('special-elite', 'Special Elite', 'old-time'),
  family('pacifico', 'Pacifico', 'handwritten', ['regular'], ['Latin', 'Cyrillic']),
  family('dancing-script', 'Dancing Script', 'handwritten', TWO),
  family('great-vibes', 'Great Vibes', 'elegant', ['regular'], ['Latin', 'Cyrillic']),
  family('caveat', 'Caveat', 'handwritten', TWO, ['Latin', 'Cyrillic']),
  family('frank-ruhl-libre', 'Frank Ruhl Libre', 'bookish', TWO, ['Hebrew', 'Latin']),
  family('amiri', 'Amiri', 'bookish', ALL, ['Arabic', 'Latin']),
  family('baloo-2', 'Baloo 2', 'friendly', TWO, ['Devanagari', 'Latin']),
];

const byCode = new Map(FAMILIES.map((one) => [one.code, one]));
export const familyByCode = (code: string): FontFamily | null => byCode.get(code) ?? null;

/** The family that letters fall back to where the chosen one lacks them, before others of the script are asked. */
export const FALLBACK = 'noto-sans';

/** A style that the family has: the one asked for, else the nearest. */
export function styleOf(of: FontFamily, wanted: FontStyle): FontStyle {
  if (of.styles.includes(wanted)) return wanted;
  if (wanted === 'bold-italic') return of.styles.includes('bold') ? 'bold' : styleOf(of, 'italic');
  return 'regular';
}
