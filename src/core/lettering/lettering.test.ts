import fs from 'node:fs';
import path from 'node:path';
import fc from 'fast-check';
import * as fontkit from 'fontkit';
import { describe, expect, it } from 'vitest';
import { isTypicaError } from '../errors';
import { scaling } from '../geometry/matrix';
import { flatten, mapPath, polygonArea, type Step } from '../paths/path';
import { coverageOf } from './coverage';
import { LetterFace } from './face';
import { FAMILIES, familyByCode, styleOf } from './families';
import { itemize, levelsOf, scriptOf, visualOrder } from './itemize';
import { setText } from './layout';
import { MM_PER_POINT, settableText, type Lettering } from './text';
import { unpackWoff } from './woff';

const fileOf = (family: string, subset = 'latin', style = '400-normal') =>
  new Uint8Array(
    fs.readFileSync(
      path.resolve(
        import.meta.dirname,
        `../../../node_modules/@fontsource/${family}/files/${family}-${subset}-${style}.woff`,
      ),
    ),
  );
const hasFile = (family: string, subset: string, style: string): boolean =>
  fs.existsSync(
    path.resolve(
      import.meta.dirname,
      `../../../node_modules/@fontsource/${family}/files/${family}-${subset}-${style}.woff`,
    ),
  );
const loaded = new Map<string, LetterFace>();
const face = (family: string, subset = 'latin'): LetterFace => {
  const key = `${family}/${subset}/regular`;
  const have = loaded.get(key) ?? new LetterFace(key, fileOf(family, subset));
  loaded.set(key, have);
  return have;
};
const sans = () => [
  face('noto-sans'),
  face('noto-sans', 'latin-ext'),
  face('noto-sans', 'greek'),
  face('noto-sans', 'cyrillic'),
  face('noto-sans', 'devanagari'),
  face('frank-ruhl-libre', 'hebrew'),
  face('amiri', 'arabic'),
];
const lettering = (over: Partial<Lettering> = {}): Lettering => ({
  text: 'Crossed Blades',
  family: 'noto-sans',
  style: 'regular',
  sizeMm: 10,
  align: 'left',
  tracking: 0,
  lineHeight: 1.2,
  fill: '#000000',
  outline: null,
  arcDeg: 0,
  boxWidthMm: 100,
  boxHeightMm: 40,
  shrinkToMm: null,
  wrap: true,
  ...over,
});
const set = (over: Partial<Lettering> = {}) => setText(lettering(over), sans());
const shapeOf = (one: LetterFace, text: string, script: string, rtl = false) =>
  one.shape(text, 0, text.length, rtl, script, true);

/** A glyph's path as fontkit has it. */
const pathOf = (glyph: fontkit.Glyph): Step[] =>
  glyph.path.commands.map(({ command, args: [a = 0, b = 0, c = 0, d = 0, e = 0, f = 0] }): Step => {
    if (command === 'moveTo') return { kind: 'M', x: a, y: b };
    if (command === 'lineTo') return { kind: 'L', x: a, y: b };
    if (command === 'quadraticCurveTo') return { kind: 'Q', x1: a, y1: b, x: c, y: d };
    if (command === 'bezierCurveTo') return { kind: 'C', x1: a, y1: b, x2: c, y2: d, x: e, y: f };
    return { kind: 'Z' };
  });

