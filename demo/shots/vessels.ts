import type { Vessel } from './goods/vessel';

/** The vessels of the demo's catalog, in mm. */
export const MUG_11: Vessel = {
  kind: 'mug',
  radiusMm: 41,
  heightMm: 95,
  wrap: { widthMm: 200, heightMm: 85, fromTopMm: 5 },
};
export const MUG_15: Vessel = {
  kind: 'mug',
  radiusMm: 43,
  heightMm: 115,
  wrap: { widthMm: 215, heightMm: 103, fromTopMm: 6 },
};
export const CUP: Vessel = {
  kind: 'cup',
  radiusMm: 41,
  heightMm: 80,
  wrap: { widthMm: 190, heightMm: 70, fromTopMm: 5 },
};
export const BOTTLE_500: Vessel = {
  kind: 'bottle',
  radiusMm: 36,
  heightMm: 210,
  wrap: { widthMm: 210, heightMm: 130, fromTopMm: 68 },
};
export const BOTTLE_750: Vessel = {
  kind: 'bottle',
  radiusMm: 40,
  heightMm: 250,
  wrap: { widthMm: 235, heightMm: 160, fromTopMm: 74 },
};
