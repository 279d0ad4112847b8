import { describe, expect, it } from 'vitest';
import { andMore, othersToo } from './and-more';
import { count } from './count';

describe('counts in words', () => {
  it('tell the first few of a list, and how many follow', () => {
    expect(andMore(['a', 'b'], 2)).toBe('a, b');
    expect(andMore(['a', 'b', 'c', 'd'], 2)).toBe('a, b and 2 more');
    expect(andMore(['x', 'y', 'z'], 2, { join: '; ', of: 'colors' })).toBe('x; y and 1 more colors');
    expect([othersToo(1), othersToo(4)]).toEqual(['', ' (and 3 more)']);
  });

  it('say one of a thing otherwise than many', () => {
    expect([count(1, 'product'), count(2, 'product'), count(1200, 'box', 'boxes')]).toEqual([
      '1 product',
      '2 products',
      '1,200 boxes',
    ]);
  });
});
