import bidiFactory from 'bidi-js';
import type { LetterFace } from './face';
import { SCRIPTS, type Script } from './families';

const bidi = bidiFactory();

/** A stretch of text of one font, script and direction; `start` and `end` are UTF-16 units. */
export interface TextRun {
  readonly start: number;
  readonly end: number;
  /** Embedding level (UAX #9); odd ones go right to left. */
  readonly level: number;
  readonly script: Script | 'Common';
  readonly face: LetterFace;
  /** Characters that no font at hand has. */
  readonly missing: boolean;
}

const PATTERNS = SCRIPTS.map((script) => ({ script, pattern: new RegExp(`\\p{Script_Extensions=${script}}`, 'u') }));

/** The script of a character, or `Common` for signs, digits and spaces that go with any. */
export function scriptOf(character: string): Script | 'Common' {
  if (/[\p{Script=Common}\p{Script=Inherited}]/u.test(character)) return 'Common';
  return PATTERNS.find(({ pattern }) => pattern.test(character))?.script ?? 'Common';
}

/** Embedding levels of a paragraph (UAX #9), its base direction taken from its first strong letter. */
export function levelsOf(paragraph: string): { levels: Uint8Array; base: number } {
  const { levels, paragraphs } = bidi.getEmbeddingLevels(paragraph);
  return { levels, base: paragraphs[0]?.level ?? 0 };
}

/** Characters that have no shape of their own and need no font. */
const INVISIBLE = /[\p{Default_Ignorable_Code_Point}\p{Cc}]/u;

/**
 * Cuts a paragraph into runs. Each character goes to the first face that has it; marks and joiners stay with the letter before them, and
 * signs that several scripts share with what stands before. What no face has goes to the first and is marked.
 */
export function itemize(paragraph: string, levels: Uint8Array, faces: readonly LetterFace[]): TextRun[] {
  const runs: { -readonly [key in keyof TextRun]: TextRun[key] }[] = [];
  let index = 0;
  for (const character of paragraph) {
    const start = index;
    index += character.length;
    const codePoint = character.codePointAt(0)!;
    const last = runs.at(-1);
    const level = levels[start]!;
    const own = scriptOf(character);
    const clings = /\p{M}/u.test(character) || INVISIBLE.test(character);
    const missing = INVISIBLE.test(character)
      ? (last?.missing ?? false)
      : !faces.some((face) => face.covers(codePoint));
    const face =
      last &&
      (clings || last.face.covers(codePoint)) &&
      (clings || own === 'Common' || faces.indexOf(last.face) === 0 || own === last.script)
        ? last.face
        : (faces.find((one) => one.covers(codePoint)) ?? last?.face ?? faces[0]!);
    const script = own === 'Common' ? (last?.script ?? 'Common') : own;
    if (
      last &&
      last.level === level &&
      last.face === face &&
      last.missing === missing &&
      (last.script === script || last.script === 'Common')
    ) {
      last.end = index;
      last.script = script;
    } else runs.push({ start, end: index, level, script, face, missing });
  }
  return runs;
}

/** Runs of one line in the order in which they are seen, from left to right (UAX #9, rule L2). */
export function visualOrder<T extends { readonly level: number }>(runs: readonly T[]): T[] {
  const order = [...runs];
  const highest = Math.max(0, ...runs.map((run) => run.level));
  for (let level = highest; level > 0; level -= 1) {
    for (let i = 0; i < order.length; i += 1) {
      if (order[i]!.level < level) continue;
      let j = i;
      while (j + 1 < order.length && order[j + 1]!.level >= level) j += 1;
      order.splice(i, j - i + 1, ...order.slice(i, j + 1).reverse());
      i = j;
    }
  }
  return order;
}
