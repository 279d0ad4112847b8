import { describe, expect, it } from 'vitest';
import { dpiToPixelsPerMeter, inchToMm, mmToInch, mmToPx, parseLengthMm, pxToMm } from './length';

describe('lengths', () => {
  it('holds the inch at 25.4 mm (international yard and pound agreement, 1959)', () => {
    expect(inchToMm(1)).toBe(25.4);
    expect(mmToInch(254)).toBe(10);
    expect(mmToPx(25.4, 300)).toBe(300);
  });

  it('gives A2 at 300 DPI 4961 × 7016 px (ISO 216: 420 × 594 mm)', () => {
    expect([mmToPx(420, 300), mmToPx(594, 300)]).toEqual([4961, 7016]);
  });

  it('gives PNG densities (W3C PNG third edition, pHYs): 300 DPI 11811, 150 DPI 5906', () => {
    expect(dpiToPixelsPerMeter(300)).toBe(11811);
    expect(dpiToPixelsPerMeter(150)).toBe(5906);
  });

  it.each([
    ['120', 120],
    ['12 cm', 120],
    ['4.5 in', 114.3],
    ['4,5in', 114.3],
    ['2"', 50.8],
    ['300 px', 25.4],
    ['72 pt', 25.4],
    ['-3', -3],
    ['.5 mm', 0.5],
  ])('reads %s', (text, mm) => {
    expect(parseLengthMm(text, { dpi: 300 })).toBeCloseTo(mm, 9);
  });

  it.each(['', 'abc', '12 parsecs', '1 2', '12..4'])('refuses %j with a sentence', (text) => {
    expect(() => parseLengthMm(text)).toThrow(/is not a length/);
  });

  it('refuses pixels where there is no density', () => {
    expect(() => parseLengthMm('10 px')).toThrow(/needs a print density/);
  });

  it('goes to pixels and back within half a pixel', () => {
    for (const mm of [1, 17.3, 210, 609.6])
      expect(Math.abs(pxToMm(mmToPx(mm, 300), 300) - mm)).toBeLessThan(25.4 / 600);
  });
});
