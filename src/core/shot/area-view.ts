import type { Box } from '../geometry/box';
import type { AreaPlanes } from './planes';

/** How an area is seen in a picture. */
export interface AreaView {
  /** Art pixels a mm that are a little finer than the picture, no finer. */
  readonly pxPerMm: number;
  /** The part that is in view, mm of the trim. */
  readonly seenMm: Box;
}

/** Art pixels for each picture pixel where an area is seen largest: finer than is seen. */
const FINER = 1.15;
const MAX_PX_PER_MM = 24;

/** Null where nothing of an area is in view. */
export function viewOf({ share, u, v, uMm, vMm, finestMm }: AreaPlanes): AreaView | null {
  let [left, top, right, bottom] = [65536, 65536, -1, -1];
  for (let i = 0; i < share.length; i += 1) {
    if (share[i] === 0) continue;
    left = Math.min(left, u[i]!);
    right = Math.max(right, u[i]!);
    top = Math.min(top, v[i]!);
    bottom = Math.max(bottom, v[i]!);
  }
  if (right < 0 || !(finestMm > 0)) return null;
  const mm = (code: number, [from, to]: readonly [number, number]) => from + ((to - from) * code) / 65535;
  return {
    pxPerMm: Math.min(MAX_PX_PER_MM, FINER / finestMm),
    seenMm: { left: mm(left, uMm), top: mm(top, vMm), right: mm(right, uMm), bottom: mm(bottom, vMm) },
  };
}
