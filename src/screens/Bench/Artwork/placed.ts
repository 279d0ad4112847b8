import { layerMatrix, type FittedLayer } from '@/core/geometry/fit';
import { apply, axisLengths, type Matrix } from '@/core/geometry/matrix';
import { normalizeDegrees, type Placement } from '@/core/geometry/placement';
import type { Geometry } from '@/core/geometry/area';
import { layerAspect } from '@/core/print/plan';
import { ownEntry } from '@/core/own-entry';
import type { Desk } from '../desk';

/** What of the bench tells how large a layer is. */
type Sized = Pick<Desk, 'designed' | 'areaKey' | 'artworkSizes'>;

/** Height ÷ width of a layer, or null while its artwork is not known. */
export function aspectOf(d: Sized, layerId: string, areaKey: string = d.areaKey): number | null {
  const layer = ownEntry(ownEntry(d.designed.areas, areaKey)?.layers, layerId);
  return layer ? layerAspect(layer, d.artworkSizes) : null;
}

/** The placement of a layer on the geometry in view: its own there, an override, or what its fit makes of it. */
export function placementOn(
  layer: FittedLayer,
  aspect: number,
  geometryId: string,
  geometries: { readonly [id: string]: Geometry },
): Placement {
  const override = ownEntry(layer.overrides, geometryId);
  if (override) return override;
  if (layer.geometryId === geometryId) return layer.placement;
  const m = layerMatrix(layer, aspect, geometryId, geometries);
  const center = apply(m, { x: 0.5, y: 0.5 });
  const { flipX, flipY } = layer.placement;
  const turn = flipX ? Math.atan2(-m.b, -m.a) : Math.atan2(m.b, m.a);
  const round = (v: number) => Math.round(v * 1000) / 1000;
  return {
    xMm: round(center.x),
    yMm: round(center.y),
    widthMm: round(axisLengths(m).x),
    rotationDeg: normalizeDegrees((turn * 180) / Math.PI),
    flipX,
    flipY,
  };
}

/** The placement of a layer on the area and shape in view, or null while its artwork is not known. */
export function placementInView(d: Sized & Pick<Desk, 'geometryId' | 'data'>, layerId: string): Placement | null {
  const layer = ownEntry(ownEntry(d.designed.areas, d.areaKey)?.layers, layerId);
  const aspect = aspectOf(d, layerId);
  return layer && aspect !== null ? placementOn(layer, aspect, d.geometryId, d.data.blank.geometries) : null;
}

export const svgMatrix = (m: Matrix): string => `matrix(${m.a} ${m.b} ${m.c} ${m.d} ${m.e} ${m.f})`;
