import type { Layer } from '../document/document';
import type { Geometry } from '../geometry/area';
import type { Box } from '../geometry/box';
import { chain, scaling, translation, type Matrix } from '../geometry/matrix';
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
