import { draw, lettersOf } from './draw';
import { shapeLine, wrapParagraph, type Cut, type Line } from './lines';
import { prepare, widthOf, type Paragraph } from './paragraph';
import type { Box } from '../geometry/box';
import { pathBox, type InkedPath, type Step } from '../paths/path';
import type { LetterFace } from './face';
import { familyOfFile } from './font-files';
import { StrokesTogether } from './glyph-strokes';
import { settableText, type Lettering } from './text';

const graphemes = new Intl.Segmenter('en', { granularity: 'grapheme' });

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
