import type { Layer } from '../document/document';
import { printedBox, type Geometry } from '../geometry/area';
import { cornersOf, type Box } from '../geometry/box';
import { apply, chain, invert, scaling, translation, type Matrix } from '../geometry/matrix';
import { placedBox, type Placement } from '../geometry/placement';

/** A layer on one geometry: from its unit square to mm there. */
export interface PlacedLayer {
  readonly geometryId: string;
  readonly geometry: Geometry;
  readonly matrix: Matrix;
}

/** From the unit square of what is seen of a layer to mm: transparent edges of an artwork do not count. */
export const seenMatrix = (matrix: Matrix, visible: Box | null | undefined): Matrix =>
  visible
    ? chain(
        scaling(visible.right - visible.left, visible.bottom - visible.top),
        translation(visible.left, visible.top),
        matrix,
      )
    : matrix;

/** The box of what is seen of a layer, mm. */
export const seenBox = (matrix: Matrix, visible: Box | null | undefined): Box => placedBox(seenMatrix(matrix, visible));

/** The layer with a placement on one geometry. */
export const withPlacement = (layer: Layer, geometryId: string, placement: Placement): Layer =>
  layer.geometryId === geometryId
    ? { ...layer, placement }
    : { ...layer, overrides: { ...layer.overrides, [geometryId]: placement } };

/** Whether a layer covers the whole printed sheet: then it is meant to be cut. */
export function coversSheet({ geometry, matrix }: PlacedLayer, visible: Box | null | undefined): boolean {
  const toUnit = invert(seenMatrix(matrix, visible));
  const slack = 1e-4;
  return cornersOf(printedBox(geometry)).every((corner) => {
    const { x, y } = apply(toUnit, corner);
    return x >= -slack && y >= -slack && x <= 1 + slack && y <= 1 + slack;
  });
}
