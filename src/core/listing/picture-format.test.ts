import { describe, expect, it } from 'vitest';
import { formatAt, OWN_FORMAT, squaredBy } from './picture-format';

const square = { ...OWN_FORMAT, longSideMaxPx: 1600, squareOn: '#ffffff' };

describe('the form of a picture', () => {
  it('is on pure white for the first where a channel wants that, and for all where it wants all', () => {
    const white = (firstOnWhite: boolean, pureWhite: boolean) =>
      [0, 1, -1].map((place) => formatAt({ pictureFormat: { ...square, pureWhite }, firstOnWhite }, place).pureWhite);
    expect([white(false, false), white(true, false), white(false, true)]).toEqual([
      [false, false, false],
      [true, false, false],
      [true, true, true],
    ]);
  });

  it('is as the store squares them', () => {
    expect(formatAt({ pictureFormat: squaredBy(square, 'crop'), firstOnWhite: true }, 0)).toEqual({
      ...square,
      cropped: true,
      pureWhite: true,
    });
  });
});