describe('a font', () => {
  it('unpacked from WOFF is the font that a general library reads', () => {
    const bytes = fileOf('eb-garamond');
    const woff = fontkit.create(Buffer.from(bytes) as never) as fontkit.Font;
    const sfnt = fontkit.create(Buffer.from(unpackWoff(bytes)) as never) as fontkit.Font;
    expect(sfnt.numGlyphs).toBe(woff.numGlyphs);
    expect(sfnt.characterSet).toEqual(woff.characterSet);
    expect(unpackWoff(unpackWoff(bytes))).toEqual(unpackWoff(bytes));
  });

  it.each([new Uint8Array(0), new Uint8Array(100), fileOf('rye').subarray(0, 600)])(
    'that is none is refused',
    (bytes) => {
      expect(() => unpackWoff(bytes)).toThrow(expect.toSatisfy((e) => isTypicaError(e, 'font-unreadable')));
    },
  );

  // fontkit 2 as the reference: the same glyphs, advance widths within half a unit per em, outlines by their box and area
  it.each([
    ['noto-sans', 'latin', 'Tides & Oars, 1897', 'Latin'],
    ['eb-garamond', 'latin', 'Affluent fjord officers', 'Latin'],
    ['pacifico', 'latin', 'Dawn outing', 'Latin'],
    ['noto-sans', 'greek', 'Κωπηλασία', 'Greek'],
    ['comfortaa', 'cyrillic', 'Гребля', 'Cyrillic'],
  ])('%s (%s) shapes “%s” as fontkit does', (family, subset, text, script) => {
    const reference = fontkit.create(Buffer.from(unpackWoff(fileOf(family, subset))) as never) as fontkit.Font;
    const run = reference.layout(text);
    const glyphs = shapeOf(face(family, subset), text, script);
    expect(glyphs.map((glyph) => glyph.id)).toEqual(run.glyphs.map((glyph) => glyph.id));
    glyphs.forEach((glyph, i) => {
      expect(Math.abs(glyph.advance * reference.unitsPerEm - run.positions[i]!.xAdvance)).toBeLessThanOrEqual(0.5);
    });
    glyphs.forEach((glyph, i) => {
      const own = mapPath(face(family, subset).outline(glyph.id), scaling(reference.unitsPerEm, -reference.unitsPerEm));
      const [mine, theirs] = [own, pathOf(run.glyphs[i]!)].map((path) => {
        const polygons = flatten(path, 0.01);
        const xs = polygons.flatMap((points) => [...points].filter((_, k) => k % 2 === 0));
        const ys = polygons.flatMap((points) => [...points].filter((_, k) => k % 2 === 1));
        return {
          area: Math.abs(polygons.reduce((sum, points) => sum + polygonArea(points), 0)),
          box: [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)],
        };
      }) as [{ area: number; box: number[] }, { area: number; box: number[] }];
      if (theirs.area === 0) return expect(mine.area).toBe(0);
      expect(Math.abs(mine.area / theirs.area - 1)).toBeLessThan(1e-3);
      mine.box.forEach((edge, k) => expect(Math.abs(edge - theirs.box[k]!)).toBeLessThanOrEqual(0.5));
    });
  });

  it('joins Arabic letters and stacks Devanagari ones', () => {
    const arabic = face('amiri', 'arabic');
    // From memory: beh has another shape at the ends of a word than by itself, and lam and alef join into a form of their own.
    const [alone] = shapeOf(arabic, 'ب', 'Arabic', true);
    const joined = shapeOf(arabic, 'بب', 'Arabic', true);
    expect(joined.map((glyph) => glyph.id)).not.toContain(alone!.id);
    const ids = (text: string) => shapeOf(arabic, text, 'Arabic', true).map((glyph) => glyph.id);
    const joinedLam = ids('لا');
    for (const id of [...ids('ل'), ...ids('ا')]) expect(joinedLam).not.toContain(id);
    const devanagari = face('noto-sans', 'devanagari');
    // ि is typed after its consonant and stands before it: क + ि.
    const ki = shapeOf(devanagari, 'कि', 'Devanagari');
    const [ka] = shapeOf(devanagari, 'क', 'Devanagari');
    expect(ki.at(-1)!.id).toBe(ka!.id);
  });

  it('ships in about twenty families that cover six scripts, each with its files', () => {
    expect(FAMILIES.length).toBeGreaterThanOrEqual(20);
    const styles = { regular: '400-normal', bold: '700-normal', italic: '400-italic', 'bold-italic': '700-italic' };
    for (const family of FAMILIES)
      for (const style of family.styles)
        expect(fileOf(family.code, 'latin', styles[style]).length, family.code).toBeGreaterThan(1000);
    for (const script of ['Greek', 'Cyrillic', 'Hebrew', 'Arabic', 'Devanagari'] as const)
      expect(
        FAMILIES.some((family) => family.scripts.includes(script)),
        script,
      ).toBe(true);
    expect(styleOf(familyByCode('rye')!, 'bold-italic')).toBe('regular');
    expect(styleOf(familyByCode('oswald')!, 'bold-italic')).toBe('bold');
  });
});

