import { describe, expect, it } from 'vitest';
import { isTypicaError } from '../errors';
import { colorDifference, familyOf } from './families';
import { COLOR_FAMILIES, FAMILY_COLORS } from './family-colors';

const lab = (l: number, a: number, b: number) => ({ mode: 'lab65' as const, l, a, b });

describe('color difference', () => {
  // Sharma, Wu, Dalal 2005, table 1: pairs 1–4, 7, 9, 11, 17–20, 25 and 34
  it.each([
    [50, 2.6772, -79.7751, 50, 0, -82.7485, 2.0425],
    [50, 3.1571, -77.2803, 50, 0, -82.7485, 2.8615],
    [50, 2.8361, -74.02, 50, 0, -82.7485, 3.4412],
    [50, -1.3802, -84.2814, 50, 0, -82.7485, 1.0],
    [50, 0, 0, 50, -1, 2, 2.3669],
    [50, 2.49, -0.001, 50, -2.49, 0.0009, 7.1792],
    [50, 2.49, -0.001, 50, -2.49, 0.0011, 7.2195],
    [50, 2.5, 0, 73, 25, -18, 27.1492],
    [50, 2.5, 0, 61, -5, 29, 22.8977],
    [50, 2.5, 0, 56, -27, -3, 31.903],
    [50, 2.5, 0, 58, 24, 15, 19.4535],
    [60.2574, -34.0099, 36.2677, 60.4626, -34.1751, 39.4387, 1.2644],
    [2.0776, 0.0795, -1.135, 0.9033, -0.0636, -0.5514, 0.9082],
  ])('of (%f, %f, %f) and (%f, %f, %f) is %f', (l1, a1, b1, l2, a2, b2, difference) => {
    expect(colorDifference(lab(l1, a1, b1), lab(l2, a2, b2))).toBeCloseTo(difference, 4);
  });
});

describe('color families', () => {
  // By eye: what anyone would call them.
  it.each([
    ['#ffffff', 'white'],
    ['#f6f4ee', 'white'],
    ['#000000', 'black'],
    ['#808080', 'gray'],
    ['#ff0000', 'red'],
    ['#1b2a41', 'blue'],
    ['#008000', 'green'],
    ['#ffd700', 'yellow'],
    ['#ffc0cb', 'pink'],
    ['#6a0dad', 'purple'],
    ['#8b4513', 'brown'],
    ['#008080', 'teal'],
    ['#e6dcc6', 'natural'],
  ])('%s is %s', (hex, family) => {
    expect(familyOf(hex)).toBe(family);
  });

  it('hold their own prototypes', () => {
    for (const family of COLOR_FAMILIES) for (const hex of FAMILY_COLORS[family]) expect(familyOf(hex)).toBe(family);
  });

  it('are not guessed for what is no color', () => {
    expect(() => familyOf('blue-ish')).toThrow(expect.toSatisfy((e) => isTypicaError(e, 'color-unreadable')));
  });
});
