import { describe, expect, it } from 'vitest';
import type { Geometry } from '@/core/geometry/area';
import { dpiTone, lengthOf, typedDegrees, typedLength, withLength, type Placed } from './numbers';

const geometry: Geometry = {
  widthMm: 300,
  heightMm: 400,
  outline: null,
  anchor: { xMm: 150, yMm: 200 },
  bleedMm: 0,
  safeMm: 3,
  dpi: 254,
  technique: 'direct-to-garment',
};
const placed: Placed = {
  aspect: 2,
  geometry,
  placement: { xMm: 150, yMm: 200, widthMm: 50, rotationDeg: 0, flipX: false, flipY: false },
};

describe('numbers of a layer', () => {
  it('reads lengths against the side that they lie along', () => {
    expect(typedLength('50 %', 'xMm', geometry)).toBe(150);
    expect(typedLength('50 %', 'yMm', geometry)).toBe(200);
    // 254 DPI: ten pixels to the millimeter.
    expect(typedLength('600 px', 'widthMm', geometry)).toBeCloseTo(60, 9);
    expect(typedLength('2 in', 'heightMm', geometry)).toBeCloseTo(50.8, 9);
  });

  it('sets a height by the width that gives it', () => {
    expect(lengthOf(placed, 'heightMm')).toBe(100);
    expect(withLength(placed, 'heightMm', 80)).toEqual({ widthMm: 40 });
    expect(() => withLength(placed, 'widthMm', 0.5)).toThrow('from 1 mm to 10 m');
    expect(() => withLength(placed, 'heightMm', 10_001)).toThrow('from 1 mm to 10 m');
  });

  it('lets no layer be placed where nothing of it is on the sheet', () => {
    // Its diagonal is 50 × √5 = 111.8 mm: a middle 112 mm outside cannot be seen, whatever its turn.
    expect(withLength(placed, 'xMm', -111)).toEqual({ xMm: -111 });
    expect(() => withLength(placed, 'xMm', -112)).toThrow('outside of the sheet');
    expect(() => withLength(placed, 'yMm', 512)).toThrow('outside of the sheet');
  });

  it('reads degrees as they are written, and says what is none', () => {
    expect(typedDegrees('−7,5°')).toBe(-7.5);
    expect(typedDegrees('350')).toBe(-10);
    expect(() => typedDegrees('  ')).toThrow('not a number of degrees');
    expect(() => typedDegrees('left')).toThrow('not a number of degrees');
  });

  it('grades a resolution by thirds of the one that is wanted', () => {
    expect([300, 299, 200, 199, 100, 99].map((dpi) => dpiTone(dpi, 300))).toEqual([
      'enough',
      'less',
      'less',
      'much-less',
      'much-less',
      'too-little',
    ]);
  });
});
