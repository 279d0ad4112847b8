import { describe, expect, it } from 'vitest';
import { demoBlank, demoList, demoRates } from '@/core/catalog/sample';
import { blankRows, sortRows } from './view';

const rows = (country: string, list = demoList) => blankRows([{ blank: demoBlank, list }], demoRates, 'USD', country);

describe('Blanks', () => {
  it('shows the landed cost to the destination in the workspace’s currency', () => {
    // 7.40 GBP at 1.25 is 9.25; shipping 4.00 GBP is 5.00, abroad 5.00 GBP is 6.25
    expect(rows('GB')[0]).toMatchObject({ costMinor: 925, landedMinor: 1425, shipping: '2–4 days' });
    expect(rows('US')[0]).toMatchObject({ costMinor: 925, landedMinor: 1550 });
  });

  it('says where a partner does not send', () => {
    expect(rows('US', { ...demoList, shipping: demoList.shipping.slice(0, 1) })[0]).toMatchObject({
      landedMinor: null,
      shipping: 'not sent there',
    });
  });

  it('gives print areas in the pixels of the file (280 × 380 mm at 300 DPI)', () => {
    expect(rows('GB')[0]!.areas[0]).toBe('Front 3307 × 4488 px');
  });

  it('sorts, with what has no value last', () => {
    const [row] = rows('GB');
    const list = [
      { ...row!, name: 'B', landedMinor: null },
      { ...row!, name: 'C', landedMinor: 3 },
      { ...row!, name: 'A', landedMinor: 9 },
    ];
    expect(sortRows(list, 'landedMinor', false).map((r) => r.name)).toEqual(['C', 'A', 'B']);
    expect(sortRows(list, 'landedMinor', true).map((r) => r.name)).toEqual(['A', 'C', 'B']);
    expect(sortRows(list, 'name', false).map((r) => r.name)).toEqual(['A', 'B', 'C']);
  });
});
