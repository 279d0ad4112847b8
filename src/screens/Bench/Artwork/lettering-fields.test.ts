import { describe, expect, it } from 'vitest';
import { lengthText, steppedLength, typedNumber, typedSize } from './lettering-fields';

const bounds = { least: 1, most: 500, scale: 2, unit: 'mm', dpi: 300 } as const;

describe('fields of letters', () => {
  it('show and take lengths on the good, whatever the box is scaled to', () => {
    expect(lengthText(6, bounds)).toBe('12.0 mm');
    // A point is 25.4 ÷ 72 mm.
    expect(lengthText(6, { ...bounds, unit: 'pt' })).toBe(`${((12 * 72) / 25.4).toFixed(1)} pt`);
    expect(typedSize('12', bounds)).toBe(6);
    expect(typedSize('72 pt', bounds)).toBeCloseTo(12.7, 9);
    expect(typedSize('72', { ...bounds, unit: 'pt' })).toBeCloseTo(12.7, 9);
    expect(() => typedSize('1', bounds)).toThrow('from 2 mm to 1000 mm');
    expect(steppedLength(6, 1, bounds)).toBe(6.5);
    expect(steppedLength(1.2, -1, bounds)).toBe(1);
  });

  it('read numbers as they are written, and say what is none', () => {
    expect(typedNumber('−30°', '°', -350, 350)).toBe(-30);
    expect(typedNumber('1,2 ×', ' ×', 0.5, 4)).toBe(1.2);
    expect(() => typedNumber('', '', -200, 2000)).toThrow('is not a number from −200 to 2000');
    expect(() => typedNumber('5', ' ×', 0.5, 4)).toThrow('“5” is not a number from 0.5 to 4');
  });
});
