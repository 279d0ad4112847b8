import { describe, expect, it } from 'vitest';
import { colorsOfSet, contentFault, shotsOfSet } from './named-sets';

const navy = { code: 'navy', name: 'Navy', hex: '#1a2a4a' };
const chalk = { code: 'chalk', name: 'Chalk', hex: '#f4f1e8' };

describe('what is kept under a name', () => {
  it('takes what fits its kind, and nothing beside it', () => {
    expect(contentFault('blank-filter', { query: 'q=tee&size=XL' })).toBeNull();
    expect(contentFault('colors', { colors: [navy, chalk] })).toBeNull();
    expect(contentFault('shots', { shots: [{ angle: 'front', name: 'Front', color: null }] })).toBeNull();
    expect(contentFault('colors', { query: 'q=tee' })).toContain('{ code, name, hex }');
    expect(contentFault('colors', { colors: [] })).toContain('1 to 60');
    expect(contentFault('colors', { colors: [{ ...navy, hex: 'navy' }] })).not.toBeNull();
    expect(contentFault('colors', { colors: [navy], more: 1 })).not.toBeNull();
    expect(
      contentFault('shots', { shots: Array.from({ length: 61 }, () => ({ angle: 'a', name: 'b', color: null })) }),
    ).not.toBeNull();
    expect(contentFault('blank-filter', { query: 'x'.repeat(2001) })).not.toBeNull();
    expect(contentFault('blank-filter', { query: '\ud800' })).not.toBeNull();
    expect(contentFault('blank-filter', null)).toBe('must be an object');
  });

  it('finds colors by code before name, and says which are not there', () => {
    const values = [
      { code: 'c1', name: 'NAVY ' },
      { code: 'navy', name: 'Deep blue' },
      { code: 'c3', name: 'chalk' },
    ];
    expect(colorsOfSet([chalk, navy, { code: 'x', name: 'Rust', hex: '#aa4422' }], values)).toEqual({
      codes: ['c3', 'navy'],
      missing: ['Rust'],
    });
    expect(colorsOfSet([navy, { ...navy, code: 'other' }], [{ code: 'navy', name: 'Navy' }]).codes).toEqual(['navy']);
  });

  it('lays an order of shots over another blank: by angle and name, each shot once in a color', () => {
    const shots = [
      { id: 's1', angle: 'front', name: 'Front' },
      { id: 's2', angle: 'front', name: 'On a hanger' },
      { id: 's3', angle: 'back', name: 'From behind' },
    ];
    const kept = [
      { angle: 'front', name: 'on a hanger', color: 'navy' },
      { angle: 'back', name: 'Back', color: 'navy' },
      { angle: 'front', name: 'Front', color: 'rust' },
      { angle: 'close-up', name: 'Near', color: 'navy' },
    ];
    expect(shotsOfSet(kept, shots, ['chalk', 'navy'])).toEqual({
      pictures: [
        { shotId: 's2', color: 'navy' },
        { shotId: 's3', color: 'navy' },
        { shotId: 's1', color: 'chalk' },
      ],
      missing: ['Near'],
    });
    // Two of one angle and name take two shots, not one twice.
    const twice = [kept[0]!, { ...kept[0]! }, { ...kept[0]! }];
    const laid = shotsOfSet(twice, shots, ['navy']);
    expect(laid.pictures.map(({ shotId }) => shotId)).toEqual(['s2', 's1']);
    expect(laid.missing).toEqual(['on a hanger']);
  });
});
