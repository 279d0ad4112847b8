import { describe, expect, it } from 'vitest';
import { demoBlank } from '../catalog/sample';
import { keysWith, setChosen, setCodes } from '../document/choosing';
import { checkDocument } from '../document/check';
import { newDocument, type ProductDocument } from '../document/document';
import { CodeReader } from './codes-csv';
import { gtinCheckDigit, parseGtin } from './gtin';
import { storeLimit } from './limits';
import { moveValue, orderedValues } from './order';
import { checkPattern, skuCollisions, skuFor, skusOf } from './sku';

const doc: ProductDocument = setChosen(newDocument('b1', 'GBP', 'Tee'), keysWith(demoBlank, {}), true);
const [color, size] = [demoBlank.options[0]!, demoBlank.options[1]!];
const key = 'color=estuary;size=m';

describe('GTINs', () => {
  it('have the check digit of the GS1 General Specifications: 629104150021 → 3', () => {
    expect(gtinCheckDigit('629104150021')).toBe(3);
    expect(parseGtin('6291 0415 0021 3')).toBe('6291041500213');
  });

  it('have 8, 12, 13 or 14 digits (check digits worked out by hand)', () => {
    // 7 digits 9638507: 3×7+0+3×5+8+3×3+6+3×9 = 86 → 4. 12: 03600029145 → 2. 14: 1 + 629104150021 → 3+… → 0.
    expect(gtinCheckDigit('9638507')).toBe(4);
    expect(gtinCheckDigit('03600029145')).toBe(2);
    expect(gtinCheckDigit('1629104150021')).toBe(0);
    for (const gtin of ['96385074', '036000291452', '6291041500213', '16291041500210'])
      expect(parseGtin(gtin)).toBe(gtin);
  });

  it('are refused with what is wrong', () => {
    expect(() => parseGtin('6291041500214')).toThrow(/last digit should be 3/);
    expect(() => parseGtin('12345')).toThrow(/5 digits/);
    expect(() => parseGtin('62910415002A3')).toThrow(/digits only/);
    expect(checkDocument(setCodes(doc, [{ variantKey: key, gtin: '6291041500213' }]))).toEqual([]);
    expect(checkDocument(setCodes(doc, [{ variantKey: key, gtin: '6291041500214' }]))[0]!.says).toMatch(/no GTIN/);
  });
});

