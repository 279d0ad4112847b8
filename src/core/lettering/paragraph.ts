import LineBreaker from 'linebreak';
import type { LetterFace } from './face';
import { itemize, levelsOf, type TextRun } from './itemize';

/** A paragraph with what it takes to cut it into lines. */
export interface Paragraph {
  readonly text: string;
  readonly base: number;
  readonly runs: readonly TextRun[];
  /** Advance of what each UTF-16 unit begins, em, without tracking; 0 inside a cluster. */
  readonly advances: Float64Array;
  /** Whether each UTF-16 unit is of a script whose letters are joined: nothing is put between two of these. */
  readonly joined: Uint8Array;
  /** Where a line may end (UAX #14), UTF-16 units. */
  readonly breaks: readonly number[];
}

/** Finds direction, fonts, advances and places to break. */
export function prepare(text: string, faces: readonly LetterFace[], ligatures: boolean): Paragraph {
  const { levels, base } = levelsOf(text);
  const runs = text === '' ? [] : itemize(text, levels, faces);
  const advances = new Float64Array(text.length);
  for (const run of runs)
    for (const glyph of run.face.shape(text, run.start, run.end, run.level % 2 === 1, run.script, ligatures))
      advances[glyph.cluster]! += glyph.advance;
  const breaks: number[] = [];
  const breaker = new LineBreaker(text);
  for (let next = breaker.nextBreak(); next; next = breaker.nextBreak()) breaks.push(next.position);
  return { text, base, runs, advances, joined: joinedIn(text), breaks };
}

/** Letters and marks of scripts that are written joined (Arabic) or hang from one line (Devanagari). */
const JOINED = /[\p{Script_Extensions=Arabic}\p{Script_Extensions=Devanagari}]/u;

function joinedIn(text: string): Uint8Array {
  const joined = new Uint8Array(text.length);
  let index = 0;
  for (const character of text) {
    if (JOINED.test(character) && /[\p{L}\p{M}]/u.test(character)) joined.fill(1, index, index + character.length);
    index += character.length;
  }
  return joined;
}

/** Whether tracking stands between two clusters that follow one another. */
export const isApart = (joined: Uint8Array, one: number, other: number): boolean =>
  joined[one] === 0 || joined[other] === 0;

/** Width of text without the spaces that end it, em; tracking stands between clusters and not behind the last. */
export function widthOf({ text, advances, joined }: Paragraph, start: number, end: number, tracking: number): number {
  let last = end;
  while (last > start && /\s/u.test(text[last - 1]!)) last -= 1;
  let [sum, gaps, before] = [0, 0, -1];
  for (let i = start; i < last; i += 1)
    if (advances[i]! > 0) {
      sum += advances[i]!;
      if (before >= 0 && isApart(joined, before, i)) gaps += 1;
      before = i;
    }
  return sum + (tracking / 1000) * gaps;
}
