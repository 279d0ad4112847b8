import { apply, chain, rotation, translation, type Point } from '@/core/geometry/matrix';
import { clampWidth, round1, type Gesture, type Held } from './gesture';

export type Corner = 'nw' | 'ne' | 'se' | 'sw';
const SIGNS: Record<Corner, readonly [number, number]> = { nw: [-1, -1], ne: [1, -1], se: [1, 1], sw: [-1, 1] };

/**
 * Sizing by a corner: the opposite corner stays where it is (with `free`, the center stays), proportions are kept. The pointer is
 * projected on the layer's diagonal, so that the corner stays under it along that line.
 */
export function sizing(held: Held, corner: Corner): Gesture {
  const { placement, aspect } = held;
  const [sx, sy] = SIGNS[corner];
  const half = { x: placement.widthMm / 2, y: (placement.widthMm * aspect) / 2 };
  const turn = rotation(placement.rotationDeg);
  const toMm = chain(turn, translation(placement.xMm, placement.yMm));
  return {
    move(pointer, free) {
      const fixed: Point = free ? { x: 0, y: 0 } : { x: -sx * half.x, y: -sy * half.y };
      const anchor = apply(toMm, fixed);
      // The diagonal from the fixed point to the corner, per mm of width.
      const reach = free ? 0.5 : 1;
      const along = apply(turn, { x: sx * reach, y: sy * reach * aspect });
      const length2 = along.x ** 2 + along.y ** 2;
      const widthMm = round1(
        clampWidth(((pointer.x - anchor.x) * along.x + (pointer.y - anchor.y) * along.y) / length2),
      );
      if (free) return { ...placement, widthMm };
      const center = { x: anchor.x + (along.x * widthMm) / 2, y: anchor.y + (along.y * widthMm) / 2 };
      return {
        ...placement,
        widthMm,
        xMm: Math.round(center.x * 1000) / 1000,
        yMm: Math.round(center.y * 1000) / 1000,
      };
    },
  };
}
