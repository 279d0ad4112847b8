import LineBreaker from 'linebreak';
import type { Box } from '../geometry/box';
import { chain, rotation, scaling, translation } from '../geometry/matrix';
import { mapPath, pathBox, type InkedPath, type Step } from '../paths/path';
import { strokePath } from '../paths/stroke';
import type { LetterFace, ShapedGlyph } from './face';
import { familyOfFile } from './font-files';
import { itemize, levelsOf, visualOrder, type TextRun } from './itemize';
import { settableText, type Lettering } from './text';

const graphemes = new Intl.Segmenter('en', { granularity: 'grapheme' });

interface Paragraph {
  readonly text: string;
  readonly base: number;
  readonly runs: readonly TextRun[];
  /** Advance of what each UTF-16 unit begins, em, without tracking; 0 inside a cluster. */
  readonly advances: Float64Array;
  /** Where a line may end (UAX #14), UTF-16 units. */
  readonly breaks: readonly number[];
}

interface PlacedRun {
  readonly face: LetterFace;
  readonly glyphs: readonly ShapedGlyph[];
}

interface Line {
  readonly runs: readonly PlacedRun[];
  /** em, with tracking. */
  readonly width: number;
  readonly rtl: boolean;
}

/** A text as it is set. */
export interface SetText {
  /** What is drawn, from below up, mm in the layer's box. */
  readonly inks: readonly InkedPath[];
  /** The size that it was set in: as asked for, or smaller. */
  readonly sizeMm: number;
  readonly lines: number;
  /** Characters that no font at hand has. */
  readonly missing: readonly string[];
  /** Characters that the family lacks and that are set in another. */
  readonly borrowed: readonly string[];
  /** Around all letters, mm in the box; null where nothing is drawn. */
  readonly bounds: Box | null;
  /** Whether it fits the box at that size. */
  readonly fits: boolean;
}

/**
 * Sets a text: paragraphs by typed line breaks, direction (UAX #9), fonts by character, shaping (HarfBuzz), lines (UAX #14; a word longer
 * than the box breaks between graphemes, UAX #29), size, alignment, arc. `faces` are tried in order for each character. The same input
 * gives the same outlines wherever it runs.
 */
export function setText(lettering: Lettering, faces: readonly LetterFace[]): SetText {
  const paragraphs = settableText(lettering.text)
    .split('\n')
    .map((text) => prepare(text, faces, lettering.tracking === 0));
  const missing = new Set<string>();
  const borrowed = new Set<string>();
  for (const { text, runs } of paragraphs)
    for (const run of runs) {
      const into = run.missing ? missing : familyOfFile(run.face.key) !== lettering.family ? borrowed : null;
      if (into)
        for (const { segment } of graphemes.segment(text.slice(run.start, run.end)))
          if (segment.trim() !== '') into.add(segment);
    }
  const sized = chooseSize(lettering, paragraphs);
  const shaped = sized.cuts.map(({ paragraph, start, end }) => shapeLine(paragraph, start, end, lettering.tracking));
  const inks = draw(lettering, shaped, sized.sizeMm);
  const boxes = inks.flatMap((ink) => pathBox(ink.path) ?? []);
  return {
    inks,
    sizeMm: sized.sizeMm,
    lines: shaped.length,
    missing: [...missing],
    borrowed: [...borrowed],
    bounds: boxes.length > 0 ? around(boxes) : null,
    fits: sized.fits,
  };
}

/** One line of letters from the start of its baseline at 0,0: its outline and how far it reaches, in the unit of `size`. */
export function setLine(
  text: string,
  faces: readonly LetterFace[],
  size: number,
  tracking: number,
): { path: Step[]; width: number } {
  const paragraph = prepare(settableText(text).replace(/\n/g, ' '), faces, tracking === 0);
  // Spaces at its end count: another span may follow.
  const spaces = text.length - text.trimEnd().length;
  const line = shapeLine(paragraph, 0, paragraph.text.length, tracking);
  const path = lettersOf(line, size, tracking, (x) => ({ x, y: 0, degrees: 0 }), 0);
  return { path, width: (line.width + spaces * 0.25) * size };
}

