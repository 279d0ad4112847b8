import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { apply } from '@/core/geometry/matrix';
import { placementMatrix, type Placement } from '@/core/geometry/placement';
import { moving } from './moving';
import { sizing } from './sizing';
import { turning } from './turning';

const placement: Placement = { xMm: 100, yMm: 120, widthMm: 80, rotationDeg: 0, flipX: false, flipY: false };
const held = { placement, aspect: 0.5 };

describe('moving', () => {
  it('follows the pointer in tenths of a millimeter', () => {
    const g = moving(held, { x: 90, y: 110 }, { x: [], y: [] }, 3);
    expect(g.move({ x: 95.26, y: 100 }, false)).toMatchObject({ xMm: 105.3, yMm: 110, widthMm: 80 });
  });

  it('snaps to a line within reach, and not when free', () => {
    const g = moving(held, { x: 0, y: 0 }, { x: [152.5], y: [200] }, 3);
    expect(g.move({ x: 51, y: 10 }, false)).toMatchObject({ xMm: 152.5, yMm: 130 });
    expect(g.move({ x: 51, y: 10 }, true)).toMatchObject({ xMm: 151 });
  });
});

describe('sizing', () => {
  it('keeps the opposite corner and the proportions, whatever the turn', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -179, max: 180 }),
        fc.integer({ min: 5, max: 300 }),
        fc.constantFrom('nw' as const, 'ne' as const, 'se' as const, 'sw' as const),
        (rotationDeg, width, corner) => {
          const before = { ...held, placement: { ...placement, rotationDeg } };
          const opposite = { nw: { x: 1, y: 1 }, ne: { x: 0, y: 1 }, se: { x: 0, y: 0 }, sw: { x: 1, y: 0 } }[corner];
          const own = { x: 1 - opposite.x, y: 1 - opposite.y };
          const fixed = apply(placementMatrix(before.placement, 0.5), opposite);
          // Where the corner of a layer of the wanted width would be.
          const k = width / 80;
          const corner0 = apply(placementMatrix(before.placement, 0.5), own);
          const after = sizing(before, corner).move(
            { x: fixed.x + (corner0.x - fixed.x) * k, y: fixed.y + (corner0.y - fixed.y) * k },
            false,
          );
          expect(after.widthMm).toBeCloseTo(width, 1);
          const still = apply(placementMatrix(after, 0.5), opposite);
          expect(Math.hypot(still.x - fixed.x, still.y - fixed.y)).toBeLessThan(0.06);
        },
      ),
      { seed: 9 },
    );
  });

  it('keeps the center when free, and never turns inside out', () => {
    expect(sizing(held, 'se').move({ x: 160, y: 150 }, true)).toMatchObject({ xMm: 100, yMm: 120, widthMm: 120 });
    expect(sizing(held, 'se').move({ x: -500, y: -500 }, false).widthMm).toBe(1);
  });
});

describe('turning', () => {
  it('turns clockwise with the pointer and snaps to 15° within 3°', () => {
    const g = turning(held, { x: 100, y: 60 });
    const at = (deg: number) => ({
      x: 100 + 60 * Math.sin((deg * Math.PI) / 180),
      y: 120 - 60 * Math.cos((deg * Math.PI) / 180),
    });
    expect(g.move(at(43), false).rotationDeg).toBe(45);
    expect(g.move(at(37.5), false).rotationDeg).toBe(37.5);
    expect(g.move(at(43), true).rotationDeg).toBe(43);
    expect(g.move(at(-100), true).rotationDeg).toBe(-100);
  });
});
