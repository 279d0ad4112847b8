import { isApart, widthOf, type Paragraph } from './paragraph';
import type { LetterFace, ShapedGlyph } from './face';
import { visualOrder } from './itemize';

const graphemes = new Intl.Segmenter('en', { granularity: 'grapheme' });

interface PlacedRun {
  readonly face: LetterFace;
  readonly glyphs: readonly ShapedGlyph[];
}

/** A line as it is shaped, in visual order. */
export interface Line {
  readonly runs: readonly PlacedRun[];
  /** em, with tracking. */
  readonly width: number;
  readonly rtl: boolean;
  readonly joined: Uint8Array;
}

/** A part of a paragraph that is a line. */
export interface Cut {
  readonly paragraph: Paragraph;
  readonly start: number;
  readonly end: number;
  /** em, with tracking, without the spaces at its end. */
  readonly width: number;
}

/** Cuts a paragraph into lines no wider than `most` em, as few as the order of the words allows. */
export function wrapParagraph(paragraph: Paragraph, most: number, tracking: number): Cut[] {
  const cuts: Cut[] = [];
  const { text } = paragraph;
  const cut = (start: number, end: number) =>
    cuts.push({ paragraph, start, end, width: widthOf(paragraph, start, end, tracking) });
  let start = 0;
  let fitting = 0;
  const take = (end: number): void => {
    if (widthOf(paragraph, start, end, tracking) <= most) {
      fitting = end;
      return;
    }
    if (fitting > start) {
      cut(start, fitting);
      start = fitting;
      return take(end);
    }
    // A word that is too long by itself: broken between graphemes, one at least on each line.
    let at = start;
    for (const { segment, index } of graphemes.segment(text.slice(start, end))) {
      const next = start + index + segment.length;
      if (at > start && widthOf(paragraph, start, next, tracking) > most) break;
      at = next;
    }
    if (at >= end) {
      fitting = end;
      return;
    }
    cut(start, at);
    start = at;
    fitting = at;
    take(end);
  };
  for (const end of paragraph.breaks) take(end);
  if (start < text.length || cuts.length === 0) cut(start, text.length);
  return cuts;
}

/** A line in visual order, shaped by itself: letters join differently at its ends. */
export function shapeLine(paragraph: Paragraph, start: number, end: number, tracking: number): Line {
  let last = end;
  while (last > start && /\s/u.test(paragraph.text[last - 1]!)) last -= 1;
  const text = paragraph.text.slice(0, last);
  const parts = paragraph.runs
    .filter((run) => run.start < last && run.end > start)
    .map((run) => ({ ...run, start: Math.max(run.start, start), end: Math.min(run.end, last) }));
  const runs = visualOrder(parts).map(({ face, start: from, end: to, level, script }): PlacedRun => ({
    face,
    glyphs: face.shape(text, from, to, level % 2 === 1, script, tracking === 0),
  }));
  const all = runs.flatMap((run) => run.glyphs);
  const clusters = all.filter((glyph) => glyph.advance > 0).map((glyph) => glyph.cluster);
  const gaps = clusters.filter(
    (cluster, i) => i > 0 && cluster !== clusters[i - 1] && isApart(paragraph.joined, clusters[i - 1]!, cluster),
  ).length;
  return {
    runs,
    width: all.reduce((sum, glyph) => sum + glyph.advance, 0) + (gaps * tracking) / 1000,
    rtl: paragraph.base % 2 === 1,
    joined: paragraph.joined,
  };
}
