import LineBreaker from 'linebreak';
import type { Box } from '../geometry/box';
import { chain, rotation, scaling, translation } from '../geometry/matrix';
import { mapPath, pathBox, type InkedPath, type Step } from '../paths/path';
import { strokePath } from '../paths/stroke';
import type { LetterFace, ShapedGlyph } from './face';
import { familyOfFile } from './font-files';
import { StrokesTogether } from './glyph-strokes';
import { itemize, levelsOf, visualOrder, type TextRun } from './itemize';
import { settableText, type Lettering } from './text';

const graphemes = new Intl.Segmenter('en', { granularity: 'grapheme' });

interface Paragraph {
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

interface PlacedRun {
  readonly face: LetterFace;
  readonly glyphs: readonly ShapedGlyph[];
}

interface Line {
  readonly runs: readonly PlacedRun[];
  /** em, with tracking. */
  readonly width: number;
  readonly rtl: boolean;
  readonly joined: Uint8Array;
}

/** A text as it is set. */
export interface SetText {
  /** What is drawn, from below up, mm in the layer's box. */
  readonly inks: readonly InkedPath[];
  /** The size that it was set in: as asked for, or smaller. */
  readonly sizeMm: number;
  readonly lines: number;
  /** Heights of its capitals and digits, and of its small letters, at that size, mm; null where it has none of them. */
  readonly capMm: number | null;
  readonly smallMm: number | null;
  /** How thick its strokes are, outline included, mm: all but the tips of its ink is so thick at least. Null where nothing is drawn. */
  readonly strokeMm: number | null;
  /** Characters that no font at hand has. */
  readonly missing: readonly string[];
  /** Characters that the family lacks and that are set in another. */
  readonly borrowed: readonly string[];
  /** The families that they are set in. */
  readonly borrowedFrom: readonly string[];
  /** Around all letters, mm in the box; null where nothing is drawn. */
  readonly bounds: Box | null;
  /** Whether it fits the box at that size. */
  readonly fits: boolean;
  /** Where it does not: the largest size at which it would, mm; null where there is none. */
  readonly fitsAtMm: number | null;
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
  const borrowedFrom = new Set<string>();
  for (const { text, runs } of paragraphs)
    for (const run of runs) {
      const family = familyOfFile(run.face.key);
      const into = run.missing ? missing : family !== lettering.family ? borrowed : null;
      if (into === borrowed && text.slice(run.start, run.end).trim() !== '') borrowedFrom.add(family);
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
    strokeMm: strokeOf(shaped, sized.sizeMm, lettering),
    sizeMm: sized.sizeMm,
    lines: shaped.length,
    ...heightsOf(paragraphs, sized.sizeMm),
    missing: [...missing],
    borrowed: [...borrowed],
    borrowedFrom: [...borrowedFrom],
    bounds: boxes.length > 0 ? around(boxes) : null,
    fits: sized.fits,
    fitsAtMm: sized.fits ? null : fittingSize(lettering, paragraphs),
  };
}

/** Smallest size of letters that is tried for a box, mm. */
const MIN_SIZE_MM = 0.5;

function fittingSize(lettering: Lettering, paragraphs: readonly Paragraph[]): number | null {
  const { fits, sizeMm } = chooseSize({ ...lettering, shrinkToMm: MIN_SIZE_MM }, paragraphs);
  return fits ? sizeMm : null;
}

/** How thick the strokes of all letters are, with the outline around them. */
function strokeOf(lines: readonly Line[], sizeMm: number, { outline }: Lettering): number | null {
  const together = new StrokesTogether();
  for (const { runs } of lines)
    for (const { face, glyphs } of runs) for (const { id } of glyphs) together.add(face.strokesOf(id));
  const strokeEm = together.strokeEm();
  return strokeEm === null ? null : strokeEm * sizeMm + 2 * (outline?.widthMm ?? 0);
}

/** Letters without case are about as high as small ones (common practice, no source); em. */
const PLAIN_SMALL = 0.5;
const PLAIN_CAP = 0.7;

/** How high the letters of a text are: what a reader sees, not the size of the type. The lowest of the fonts that it is set in counts. */
function heightsOf(paragraphs: readonly Paragraph[], sizeMm: number): Pick<SetText, 'capMm' | 'smallMm'> {
  let [cap, small] = [Infinity, Infinity];
  for (const { text, runs } of paragraphs)
    for (const { face, start, end } of runs) {
      const part = text.slice(start, end);
      if (/[\p{Lu}\p{N}]/u.test(part)) cap = Math.min(cap, face.heightOf('H') ?? PLAIN_CAP);
      if (/[\p{Ll}\p{Lo}]/u.test(part)) small = Math.min(small, face.heightOf('x') ?? PLAIN_SMALL);
    }
  const mm = (em: number) => (em === Infinity ? null : em * sizeMm);
  return { capMm: mm(cap), smallMm: mm(small) };
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
const isApart = (joined: Uint8Array, one: number, other: number): boolean => joined[one] === 0 || joined[other] === 0;

interface Cut {
  readonly paragraph: Paragraph;
  readonly start: number;
  readonly end: number;
  /** em, with tracking, without the spaces at its end. */
  readonly width: number;
}

/** Width of text without the spaces that end it, em; tracking stands between clusters and not behind the last. */
function widthOf({ text, advances, joined }: Paragraph, start: number, end: number, tracking: number): number {
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
      if (
        glyph.advance > 0 &&
        clusterBefore >= 0 &&
        glyph.cluster !== clusterBefore &&
        isApart(line.joined, clusterBefore, glyph.cluster)
      )
        x += (tracking / 1000) * sizeMm;
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
