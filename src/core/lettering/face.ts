import { Blob as HbBlob, Buffer as HbBuffer, Direction, Face, Feature, Font, shape } from 'harfbuzzjs';
import { pathBox, type Step } from '../paths/path';
import { glyphStrokes, type GlyphStrokes } from './glyph-strokes';
import { unpackWoff } from './woff';
import { ownEntry } from '../own-entry';

/** One glyph of a shaped run; lengths in em (1 is the font size), y up as in fonts. */
export interface ShapedGlyph {
  readonly id: number;
  /** Index into the text of the first UTF-16 unit that it stands for. */
  readonly cluster: number;
  readonly advance: number;
  readonly dx: number;
  readonly dy: number;
}

/** ISO 15924 codes that HarfBuzz is told, by script name. */
const TAGS: { readonly [script: string]: string } = {
  Latin: 'Latn',
  Greek: 'Grek',
  Cyrillic: 'Cyrl',
  Hebrew: 'Hebr',
  Arabic: 'Arab',
  Devanagari: 'Deva',
};

/** A font file: what it covers, how it shapes, and its outlines. Made from WOFF or OpenType bytes; throws `font-unreadable`. */
export class LetterFace {
  /** Above and below the baseline, em; both positive. */
  readonly ascent: number;
  readonly descent: number;
  private readonly font: Font;
  private readonly upem: number;
  private readonly covered: Set<number>;
  private readonly outlines = new Map<number, readonly Step[]>();
  private readonly strokes = new Map<number, GlyphStrokes>();

  constructor(
    /** `noto-sans/greek/bold`. */
    readonly key: string,
    bytes: Uint8Array,
  ) {
    const face = new Face(new HbBlob(unpackWoff(bytes)));
    this.font = new Font(face);
    this.upem = face.upem;
    this.covered = new Set(face.collectUnicodes());
    const { ascender, descender } = this.font.hExtents();
    this.ascent = ascender / this.upem;
    this.descent = -descender / this.upem;
  }

  /** Heights of capitals and of small letters, em: as H and x are drawn; null where the font has neither. */
  private readonly heights = new Map<string, number | null>();

  heightOf(letter: 'H' | 'x'): number | null {
    let height = this.heights.get(letter);
    if (height === undefined) {
      const glyph = this.covers(letter.codePointAt(0)!)
        ? this.shape(letter, 0, 1, false, 'Latin', false)[0]
        : undefined;
      const box = glyph ? pathBox(this.outline(glyph.id)) : null;
      height = box && box.bottom - box.top;
      this.heights.set(letter, height);
    }
    return height;
  }

  /** How many characters it draws. */
  get size(): number {
    return this.covered.size;
  }

  covers(codePoint: number): boolean {
    return this.covered.has(codePoint);
  }

  /** Shapes `text` from `start` to `end` (UTF-16 units), with what is around it as context. Glyphs come in visual order. */
  shape(text: string, start: number, end: number, rtl: boolean, script: string, ligatures: boolean): ShapedGlyph[] {
    const buffer = new HbBuffer();
    buffer.addText(text, start, end - start);
    buffer.setDirection(rtl ? Direction.RTL : Direction.LTR);
    buffer.setScript(ownEntry(TAGS, script) ?? 'Zyyy');
    buffer.setLanguage('und');
    shape(this.font, buffer, ligatures ? undefined : NO_LIGATURES);
    return buffer.getGlyphInfosAndPositions().map((glyph) => ({
      id: glyph.codepoint,
      cluster: glyph.cluster,
      advance: glyph.xAdvance! / this.upem,
      dx: glyph.xOffset! / this.upem,
      dy: glyph.yOffset! / this.upem,
    }));
  }

  /** How thick the strokes of a glyph are: found once for each. */
  strokesOf(id: number): GlyphStrokes {
    let strokes = this.strokes.get(id);
    if (!strokes) this.strokes.set(id, (strokes = glyphStrokes(this.outline(id))));
    return strokes;
  }

  /** A glyph's outline, em, y down, its origin on the baseline. */
  outline(id: number): readonly Step[] {
    const have = this.outlines.get(id);
    if (have) return have;
    const k = 1 / this.upem;
    const steps = this.font.glyphToJson(id).map(({ type, values: v }): Step => {
      switch (type) {
        case 'M':
        case 'L':
          return { kind: type, x: v[0]! * k, y: -v[1]! * k };
        case 'Q':
          return { kind: 'Q', x1: v[0]! * k, y1: -v[1]! * k, x: v[2]! * k, y: -v[3]! * k };
        case 'C':
          return {
            kind: 'C',
            x1: v[0]! * k,
            y1: -v[1]! * k,
            x2: v[2]! * k,
            y2: -v[3]! * k,
            x: v[4]! * k,
            y: -v[5]! * k,
          };
        default:
          return { kind: 'Z' };
      }
    });
    this.outlines.set(id, steps);
    return steps;
  }
}

/** Letters that are set apart must not be joined into ligatures. */
const NO_LIGATURES = ['liga', 'clig'].map((tag) => new Feature(tag, 0));