const around = (boxes: readonly Box[]): Box => ({
  left: Math.min(...boxes.map((b) => b.left)),
  top: Math.min(...boxes.map((b) => b.top)),
  right: Math.max(...boxes.map((b) => b.right)),
  bottom: Math.max(...boxes.map((b) => b.bottom)),
});

function prepare(text: string, faces: readonly LetterFace[], ligatures: boolean): Paragraph {
  const { levels, base } = levelsOf(text);
  const runs = text === '' ? [] : itemize(text, levels, faces);
  const advances = new Float64Array(text.length);
  for (const run of runs)
    for (const glyph of run.face.shape(text, run.start, run.end, run.level % 2 === 1, run.script, ligatures))
      advances[glyph.cluster]! += glyph.advance;
  const breaks: number[] = [];
  const breaker = new LineBreaker(text);
  for (let next = breaker.nextBreak(); next; next = breaker.nextBreak()) breaks.push(next.position);
  return { text, base, runs, advances, breaks };
}

interface Cut {
  readonly paragraph: Paragraph;
  readonly start: number;
  readonly end: number;
  /** em, with tracking, without the spaces at its end. */
  readonly width: number;
}

/** Width of text without the spaces that end it, em; tracking stands between clusters and not behind the last. */
function widthOf({ text, advances }: Paragraph, start: number, end: number, tracking: number): number {
  let last = end;
  while (last > start && /\s/u.test(text[last - 1]!)) last -= 1;
  let [sum, clusters] = [0, 0];
  for (let i = start; i < last; i += 1)
    if (advances[i]! > 0) {
      sum += advances[i]!;
      clusters += 1;
    }
  return sum + (tracking / 1000) * Math.max(0, clusters - 1);
}

/** Cuts a paragraph into lines no wider than `most` em, as few as the order of the words allows. */
function wrapParagraph(paragraph: Paragraph, most: number, tracking: number): Cut[] {
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

/** All lines at a size, and whether they fit the box. */
function cutAll(
  lettering: Lettering,
  paragraphs: readonly Paragraph[],
  sizeMm: number,
): { cuts: Cut[]; fits: boolean } {
  const most = lettering.boxWidthMm / sizeMm;
  const cuts = paragraphs.flatMap((paragraph) =>
    lettering.wrap
      ? wrapParagraph(paragraph, most, lettering.tracking)
      : [
          {
            paragraph,
            start: 0,
            end: paragraph.text.length,
            width: widthOf(paragraph, 0, paragraph.text.length, lettering.tracking),
          },
        ],
  );
  const height = sizeMm * (1 + (cuts.length - 1) * lettering.lineHeight);
  const slack = 1e-9;
  return {
    cuts,
    fits: cuts.every((cut) => cut.width <= most * (1 + slack)) && height <= lettering.boxHeightMm * (1 + slack),
  };
}

/** The asked size, or the largest below it, in steps of a hundredth of a millimeter, at which the text fits; else the smallest allowed. */
function chooseSize(
  lettering: Lettering,
  paragraphs: readonly Paragraph[],
): { sizeMm: number; cuts: readonly Cut[]; fits: boolean } {
  const asked = cutAll(lettering, paragraphs, lettering.sizeMm);
  const least = lettering.shrinkToMm;
  if (asked.fits || least === null || least >= lettering.sizeMm) return { sizeMm: lettering.sizeMm, ...asked };
  let low = Math.round(least * 100);
  let high = Math.floor(lettering.sizeMm * 100);
  const at = (hundredths: number) => cutAll(lettering, paragraphs, hundredths / 100);
  const smallest = at(low);
  if (!smallest.fits) return { sizeMm: low / 100, ...smallest };
  // Smaller always fits better: lines get no more and no wider.
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (at(middle).fits) low = middle;
    else high = middle;
  }
  return { sizeMm: low / 100, ...at(low) };
}

