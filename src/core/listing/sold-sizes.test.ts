import { describe, expect, it } from 'vitest';
import { demoBlank } from '../catalog/sample';
import type { Blank } from '../catalog/blank';
import { keysWith, setChosen } from '../document/choosing';
import { newDocument, type ProductDocument } from '../document/document';
import { setOffered } from '../document/offered';
import { PLAIN_FIELDS } from './carried';
import { formWords } from './form-words';
import { describedFor, sizesRoom, soldSizes } from './sold-sizes';

const blank: Blank = {
  ...demoBlank,
  sizeGuide: {
    optionCode: 'size',
    of: 'good',
    measures: [
      { code: 'chest', name: 'Chest', mm: { s: 483, m: 508 } },
      { code: 'length', name: 'Length', mm: { s: 700, m: 720, xxl: 800 } },
    ],
  },
};
const chosen = setChosen(newDocument('b1', 'GBP', 'A tee'), keysWith(blank, {}), true);
const doc: ProductDocument = {
  ...chosen,
  words: { ...chosen.words, base: { ...chosen.words.base, description: 'Soft. \n' } },
};

describe('sizes under a description', () => {
  it('are told in centimeters, inches or both, as they are sold', () => {
    // 483 mm = 19.02 in, 700 mm = 27.56 in, 800 mm = 31.50 in (25.4 mm to the inch), to the nearest quarter.
    expect(soldSizes(doc, blank, 'cm')).toBe(
      'Sizes, cm\nS: Chest 48.5; Length 70\nM: Chest 51; Length 72\nXXL: Length 80',
    );
    const without = setOffered(doc, 's1', keysWith(blank, { size: 'm' }), false);
    expect(describedFor(without, 's1', blank, 'both').description).toBe(
      'Soft.\n\nSizes, cm and inches\nS: Chest 48.5 (19); Length 70 (27½)\nXXL: Length 80 (31½)',
    );
    expect(describedFor(without, 's2', blank, 'inches').description).toContain('M: Chest 20; Length 28¼');
  });

  it('are under the description alone, not in what search engines are told', () => {
    const carries = { ...PLAIN_FIELDS, seo: true };
    const words = formWords({ doc, blank, outlet: { id: 's1' }, carries, sizesIn: 'cm' });
    expect(words.description).toContain('Sizes, cm');
    expect(words.seo).toEqual({ title: 'A tee', description: 'Soft.' });
  });

  it('are none where nobody asks, nothing is measured, or nothing is described', () => {
    expect(describedFor(doc, 's1', blank, undefined)).toEqual(doc.words.base);
    expect(soldSizes(doc, demoBlank, 'cm')).toBeNull();
    expect(describedFor(chosen, 's1', blank, 'cm').description).toBe('');
    expect([sizesRoom(null), sizesRoom('abc')]).toEqual([0, 5]);
  });
});
