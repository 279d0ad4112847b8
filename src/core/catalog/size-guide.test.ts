import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoBlank } from './sample';
import { centimeters, inches, sizeTable } from './size-guide';
import { compareSizes } from './size-order';

/** `20¼` as a number. */
const value = (text: string) =>
  [...text].reduce((sum, c) => ('¼½¾'.includes(c) ? sum + ('¼½¾'.indexOf(c) + 1) / 4 : sum), parseInt(text, 10) || 0);

describe('size guides', () => {
  // The inch is 25.4 mm (international yard and pound agreement, 1959); halves and quarters are common practice, no source.
  it.each([
    [508, '51', '20'],
    [483, '48.5', '19'],
    [514, '51.5', '20¼'],
    [546.1, '54.5', '21½'],
    [552.45, '55', '21¾'],
    [6.35, '0.5', '¼'],
    [0, '0', '0'],
  ])('say %d mm as %s cm and %s in', (mm, cm, inch) => {
    expect([centimeters(mm), inches(mm)]).toEqual([cm, inch]);
  });

  it('are never further off than half a step', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 30_000 }), (tenths) => {
        const mm = tenths / 10;
        expect(Math.abs(Number(centimeters(mm)) * 10 - mm)).toBeLessThanOrEqual(2.5 + 1e-9);
        expect(Math.abs(value(inches(mm)) * 25.4 - mm)).toBeLessThanOrEqual(25.4 / 8 + 1e-9);
      }),
    );
  });

  it('stand in the blank’s order of sizes, with a gap where nothing was measured', () => {
    const sizeGuide = {
      optionCode: 'size',
      of: 'good',
      measures: [
        { code: 'chest', name: 'Chest', mm: { s: 457.2, m: 508, xxl: 609.6 } },
        { code: 'length', name: 'Length', mm: { s: 711.2 } },
      ],
    } as const;
    expect(sizeTable({ ...demoBlank, sizeGuide })).toEqual({
      measures: ['Chest', 'Length'],
      rows: [
        { size: 'S', cm: ['45.5', '71'], inches: ['18', '28'] },
        { size: 'M', cm: ['51', null], inches: ['20', null] },
        { size: 'XXL', cm: ['61', null], inches: ['24', null] },
      ],
    });
    expect(sizeTable(demoBlank)).toBeNull();
  });

  // ISO 216: each sheet is half of the one before it, so A4 is smaller than A2
  it('sort sizes as a person would', () => {
    const run = ['XXL', '15 oz', 'S', 'A2', '3XL', 'M', '11 oz', 'A4', 'XS', '24 × 36 in', '18 × 24 in', 'XL'];
    expect(run.sort(compareSizes)).toEqual([
      'XS',
      'S',
      'M',
      'XL',
      'XXL',
      '3XL',
      'A4',
      'A2',
      '18 × 24 in',
      '24 × 36 in',
      '11 oz',
      '15 oz',
    ]);
  });
});
