import { describe, expect, it } from 'vitest';
import { FIRST_LEVEL, LEVELS, nextLevel, readAgainMs } from './sightings';

const MINUTE = 60_000;

describe('how often a listing is read', () => {
  it('is from a quarter of an hour to a day and a third, twice as rarely with each level', () => {
    const middle = Array.from({ length: LEVELS }, (_, level) => readAgainMs(level, 0.5) / MINUTE);
    expect(middle).toEqual([15, 30, 60, 120, 240, 480, 960, 1920]);
    expect([readAgainMs(0, 0), readAgainMs(0, 1)]).toEqual([13.5 * MINUTE, 16.5 * MINUTE]);
  });

  it('grows with what changes and falls with what does not, within its ends', () => {
    const after = (changes: readonly boolean[]) => changes.reduce(nextLevel, FIRST_LEVEL);
    expect(after([true])).toBe(2);
    expect(after([false])).toBe(5);
    expect(after([true, true, true, true])).toBe(0);
    expect(after(Array.from({ length: 20 }, () => false))).toBe(7);
    expect(after([true, false, false])).toBe(FIRST_LEVEL);
  });
});
