import type { Vessel } from './goods/vessel';

/** A vessel out of its radius and height, and the width, height and distance from the rim of its wrap; all mm. */
const vessel = (
  kind: Vessel['kind'],
  [radiusMm, heightMm]: readonly [number, number],
  [widthMm, wrapMm, fromTopMm]: readonly [number, number, number],
): Vessel => ({ kind, radiusMm, heightMm, wrap: { widthMm, heightMm: wrapMm, fromTopMm } });

/** The vessels of the demo's catalog. */
export const MUG_11 = vessel('mug', [41, 95], [200, 85, 5]);
export const MUG_15 = vessel('mug', [43, 115], [215, 103, 6]);
export const CUP = vessel('cup', [41, 80], [190, 70, 5]);
export const BOTTLE_500 = vessel('bottle', [36, 210], [210, 130, 68]);
export const BOTTLE_750 = vessel('bottle', [40, 250], [235, 160, 74]);