describe('direction (UAX #9)', () => {
  it('takes its base from the first strong letter', () => {
    expect(levelsOf('abc').base).toBe(0);
    expect(levelsOf('שלום abc').base).toBe(1);
    expect(levelsOf('123 שלום').base).toBe(1);
  });

  it('shows runs from left to right as the rule L2 turns them', () => {
    const seen = (levels: readonly number[]) =>
      visualOrder(levels.map((level, id) => ({ level, id }))).map((run) => run.id);
    expect(seen([0, 1, 0])).toEqual([0, 1, 2]);
    expect(seen([1, 2, 1])).toEqual([2, 1, 0]);
    expect(seen([0, 1, 2, 1, 0])).toEqual([0, 3, 2, 1, 4]);
    expect(seen([2, 1])).toEqual([1, 0]);
  });

  it('reverses letters of a Hebrew word but not the digits in it', () => {
    const text = 'אב 12';
    const runs = visualOrder(itemize(text, levelsOf(text).levels, sans()));
    expect(runs.map((run) => text.slice(run.start, run.end).trim())).toEqual(['12', 'אב']);
  });
});

describe('fonts by character', () => {
  it('leave marks with their letter and shared signs with what stands before', () => {
    const text = 'Ebb, Прилив!';
    const runs = itemize(text, levelsOf(text).levels, sans());
    expect(runs.map((run) => [text.slice(run.start, run.end), run.script])).toEqual([
      ['Ebb, ', 'Latin'],
      ['Прилив', 'Cyrillic'],
      ['!', 'Cyrillic'],
    ]);
    expect(scriptOf('́')).toBe('Common');
  });

  it('name what no font has, each grapheme once', () => {
    expect(set({ text: 'Oar 漕 👨‍👩‍👧 漕' }).missing.toSorted()).toEqual(['漕', '👨‍👩‍👧'].toSorted());
    expect(set({ text: 'Прилив שלום' })).toMatchObject({ missing: [], borrowed: [...'שלום'] });
  });
});

describe('what a font draws', () => {
  it('is read from its own table: the same characters as HarfBuzz finds, in every file that ships', () => {
    for (const { code, styles } of FAMILIES)
      for (const subset of ['latin', 'latin-ext', 'greek', 'cyrillic', 'hebrew', 'arabic', 'devanagari', 'vietnamese'])
        for (const style of styles) {
          const file = { regular: '400-normal', bold: '700-normal', italic: '400-italic', 'bold-italic': '700-italic' };
          if (!hasFile(code, subset, file[style])) continue;
          const bytes = fileOf(code, subset, file[style]);
          const theirs = new LetterFace('f', bytes);
          const mine = coverageOf(unpackWoff(bytes, ['cmap']));
          const listed = mine.flatMap(([from, to]) => Array.from({ length: to - from + 1 }, (_, i) => from + i));
          expect(
            listed.every((c) => theirs.covers(c)),
            `${code} ${subset} ${style}`,
          ).toBe(true);
          expect(listed.length, `${code} ${subset} ${style}`).toBe(theirs.size);
        }
  });

  it('tells how high its letters are: as H and x are drawn', () => {
    // Noto Sans: cap height 714 and x-height 536 of 1000 (its OS/2 table).
    const { capMm, smallMm } = set({ text: 'Ebb', sizeMm: 10 });
    expect(capMm).toBeCloseTo(7.14, 1);
    expect(smallMm).toBeCloseTo(5.36, 1);
    expect(set({ text: 'EBB 2026' }).smallMm).toBeNull();
    expect(set({ text: 'ebb' }).capMm).toBeNull();
  });
});

describe('strokes of letters', () => {
  it('are as thick as the thinnest of them: a plain stem, hairlines beside stems, and an outline around it', () => {
    // An l of Noto Sans is one stem: as wide as its outline's box, from the font itself.
    const { bounds, strokeMm } = set({ text: 'l', sizeMm: 20 });
    expect(strokeMm! / (bounds!.right - bounds!.left)).toBeCloseTo(1, 1);
    // Its x is drawn of strokes of one width; an I of Playfair Display has a stem and hairlines at its ends, about a sixth as thick (looked at at 1,000 px).
    const playfair = (text: string) =>
      setText(lettering({ text, family: 'playfair-display', sizeMm: 20 }), [face('playfair-display')]).strokeMm!;
    expect(playfair('EH')).toBeLessThan(0.5 * playfair('l'));
    const outlined = set({ text: 'l', sizeMm: 20, outline: { color: '#ffffff', widthMm: 0.5 } });
    expect(outlined.strokeMm! - strokeMm!).toBeCloseTo(1, 6);
    expect(set({ text: '' }).strokeMm).toBeNull();
  });
});

