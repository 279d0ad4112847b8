import type { Area, Blank } from '@/core/catalog/blank';
import type { ArtworkLayer, Layer, ProductDocument } from '@/core/document/document';
import type { Geometry } from '@/core/geometry/area';
import { printedBox } from '@/core/geometry/area';
import type { Placement } from '@/core/geometry/placement';
import { orderAtEnd } from '@/core/order/order';

/** An artwork that can be placed. */
export interface Placeable {
  readonly id: string;
  readonly name: string;
  readonly widthPx: number;
  readonly heightPx: number;
}

const round1 = (value: number) => Math.round(value * 10) / 10;

/**
 * Where an artwork first lands: on goods with bleed it covers the sheet; else it fills 80 % of the area's width or height, centered
 * across, and in the upper part of a tall area, where a chest is.
 */
export function firstPlacement(artwork: Placeable, geometry: Geometry): { placement: Placement; fit: 'fill' | 'keep' } {
  const aspect = artwork.heightPx / artwork.widthPx;
  const still = { rotationDeg: 0, flipX: false, flipY: false };
  if (geometry.bleedMm > 0) {
    const box = printedBox(geometry);
    const widthMm = Math.max(box.right - box.left, (box.bottom - box.top) / aspect);
    return {
      fit: 'fill',
      placement: {
        xMm: geometry.widthMm / 2,
        yMm: geometry.heightMm / 2,
        widthMm: Math.ceil(widthMm * 10) / 10,
        ...still,
      },
    };
  }
  const widthMm = round1(Math.min(geometry.widthMm * 0.8, (geometry.heightMm * 0.8) / aspect));
  const tall = geometry.heightMm > geometry.widthMm;
  const yMm = tall
    ? Math.max(geometry.safeMm + (widthMm * aspect) / 2, geometry.heightMm * 0.36)
    : geometry.heightMm / 2;
  return { fit: 'keep', placement: { xMm: round1(geometry.widthMm / 2), yMm: round1(yMm), widthMm, ...still } };
}

/** Adds an artwork on top of an area. */
export function addLayer(
  doc: ProductDocument,
  blank: Blank,
  area: Area,
  geometryId: string,
  artwork: Placeable,
  layerId: string,
): ProductDocument {
  const { placement, fit } = firstPlacement(artwork, blank.geometries[geometryId]!);
  const layers = doc.areas[area.key]?.layers ?? {};
  const layer: ArtworkLayer = {
    kind: 'artwork',
    name: artwork.name.slice(0, 120),
    artworkId: artwork.id,
    order: orderAtEnd(layers),
    geometryId,
    placement,
    fit,
    overrides: {},
    hidden: false,
    locked: false,
  };
  return { ...doc, areas: { ...doc.areas, [area.key]: { layers: { ...layers, [layerId]: layer } } } };
}

/** Changes one layer; a layer that is gone stays gone. */
export function changeLayer(
  doc: ProductDocument,
  areaKey: string,
  layerId: string,
  change: (layer: Layer) => Layer,
): ProductDocument {
  const layer = doc.areas[areaKey]?.layers[layerId];
  if (!layer) return doc;
  return {
    ...doc,
    areas: { ...doc.areas, [areaKey]: { layers: { ...doc.areas[areaKey]!.layers, [layerId]: change(layer) } } },
  };
}

export function removeLayer(doc: ProductDocument, areaKey: string, layerId: string): ProductDocument {
  const { [layerId]: _gone, ...layers } = doc.areas[areaKey]?.layers ?? {};
  return { ...doc, areas: { ...doc.areas, [areaKey]: { layers } } };
}

/**
 * Sets where a layer sits on the geometry in view: on the one where it was placed that is its placement; on another shape it becomes an
 * override there.
 */
export function placeLayer(
  doc: ProductDocument,
  areaKey: string,
  layerId: string,
  geometryId: string,
  placement: Placement,
): ProductDocument {
  return changeLayer(doc, areaKey, layerId, (layer) =>
    layer.geometryId === geometryId
      ? { ...layer, placement }
      : { ...layer, overrides: { ...layer.overrides, [geometryId]: placement } },
  );
}

/** Moves a layer one place up (toward the viewer) or down. */
export function swapOrder(doc: ProductDocument, areaKey: string, ids: readonly [string, string]): ProductDocument {
  const layers = doc.areas[areaKey]?.layers;
  const [a, b] = [layers?.[ids[0]], layers?.[ids[1]]];
  if (!layers || !a || !b) return doc;
  return {
    ...doc,
    areas: {
      ...doc.areas,
      [areaKey]: { layers: { ...layers, [ids[0]]: { ...a, order: b.order }, [ids[1]]: { ...b, order: a.order } } },
    },
  };
}
