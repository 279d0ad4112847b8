import { describe, expect, it } from 'vitest';
import { filterFault, ppmOfPercent, readRangeFilter } from './range';

const fault = (text: string) => filterFault(new URLSearchParams(text));

describe('what is looked for in the range', () => {
  it('is refused where it cannot be read, so that nothing is done with more than was meant', () => {
    expect(fault('q=tee&state=ahead&state=split&margin=-2.5&floor=under&since=2026-11-30&sort=title')).toBeNull();
    expect(fault('state=gone')).toContain('state is one of not-listed');
    expect(fault(`tag=${'x'.repeat(81)}`)).toContain('tag is up to 80 characters');
    expect(fault(Array.from({ length: 41 }, (_, i) => `tag=${i}`).join('&'))).toBe(
      'tag can be given 40 times at most.',
    );
    for (const wrong of ['margin=', 'margin=ten', 'floor=', 'floor=over', 'since=yesterday', 'since=2026-02-31'])
      expect(fault(wrong), wrong).not.toBeNull();
  });

  it('reads percent exactly, also below none', () => {
    expect([ppmOfPercent('12.5'), ppmOfPercent('-3'), ppmOfPercent('0'), ppmOfPercent('1e3')]).toEqual([
      125_000,
      -30_000,
      0,
      null,
    ]);
  });

  it('names a value once', () => {
    expect(readRangeFilter(new URLSearchParams('tag=a&tag=a&tag=')).tags).toEqual(['a']);
  });
});