describe('letters and their marks', () => {
  const rye = () => [face('rye'), face('rye', 'latin-ext'), ...sans()];
  const inRye = (text: string) => setText(lettering({ text, family: 'rye' }), rye());

  it('that a family lacks are borrowed from one that has them, none is missing', () => {
    const turkish = inRye('İzmir ığşő');
    expect(turkish.missing).toEqual([]);
    expect(turkish.borrowed.length).toBeGreaterThan(0);
    expect(turkish.borrowedFrom).toEqual(['noto-sans']);
  });

  it('are composed where there is a sign for both, and joined signs of old type come apart', () => {
    expect(set({ text: 'A\u030angstro\u0308m' }).missing).toEqual([]);
    // No sign for both, and no file that holds letter and mark: told, not drawn apart.
    expect(set({ text: 'Z\u0327' }).missing).toEqual(['Z\u0327']);
    expect(settableText('A\u030a')).toBe('\u00c5');
    expect(settableText('\ufb01n')).toBe('fin');
    const composed = set({ text: '\u00c5ngstr\u00f6m' });
    expect(set({ text: 'A\u030angstro\u0308m' }).inks).toEqual(composed.inks);
  });

  it('of joined scripts stay joined when letters are set apart', () => {
    const word = 'بحر';
    const wide = (tracking: number) => {
      const { bounds } = set({ text: word, tracking });
      return bounds!.right - bounds!.left;
    };
    expect(wide(200)).toBeCloseTo(wide(0), 6);
    // Words go apart.
    const two = (tracking: number) => {
      const { bounds } = set({ text: `${word} ${word}`, tracking });
      return bounds!.right - bounds!.left;
    };
    expect(two(200)).toBeGreaterThan(two(0) + 1);
    const latin = (tracking: number) => set({ text: 'Ebb', tracking }).bounds!.right;
    expect(latin(200)).toBeGreaterThan(latin(0) + 1);
  });
});

describe('lines (UAX #14)', () => {
  const linesAt = (text: string, boxWidthMm: number) => set({ text, boxWidthMm, boxHeightMm: 400 }).lines;

  it('break between words and where they were typed', () => {
    expect(linesAt('one two three', 1000)).toBe(1);
    expect(linesAt('one\ntwo\n\nthree', 1000)).toBe(4);
    expect(linesAt('oar oar oar oar', 45)).toBeGreaterThan(1);
    expect(set({ text: 'oar oar oar oar', boxWidthMm: 20, wrap: false }).lines).toBe(1);
  });

  it('never break before a closing sign or inside a number with its sign', () => {
    // UAX #14: no break before “)” (rule LB13), so the whole bracket goes to the next line; none in “$(12.35)” (LB25).
    const right = (text: string, boxWidthMm = 1000) => set({ text, boxWidthMm, boxHeightMm: 400 }).bounds!.right;
    const broken = set({ text: 'aa (bbbb)', boxWidthMm: right('aa (bbbb') + 0.5, boxHeightMm: 400 });
    expect(broken.lines).toBe(2);
    expect(broken.bounds!.right).toBeCloseTo(right('(bbbb)'), 6);
    const wide = set({ text: '$(12.35)', boxWidthMm: 1000 });
    expect(linesAt('$(12.35) x', wide.bounds!.right + 1)).toBe(2);
  });

  it('break a word that is too long between graphemes (UAX #29), one at least on a line', () => {
    expect(linesAt('aaaaaaaaaa', 20)).toBeGreaterThan(2);
    expect(linesAt('abc', 0.1)).toBe(3);
    expect(linesAt('e\u0301e\u0301', 0.1)).toBe(2);
  });
});

