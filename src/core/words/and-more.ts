/** The first few of a list in words, and how many follow: `Navy, Rust and 3 more`. `of` names what the others are: `and 3 more colors`. */
export function andMore(texts: readonly string[], shown: number, { join = ', ', of = '' } = {}): string {
  const told = texts.slice(0, shown).join(join);
  const more = texts.length - shown;
  return more > 0 ? `${told} and ${more} more${of && ` ${of}`}` : told;
}

/** What follows the one that was told: ` (and 3 more)`, or nothing. */
export const othersToo = (count: number): string => (count > 1 ? ` (and ${count - 1} more)` : '');
