/** Letters of a word that is written in capitals on purpose, and not a size or the name of a country. */
const LOUD = /(?<![\p{L}\p{N}])\p{Lu}{5,}(?![\p{L}\p{N}])/gu;

/** The first of some phrases (in small letters) that a text has as whole words; undefined for none. */
export function phraseIn(text: string, phrases: readonly string[]): string | undefined {
  const words = ` ${text
    .toLocaleLowerCase('en')
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim()} `;
  return phrases.find((phrase) => words.includes(` ${phrase} `));
}

/** What a text shouts: `words` finds each word of five capitals and more, `all` a text that has no small letter. */
export function loudWords(text: string, shouting: 'words' | 'all'): string[] {
  if (shouting === 'words') return text.match(LOUD) ?? [];
  return /\p{Lu}/u.test(text) && !/\p{Ll}/u.test(text) ? [text] : [];
}