describe('setting text', () => {
  it('gives a size in points: 12 pt is 4.2333 mm (1 pt is 1/72 in, 1 in is 25.4 mm)', () => {
    expect(12 * MM_PER_POINT).toBeCloseTo(4.2333, 4);
  });

  it('scales with its size, exactly', () => {
    const [one, two] = [set({ text: 'Ebb', sizeMm: 5 }), set({ text: 'Ebb', sizeMm: 10 })];
    const width = (s: typeof one) => s.bounds!.right - s.bounds!.left;
    expect(width(two) / width(one)).toBeCloseTo(2, 9);
  });

  it('aligns within the box', () => {
    const at = (align: Lettering['align']) => set({ text: 'Ebb', align }).bounds!;
    expect(at('left').left).toBeLessThan(3);
    expect(at('right').right).toBeGreaterThan(97);
    expect((at('center').left + at('center').right) / 2).toBeCloseTo(50, 0);
  });

  it('adds tracking between letters and not around them', () => {
    const width = (tracking: number) => {
      const { left, right } = set({ text: 'HHH', tracking, sizeMm: 10 }).bounds!;
      return right - left;
    };
    // Two gaps of a tenth of 10 mm
    expect(width(100) - width(0)).toBeCloseTo(2, 6);
  });

  it('shrinks until it fits, no further than it must and never under the smallest size', () => {
    fc.assert(
      fc.property(
        fc.string({ unit: fc.constantFrom(...'abcdefg AVW'), minLength: 1, maxLength: 60 }),
        fc.integer({ min: 15, max: 90 }),
        fc.boolean(),
        (text, boxWidthMm, wrap) => {
          const given = { text, boxWidthMm, boxHeightMm: 20, wrap, shrinkToMm: 2, sizeMm: 18 };
          const shrunk = set(given);
          expect(shrunk.sizeMm).toBeGreaterThanOrEqual(2);
          expect(shrunk.sizeMm).toBeLessThanOrEqual(18);
          if (shrunk.fits && shrunk.sizeMm < 18)
            expect(set({ ...given, shrinkToMm: null, sizeMm: shrunk.sizeMm + 0.02 }).fits).toBe(false);
          if (!shrunk.fits) expect(shrunk.sizeMm).toBe(2);
        },
      ),
      { numRuns: 40, seed: 4 },
    );
  });

  it('bends along an arc as long as the line: its ends turn by the whole angle', () => {
    const straight = set({ text: 'HHHHHHHHHH', align: 'center' }).bounds!;
    const arched = set({ text: 'HHHHHHHHHH', align: 'center', arcDeg: 90 }).bounds!;
    const drooped = set({ text: 'HHHHHHHHHH', align: 'center', arcDeg: -90 }).bounds!;
    expect(arched.bottom).toBeGreaterThan(straight.bottom + 5);
    expect(drooped.top).toBeLessThan(straight.top - 5);
    // A chord of an arc of length L and 90°: L · sin 45° ÷ 45° in radians
    const length = straight.right - straight.left;
    const baselineChord = (length * Math.SQRT1_2) / (Math.PI / 4);
    // Letters are 7.14 mm high at most here and lean outward by 45° at the ends.
    expect(arched.right - arched.left).toBeGreaterThan(baselineChord - 1);
    expect(arched.right - arched.left).toBeLessThan(baselineChord + 2 * 7.2 * Math.SQRT1_2);
  });

  it('puts an outline under the letters, as wide as asked on the outside', () => {
    const plain = set({ text: 'O' }).bounds!;
    const { inks, bounds } = set({ text: 'O', outline: { color: '#ff0000', widthMm: 1 } });
    expect(inks.map((ink) => ink.color)).toEqual(['#ff0000', '#000000']);
    expect(plain.left - bounds!.left).toBeCloseTo(1, 1);
    expect(bounds!.bottom - plain.bottom).toBeCloseTo(1, 1);
  });

  it('is the same each time, outlines and all', () => {
    const given = { text: 'Κωπηλασία שלום कि مد', arcDeg: 30, tracking: 20, boxWidthMm: 60, shrinkToMm: 3 };
    expect(JSON.stringify(set(given))).toBe(JSON.stringify(set(given)));
  });

  it.each([
    ['nothing', ''],
    ['only spaces', '   \t  '],
    ['controls', '\u0000\u0007\u001b'],
    ['lone surrogates', '\ud800\udc00\ud800'.slice(2)],
    ['only line breaks', '\n\n\n'],
  ])('of %s draws nothing and harms nothing', (_what, text) => {
    expect(set({ text })).toMatchObject({ inks: [], missing: [], bounds: null });
  });

  it('of 10,000 characters comes to an end', () => {
    const { lines } = set({ text: 'tide '.repeat(2000), boxWidthMm: 50, boxHeightMm: 50, shrinkToMm: 0.5 });
    expect(lines).toBeGreaterThan(5);
  });

  it('cleans what cannot be set', () => {
    expect(settableText('a\r\nb\rc\u2028d\te\u0007\ud800  \n')).toBe('a\nb\nc\nd e');
  });
});
