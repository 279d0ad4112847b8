import { describe, expect, it } from 'vitest';
import { differing, placeValue as valueIn } from './place-name';

const placeValue = (path: string, value: unknown) => valueIn(path, value, 'GBP');

describe('what stands at a place of a product', () => {
  it('is told with units, amounts and names, never as data', () => {
    expect(placeValue('/words/base/title', '')).toBe('(empty)');
    expect(placeValue('/x', undefined)).toBe('(not there)');
    expect(placeValue('/areas/a/layers/l/hidden', true)).toBe('yes');
    expect(placeValue('/areas/a/layers/l/placement/xMm', 12.5)).toBe('12.5 mm');
    expect(placeValue('/price/base/aim', { kind: 'margin', ppm: 400_000 })).toBe('margin 40 %');
    expect(placeValue('/price/base/aim', { kind: 'retail', amountMinor: 2425 })).toBe('retail 24.25 GBP');
    const placement = { xMm: 10, yMm: 20, widthMm: 30, rotationDeg: 5, flipX: true, flipY: false };
    expect(placeValue('/placement', placement)).toBe('across 10 mm, down 20 mm, width 30 mm, turned 5 °, mirrored yes');
    expect(placeValue('/layers/l', { kind: 'artwork', name: 'Crest' })).toBe('Crest');
    expect(placeValue('/variants', { a: {}, b: {} })).toBe('2 entries');
  });
});

describe('two texts', () => {
  it('differ between what they begin and end with', () => {
    const part = (a: string, b: string) => a.slice(...differing(a, b));
    expect(part('River tee, blue', 'River mug, blue')).toBe('tee');
    expect(part('same', 'same')).toBe('');
    expect(part('aa', 'aaa')).toBe('');
    expect(part('aaa', 'aa')).toBe('a');
    expect(part('new', 'old')).toBe('new');
  });
});
