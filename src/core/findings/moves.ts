import type { Layer } from '../document/document';
import type { Box } from '../geometry/box';
import { apply, axisLengths } from '../geometry/matrix';
import { normalizeDegrees, type Placement } from '../geometry/placement';
import { ownEntry, putEntry } from '../own-entry';
import { withPlacement, type PlacedLayer } from './placed';
import type { Remedy } from './remedy';

/** A layer, where it lies, and what is known of what it prints. */
export interface Laid {
  readonly layer: Layer;
  readonly placed: readonly PlacedLayer[];
  readonly visible: Box | null | undefined;
  readonly mini: string | undefined;
  /** Where it lies once it is changed. */
  readonly layOut: (layer: Layer) => readonly PlacedLayer[];
}

/** Closer than this is there, mm. */
export const SLACK_MM = 0.05;

const round1 = (value: number) => Math.round(value * 10) / 10;

/** Where the layer is on a geometry, as a placement that can be changed. */
export function placementOf(layer: Layer, { geometryId, matrix }: PlacedLayer): Placement {
  const override = ownEntry(layer.overrides, geometryId);
  if (override) return override;
  if (layer.geometryId === geometryId) return layer.placement;
  const center = apply(matrix, { x: 0.5, y: 0.5 });
  const { flipX, flipY } = layer.placement;
  const turn = flipX ? Math.atan2(-matrix.b, -matrix.a) : Math.atan2(matrix.b, matrix.a);
  return {
    xMm: center.x,
    yMm: center.y,
    widthMm: axisLengths(matrix).x,
    rotationDeg: normalizeDegrees((turn * 180) / Math.PI),
    flipX,
    flipY,
  };
}

export type PlaceRemedy = Extract<Remedy, { kind: 'place' }>;

export const place = (
  name: string,
  layer: Layer,
  on: PlacedLayer,
  change: (was: Placement) => Placement,
): PlaceRemedy => ({
  kind: 'place',
  name,
  geometryId: on.geometryId,
  placement: change(placementOf(layer, on)),
});

/** Geometries that a remedy changes at most, one after the other. */
const MAX_PLACES = 12;

/**
 * A remedy for every geometry on which something is wrong: what is found is put right, and the layer looked at again where it lies then, since others follow
 * the one that was changed.
 */
export function everywhere(
  laid: Laid,
  first: PlaceRemedy,
  next: (layer: Layer, placed: readonly PlacedLayer[]) => PlaceRemedy | null,
): Remedy {
  const { geometryId, placement } = first;
  let layer = withPlacement(laid.layer, geometryId, placement);
  const also: Record<string, Placement> = {};
  for (let i = 0; i < MAX_PLACES; i += 1) {
    const more = next(layer, laid.layOut(layer));
    if (!more) break;
    layer = withPlacement(layer, more.geometryId, more.placement);
    if (more.geometryId !== geometryId) putEntry(also, more.geometryId, more.placement);
    else return first;
  }
  return Object.keys(also).length > 0 ? { ...first, also } : first;
}

/** The layer at the largest width at which it is sharp; null where that would be next to nothing. */
export function sharpRemedy(layer: Layer, on: PlacedLayer, sharpMm: number): Remedy | null {
  const widthMm = Math.floor(sharpMm * 10) / 10;
  if (widthMm < 5) return null;
  return place(`Make it ${round1(widthMm)} mm wide`, layer, on, (was) => ({ ...was, widthMm }));
}

/** The layer so many times larger, about its center. */
export function largerRemedy(layer: Layer, on: PlacedLayer, factor: number): Remedy {
  const widthMm = Math.ceil(placementOf(layer, on).widthMm * factor * 10) / 10;
  return place(`Make it ${round1(widthMm)} mm wide`, layer, on, (was) => ({ ...was, widthMm }));
}
