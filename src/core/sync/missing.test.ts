import { describe, expect, it } from 'vitest';
import { isMass } from './missing';

describe('how much is missing at once', () => {
  it.each([
    [2, 2, false],
    [3, 3, true],
    [3, 12, true],
    [3, 13, false],
    [250, 1001, false],
    [251, 1001, true],
  ])('%i of %i is a mass: %s', (missing, total, expected) => {
    expect(isMass({ missing, total })).toBe(expected);
  });
});