/** A line in visual order, shaped by itself: letters join differently at its ends. */
function shapeLine(paragraph: Paragraph, start: number, end: number, tracking: number): Line {
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
  const gaps = Math.max(0, new Set(all.filter((glyph) => glyph.advance > 0).map((glyph) => glyph.cluster)).size - 1);
  return {
    runs,
    width: all.reduce((sum, glyph) => sum + glyph.advance, 0) + (gaps * tracking) / 1000,
    rtl: paragraph.base % 2 === 1,
  };
}

function draw(lettering: Lettering, lines: readonly Line[], sizeMm: number): InkedPath[] {
  const { boxWidthMm: width, boxHeightMm: height, lineHeight, tracking, fill, outline } = lettering;
  const first = lines.flatMap((line) => line.runs)[0]?.face;
  if (!first) return [];
  // The lines as a block stand in the middle of the box; a line's letters stand in the middle of its height by the font's own measure.
  const pitch = sizeMm * lineHeight;
  const block = sizeMm + (lines.length - 1) * pitch;
  const baseline = ((first.ascent - first.descent + 1) / 2) * sizeMm;
  const steps: Step[] = [];
  for (const [row, line] of lines.entries()) {
    const lineWidth = line.width * sizeMm;
    const left =
      lettering.align === 'center' ? (width - lineWidth) / 2 : lettering.align === 'right' ? width - lineWidth : 0;
    const y = (height - block) / 2 + row * pitch + baseline;
    steps.push(
      ...lettersOf(line, sizeMm, tracking, bending(lettering.arcDeg, lineWidth, left + lineWidth / 2, y), left),
    );
  }
  if (steps.length === 0) return [];
  const inks: InkedPath[] = [{ path: steps, color: fill }];
  if (outline && outline.widthMm > 0)
    inks.unshift({ path: strokePath(steps, outline.widthMm * 2, sizeMm / 400), color: outline.color });
  return inks;
}

/** The outlines of a line's glyphs, each placed by `bend` at the middle of its advance. */
function lettersOf(
  line: Line,
  sizeMm: number,
  tracking: number,
  bend: (x: number) => { x: number; y: number; degrees: number },
  left: number,
): Step[] {
  const steps: Step[] = [];
  let x = left;
  let clusterBefore = -1;
  for (const { face, glyphs } of line.runs)
    for (const glyph of glyphs) {
      if (glyph.advance > 0 && clusterBefore >= 0 && glyph.cluster !== clusterBefore) x += (tracking / 1000) * sizeMm;
      const at = bend(x + (glyph.advance * sizeMm) / 2);
      const place = chain(
        translation(-glyph.advance / 2 + glyph.dx, -glyph.dy),
        scaling(sizeMm),
        rotation(at.degrees),
        translation(at.x, at.y),
      );
      steps.push(...mapPath(face.outline(glyph.id), place));
      x += glyph.advance * sizeMm;
      if (glyph.advance > 0) clusterBefore = glyph.cluster;
    }
  return steps;
}

/**
 * Where a point of a straight baseline comes to lie on an arc that is as long as the line and turns by `degrees` in all; the middle of the
 * line stays where it is. Letters are turned with it, not bent.
 */
function bending(degrees: number, length: number, middleX: number, y: number) {
  if (degrees === 0 || length === 0) return (x: number) => ({ x, y, degrees: 0 });
  const radius = length / ((degrees * Math.PI) / 180);
  return (x: number) => {
    const angle = (x - middleX) / radius;
    return {
      x: middleX + radius * Math.sin(angle),
      y: y + radius * (1 - Math.cos(angle)),
      degrees: (angle * 180) / Math.PI,
    };
  };
}
