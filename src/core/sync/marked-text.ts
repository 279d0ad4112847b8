import { matchesOf } from './sequence';

/** A piece of a text, and whether it is only in this one of two. */
export interface Piece {
  readonly text: string;
  readonly differs: boolean;
}

/** Words, white space, and each other sign by itself. */
const TOKENS = /[\p{L}\p{M}\p{N}]+|\s+|[^\p{L}\p{M}\p{N}\s]/gu;

function piecesOf(tokens: readonly string[], isCommon: (index: number) => boolean): Piece[] {
  const pieces: { text: string; differs: boolean }[] = [];
  const differsAt = (i: number) => i >= 0 && i < tokens.length && !isCommon(i);
  for (const [i, token] of tokens.entries()) {
    // A space between two words that differ belongs to them.
    const differs = differsAt(i) || (token.trim() === '' && differsAt(i - 1) && differsAt(i + 1));
    const last = pieces.at(-1);
    if (last?.differs === differs) last.text += token;
    else pieces.push({ text: token, differs });
  }
  return pieces;
}

/** Two texts with what differs between them, word by word. */
export function markedTexts(here: string, there: string): { readonly here: Piece[]; readonly there: Piece[] } {
  const [ours, theirs] = [here.match(TOKENS) ?? [], there.match(TOKENS) ?? []];
  const at = matchesOf(ours, theirs);
  const common = new Set(at);
  return { here: piecesOf(ours, (i) => at[i] !== -1), there: piecesOf(theirs, (i) => common.has(i)) };
}

/** Pieces in which long stretches that do not differ are told by their ends. */
export const shortened = (pieces: readonly Piece[], most = 40): Piece[] =>
  pieces.map(({ text, differs }, i) => {
    if (differs || text.length <= 2 * most) return { text, differs };
    const [first, last] = [text.slice(0, most).toWellFormed(), text.slice(-most).toWellFormed()];
    if (pieces.length === 1) return { text: `${first} …`, differs };
    return { text: `${i === 0 ? '' : first} … ${i === pieces.length - 1 ? '' : last}`, differs };
  });
