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

const graphemes = new Intl.Segmenter('en', { granularity: 'grapheme' });

/** What makes clusters of several characters: marks, joiners, pictographs. */
const CLUSTERING = /[\p{M}\p{Cf}\p{Extended_Pictographic}\p{Regional_Indicator}]/u;

/** The graphemes of a paragraph (UAX #29); where nothing clusters each character is one, which is known sooner. */
function* clustersOf(paragraph: string): Generator<{ readonly segment: string; readonly index: number }> {
  if (CLUSTERING.test(paragraph)) return yield* graphemes.segment(paragraph);
  let index = 0;
  for (const segment of paragraph) {
    yield { segment, index };
    index += segment.length;
  }
}

/** The face for a letter with its marks: the first that has all of them, else the first that has the letter. */
function faceFor(codePoints: readonly number[], faces: readonly LetterFace[]): LetterFace | undefined {
  return (
    faces.find((face) => codePoints.every((c) => face.covers(c))) ?? faces.find((face) => face.covers(codePoints[0]!))
  );
}

/**
 * Cuts a paragraph into runs. Each letter with its marks goes to the first face that has all of it; joiners stay with the letter before them, and signs that
 * several scripts share with what stands before. What no face has goes to the first and is marked.
 */
export function itemize(paragraph: string, levels: Uint8Array, faces: readonly LetterFace[]): TextRun[] {
  const runs: { -readonly [key in keyof TextRun]: TextRun[key] }[] = [];
  for (const { segment, index } of clustersOf(paragraph)) {
    const last = runs.at(-1);
    const level = levels[index]!;
    const seen = [...segment].filter((character) => !INVISIBLE.test(character));
    const codePoints = seen.map((character) => character.codePointAt(0)!);
    const own = seen.map(scriptOf).find((script) => script !== 'Common') ?? 'Common';
    const clings = seen.length === 0;
    const face =
      last &&
      (clings || codePoints.every((c) => last.face.covers(c))) &&
      (clings || own === 'Common' || faces.indexOf(last.face) === 0 || own === last.script)
        ? last.face
        : (faceFor(codePoints, faces) ?? last?.face ?? faces[0]!);
    const missing = clings ? (last?.missing ?? false) : !codePoints.every((c) => face.covers(c));
    const script = own === 'Common' ? (last?.script ?? 'Common') : own;
    const end = index + segment.length;
    if (
      last &&
      last.level === level &&
      last.face === face &&
      last.missing === missing &&
      (last.script === script || last.script === 'Common')
    ) {
      last.end = end;
      last.script = script;
    } else runs.push({ start: index, end, level, script, face, missing });
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
