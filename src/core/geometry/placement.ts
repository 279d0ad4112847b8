import { MM_PER_INCH } from '../units/length';
import { boxOfPoints, unitCorners, type Box } from './box';
import { axisLengths, chain, rotation, scaling, translation, type Matrix } from './matrix';

/**
 * Where a layer sits: its center in mm from the area's top left corner, its width in mm before turning, its turn in degrees
 * clockwise, and whether it is mirrored left to right (flipX) or top to bottom (flipY).
 */
export interface Placement {
  readonly xMm: number;
  readonly yMm: number;
  readonly widthMm: number;
  readonly rotationDeg: number;
  readonly flipX: boolean;
  readonly flipY: boolean;
}

/**
 * Map from the layer's unit square (0,0 its top left, 1,1 its bottom right) to mm in the area.
 * `aspect` is height ÷ width of the unmapped layer.
 */
export function placementMatrix(p: Placement, aspect: number): Matrix {
  return chain(
    translation(-0.5, -0.5),
    scaling(p.widthMm * (p.flipX ? -1 : 1), p.widthMm * aspect * (p.flipY ? -1 : 1)),
    rotation(p.rotationDeg),
    translation(p.xMm, p.yMm),
  );
}

/** The upright box around a placed layer, mm. */
export const placedBox = (unitToMm: Matrix): Box => boxOfPoints(unitCorners(unitToMm));

/**
 * Pixels of the artwork per inch as placed: the worse of its two axes.
 * Infinity never comes out: a layer has a size. Vector artwork has no effective DPI; do not ask.
 */
export function effectiveDpi(unitToMm: Matrix, widthPx: number, heightPx: number): number {
  const sides = axisLengths(unitToMm);
  return Math.min((widthPx / sides.x) * MM_PER_INCH, (heightPx / sides.y) * MM_PER_INCH);
}

/** Width in mm up to which a raster layer stays at `dpi` or better. */
export const sharpWidthMm = (widthPx: number, dpi: number): number => (widthPx / dpi) * MM_PER_INCH;

/** Degrees brought into −180 < d ≤ 180, free of drift below a thousandth. */
export function normalizeDegrees(degrees: number): number {
  const turn = Math.round((((degrees % 360) + 540) % 360) * 1000) / 1000 - 180;
  return turn === -180 ? 180 : turn === 0 ? 0 : turn;
}