describe('SKUs', () => {
  it('are made by a pattern', () => {
    expect(skuFor('p-AbC123xyz9', demoBlank, key)).toBe('23XYZ9-TOWPATHTEE-ESTUARY-M');
    expect(skuFor('p1', demoBlank, key, 'BB-{size}-{color}-{n}', 4)).toBe('BB-M-ESTUARY-005');
    // What is empty leaves no double hyphen.
    expect(skuFor('p1', { ...demoBlank, partner: { ...demoBlank.partner, code: '' } }, key, '{partner}-{blank}')).toBe(
      'TOWPATHTEE',
    );
  });

  it('say what is wrong with a pattern, and which collide', () => {
    expect(checkPattern('{product}-{options}', demoBlank)).toEqual([]);
    expect(checkPattern('{prodct}', demoBlank)[0]).toMatch(/“{prodct}” is not known/);
    expect(checkPattern('a b', demoBlank)).toHaveLength(1);
    const shared = skusOf('p1', { ...doc, skuPattern: 'TEE-{size}' }, demoBlank);
    expect(skuCollisions(shared).map(({ sku, variantKeys }) => [sku, variantKeys.length])).toEqual([
      ['TEE-S', 2],
      ['TEE-M', 2],
      ['TEE-XXL', 2],
    ]);
    expect(skuCollisions(skusOf('p1', doc, demoBlank))).toEqual([]);
  });

  it('stay once they were sent, whatever the pattern or the seller says then', () => {
    const changed = setCodes({ ...doc, skuPattern: '{size}' }, [{ variantKey: key, sku: 'MINE' }]);
    expect(skusOf('p1', changed, demoBlank).get(key)).toBe('MINE');
    expect(skusOf('p1', changed, demoBlank, { [key]: 'OLD' }).get(key)).toBe('OLD');
  });

  it('and GTINs come from a file, with faults by line', () => {
    const reader = new CodeReader([
      { variantKey: key, sku: 'A', gtin: null, sent: true },
      { variantKey: 'x=y', sku: 'B', gtin: '96385074', sent: false },
    ]);
    [
      ['sku', 'gtin', 'new sku'],
      ['A', '6291041500213', ''],
      ['B', '96385074', 'NEW'],
      ['A', '', 'OTHER'],
      ['C', '', 'X'],
      ['B', '1', ''],
    ].forEach((fields, i) => reader.row(fields, i + 1));
    expect(reader.changes).toEqual([
      { line: 2, variantKey: key, gtin: '6291041500213' },
      { line: 3, variantKey: 'x=y', sku: 'NEW' },
    ]);
    expect(reader.faults.map(({ line, code }) => [line, code])).toEqual([
      [4, 'sku-sent'],
      [5, 'csv-variant-unknown'],
      [6, 'gtin-invalid'],
    ]);
  });

  it('cannot give two variants one code, with the file or without it; two may trade theirs', () => {
    const codes = (...lines: string[][]) => {
      const reader = new CodeReader([
        { variantKey: 'v=1', sku: 'A', gtin: '96385074', sent: false },
        { variantKey: 'v=2', sku: 'B', gtin: '6291041500213', sent: false },
        { variantKey: 'v=3', sku: 'C', gtin: null, sent: false },
      ]);
      [['variant', 'gtin', 'new sku'], ...lines].forEach((fields, i) => reader.row(fields, i + 1));
      reader.end();
      return reader;
    };
    expect(codes(['v=3', '96385074', 'B']).faults).toMatchObject([
      {
        line: 2,
        code: 'csv-gtin-taken',
        column: 'gtin',
        says: 'The GTIN 96385074 is that of v=1; each variant has its own.',
      },
      { line: 2, code: 'csv-sku-taken', column: 'new sku' },
    ]);
    expect(codes(['v=1', '', 'X'], ['v=2', '', 'X']).faults).toMatchObject([{ line: 3, code: 'csv-sku-taken' }]);
    expect(codes(['v=1', '6291041500213', 'B'], ['v=2', '96385074', 'A'])).toMatchObject({
      faults: [],
      changes: { length: 2 },
    });
    expect(codes(['v=1', '', 'A\tB']).faults).toMatchObject([{ code: 'csv-sku-sign' }]);
  });
});

describe('the seller’s order', () => {
  it('moves a value, and what the blank gets later comes after', () => {
    const moved = moveValue(doc, size, 'xxl', -2);
    expect(orderedValues(moved, size).map((value) => value.code)).toEqual(['xxl', 's', 'm']);
    expect(checkDocument(moved)).toEqual([]);
    const wider = { ...size, values: [{ code: 'xs', name: 'XS', hex: null }, ...size.values] };
    expect(orderedValues(moved, wider).map((value) => value.code)).toEqual(['xxl', 's', 'm', 'xs']);
    expect(moveValue(doc, color, color.values[0]!.code, -1)).toBe(doc);
  });
});

describe('what a store can hold', () => {
  it('says nothing where all fits', () => {
    expect(storeLimit(doc, demoBlank, { optionsMax: 2, variantsMax: 6 }, 'Pennyquay').says).toBeNull();
  });

  it('names what is too many, the colors to drop, and even groups of colors that fit', () => {
    const limit = storeLimit(doc, demoBlank, { optionsMax: 2, variantsMax: 4 }, 'Pennyquay');
    expect(limit.says).toBe('Pennyquay holds 4 variants; 6 are chosen, 2 too many.');
    expect(limit.dropColors.map(({ code }) => code)).toEqual([color.values.at(-1)!.code]);
    expect(limit.split.map((group) => group.map(({ code }) => code))).toEqual([['estuary'], ['sandbar']]);
  });

  it('offers nothing that does not help', () => {
    const limit = storeLimit(doc, demoBlank, { optionsMax: 2, variantsMax: 2 }, 'Pennyquay');
    expect([limit.dropColors, limit.split]).toEqual([[], []]);
    expect(storeLimit(doc, demoBlank, { optionsMax: 1, variantsMax: 99 }, 'Pennyquay').says).toMatch(
      /holds 1 options; this blank has 2/,
    );
  });
});
