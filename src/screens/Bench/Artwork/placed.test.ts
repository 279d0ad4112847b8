import { describe, expect, it } from 'vitest';
import { demoBlank } from '@/core/catalog/sample';
import { placementOn } from './placed';

const layer = {
  geometryId: 'g-small',
  fit: 'keep' as const,
  placement: { xMm: 140, yMm: 100, widthMm: 90, rotationDeg: 20, flipX: true, flipY: false },
};

describe('placement on another geometry', () => {
  it('is the layer’s own where it was placed, or its override', () => {
    expect(placementOn(layer, 1, 'g-small', demoBlank.geometries)).toBe(layer.placement);
    const override = { ...layer.placement, xMm: 1 };
    expect(placementOn({ ...layer, overrides: { 'g-large': override } }, 1, 'g-large', demoBlank.geometries)).toBe(
      override,
    );
  });

  it('follows the fit: keep holds mm and the distance to the anchor, turn and mirror stay', () => {
    // anchors lie at the top middle: 140 and 170 mm
    expect(placementOn(layer, 1, 'g-large', demoBlank.geometries)).toEqual({
      xMm: 170,
      yMm: 100,
      widthMm: 90,
      rotationDeg: 20,
      flipX: true,
      flipY: false,
    });
  });

  it('follows the fit: fit scales by the smaller side (340 ÷ 280 against 440 ÷ 380)', () => {
    expect(placementOn({ ...layer, fit: 'fit' }, 1, 'g-large', demoBlank.geometries).widthMm).toBeCloseTo(
      (90 * 440) / 380,
      2,
    );
  });
});
