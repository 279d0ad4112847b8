import type { Area, Blank } from '@/core/catalog/blank';
import { PLAIN_TEXT_NAME, type ArtworkLayer, type Layer, type ProductDocument } from '@/core/document/document';
import type { Geometry } from '@/core/geometry/area';
import { printedBox } from '@/core/geometry/area';
import { normalizeDegrees, type Placement } from '@/core/geometry/placement';
import { inOrder, orderAtEnd, orderBetween } from '@/core/order-key';
import type { Ornament } from '@/core/ornaments/ornaments';
import { ownEntry, putEntry } from '@/core/own-entry';

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

/** Where one of several artworks that come together lands: each in a cell of its own, side by side and in rows, none on top of another. */
export function placementInBatch(
  artwork: Placeable,
  geometry: Geometry,
  { index, count }: { readonly index: number; readonly count: number },
): ReturnType<typeof firstPlacement> {
  if (count < 2) return firstPlacement(artwork, geometry);
  const columns = Math.ceil(Math.sqrt((count * geometry.widthMm) / geometry.heightMm));
  const rows = Math.ceil(count / columns);
  const [wide, high] = [geometry.widthMm / columns, geometry.heightMm / rows];
  const aspect = artwork.heightPx / artwork.widthPx;
  return {
    fit: 'keep',
    placement: {
      xMm: round1(wide * ((index % columns) + 0.5)),
      yMm: round1(high * (Math.floor(index / columns) + 0.5)),
      widthMm: round1(Math.min(wide * 0.8, (high * 0.8) / aspect)),
      rotationDeg: 0,
      flipX: false,
      flipY: false,
    },
  };
}

/** Adds an artwork on top of an area; one of several at its place among them. */
export function addLayer(
  doc: ProductDocument,
  blank: Blank,
  area: Area,
  geometryId: string,
  artwork: Placeable,
  layerId: string,
  inBatch = { index: 0, count: 1 },
): ProductDocument {
  const { placement, fit } = placementInBatch(artwork, ownEntry(blank.geometries, geometryId)!, inBatch);
  const layers = ownEntry(doc.areas, area.key)?.layers ?? {};
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
  return putLayer(doc, area.key, layerId, layer);
}

/** A text set in a box in the middle of the upper area, three quarters of it wide. */
export function addText(
  doc: ProductDocument,
  area: Area,
  geometry: Geometry,
  geometryId: string,
  layerId: string,
  fill: string,
): ProductDocument {
  const boxWidthMm = round1(geometry.widthMm * 0.75);
  const boxHeightMm = round1(Math.min(geometry.heightMm * 0.25, boxWidthMm * 0.4));
  return putLayer(doc, area.key, layerId, {
    kind: 'text',
    name: PLAIN_TEXT_NAME,
    lettering: {
      text: 'Your words',
      family: 'montserrat',
      style: 'bold',
      sizeMm: round1(boxHeightMm * 0.6),
      align: 'center',
      tracking: 0,
      lineHeight: 1.15,
      fill,
      outline: null,
      arcDeg: 0,
      boxWidthMm,
      boxHeightMm,
      shrinkToMm: round1(Math.max(2, boxHeightMm * 0.1)),
      wrap: true,
    },
    ...newlyPlaced(doc, area.key, geometry, geometryId, boxWidthMm, boxHeightMm / boxWidthMm),
  });
}

/** An ornament in the middle of the upper area, half of it wide at most. */
export function addOrnament(
  doc: ProductDocument,
  area: Area,
  geometry: Geometry,
  geometryId: string,
  layerId: string,
  ornament: Ornament,
  color: string,
): ProductDocument {
  const widthMm = round1(Math.min(geometry.widthMm * 0.5, (geometry.heightMm * 0.5) / ornament.aspect));
  return putLayer(doc, area.key, layerId, {
    kind: 'ornament',
    name: ornament.name,
    ornament: ornament.code,
    color,
    ...newlyPlaced(doc, area.key, geometry, geometryId, widthMm, ornament.aspect),
  });
}

function newlyPlaced(
  doc: ProductDocument,
  areaKey: string,
  geometry: Geometry,
  geometryId: string,
  widthMm: number,
  aspect: number,
) {
  const tall = geometry.heightMm > geometry.widthMm;
  const yMm = tall
    ? Math.max(geometry.safeMm + (widthMm * aspect) / 2, geometry.heightMm * 0.3)
    : geometry.heightMm / 2;
  return {
    order: orderAtEnd(ownEntry(doc.areas, areaKey)?.layers ?? {}),
    geometryId,
    placement: {
      xMm: round1(geometry.widthMm / 2),
      yMm: round1(yMm),
      widthMm,
      rotationDeg: 0,
      flipX: false,
      flipY: false,
    },
    fit: geometry.bleedMm > 0 ? 'fit' : 'keep',
    overrides: {},
    hidden: false,
    locked: false,
  } as const;
}

/** Puts a layer into an area, in place of one with the same id. */
export function putLayer(doc: ProductDocument, areaKey: string, layerId: string, layer: Layer): ProductDocument {
  const area = ownEntry(doc.areas, areaKey);
  return {
    ...doc,
    areas: { ...doc.areas, [areaKey]: { ...area, layers: { ...area?.layers, [layerId]: layer } } },
  };
}

/** Copies of layers on top of the area, a little aside; `idOf` gives the id of each copy. */
export function duplicateLayers(
  doc: ProductDocument,
  areaKey: string,
  layerIds: readonly string[],
  idOf: (layerId: string) => string,
): ProductDocument {
  const aside = (placement: Placement): Placement => ({
    ...placement,
    xMm: round1(placement.xMm + 5),
    yMm: round1(placement.yMm + 5),
  });
  return inOrder(ownEntry(doc.areas, areaKey)?.layers ?? {})
    .filter(([id]) => layerIds.includes(id))
    .reduce(
      (next, [id, layer]) =>
        putLayer(next, areaKey, idOf(id), {
          ...layer,
          name: `${layer.name} copy`.slice(0, 120),
          order: orderAtEnd(ownEntry(next.areas, areaKey)!.layers),
          placement: aside(layer.placement),
          overrides: Object.fromEntries(Object.entries(layer.overrides).map(([key, place]) => [key, aside(place)])),
          locked: false,
        }),
      doc,
    );
}

/**
 * Copies all layers of one area onto another, over what is there: by the distance to each area's anchor when both are of a size, scaled to
 * fit when not. `mirrored` turns left and right around (a left sleeve's design on the right one).
 */
export function copyArea(
  doc: ProductDocument,
  from: { readonly key: string; readonly layers: { readonly [id: string]: Layer }; readonly geometry: Geometry },
  to: { readonly key: string; readonly geometryId: string; readonly geometry: Geometry },
  mirrored: boolean,
  idOf: (layerId: string) => string,
): ProductDocument {
  const scale = Math.min(1, to.geometry.widthMm / from.geometry.widthMm, to.geometry.heightMm / from.geometry.heightMm);
  return inOrder(from.layers).reduce((next, [id, layer]) => {
    const { xMm, yMm, widthMm, rotationDeg } = layer.placement;
    const dx = (xMm - from.geometry.anchor.xMm) * scale * (mirrored ? -1 : 1);
    return putLayer(next, to.key, idOf(id), {
      ...layer,
      order: orderAtEnd(ownEntry(next.areas, to.key)?.layers ?? {}),
      geometryId: to.geometryId,
      overrides: {},
      placement: {
        ...layer.placement,
        xMm: round1(to.geometry.anchor.xMm + dx),
        yMm: round1(to.geometry.anchor.yMm + (yMm - from.geometry.anchor.yMm) * scale),
        widthMm: Math.max(1, round1(widthMm * scale)),
        rotationDeg: mirrored ? normalizeDegrees(-rotationDeg) : rotationDeg,
        flipX: mirrored ? !layer.placement.flipX : layer.placement.flipX,
      },
    });
  }, doc);
}

/** Puts layers in another order, from the lowest up; those that are not named stay below. */
export function reorder(doc: ProductDocument, areaKey: string, ids: readonly string[]): ProductDocument {
  const layers = ownEntry(doc.areas, areaKey)?.layers ?? {};
  const rest = inOrder(layers).filter(([id]) => !ids.includes(id));
  let last: string | null = rest.at(-1)?.[1].order ?? null;
  const next: Record<string, Layer> = { ...layers };
  for (const id of ids) {
    const layer = ownEntry(layers, id);
    if (!layer) continue;
    last = orderBetween(last, null);
    putEntry(next, id, { ...layer, order: last });
  }
  return { ...doc, areas: { ...doc.areas, [areaKey]: { ...ownEntry(doc.areas, areaKey), layers: next } } };
}

/** Changes one layer; a layer that is gone stays gone. */
export function changeLayer(
  doc: ProductDocument,
  areaKey: string,
  layerId: string,
  change: (layer: Layer) => Layer,
): ProductDocument {
  const layer = ownEntry(ownEntry(doc.areas, areaKey)?.layers, layerId);
  if (!layer) return doc;
  return putLayer(doc, areaKey, layerId, change(layer));
}

export function removeLayer(doc: ProductDocument, areaKey: string, layerId: string): ProductDocument {
  const { [layerId]: _gone, ...layers } = ownEntry(doc.areas, areaKey)?.layers ?? {};
  return { ...doc, areas: { ...doc.areas, [areaKey]: { ...ownEntry(doc.areas, areaKey), layers } } };
}

/** Farther than this from an area's corner nothing is kept, mm. */
const FAR_MM = 10_000;
const inReach = (placement: Placement): Placement => ({
  ...placement,
  xMm: Math.min(FAR_MM, Math.max(-FAR_MM, placement.xMm)),
  yMm: Math.min(FAR_MM, Math.max(-FAR_MM, placement.yMm)),
});

/**
 * Sets where a layer sits on the geometry in view: on the one where it was placed that is its placement; on another shape it becomes an
 * override there. A layer that is taken more than 10 m away stays at 10 m.
 */
export function placeLayer(
  doc: ProductDocument,
  areaKey: string,
  layerId: string,
  geometryId: string,
  wanted: Placement,
): ProductDocument {
  const placement = inReach(wanted);
  return changeLayer(doc, areaKey, layerId, (layer) =>
    layer.geometryId === geometryId
      ? { ...layer, placement }
      : { ...layer, overrides: { ...layer.overrides, [geometryId]: placement } },
  );
}

/** Moves a layer one place up (toward the viewer) or down. */
export function swapOrder(doc: ProductDocument, areaKey: string, ids: readonly [string, string]): ProductDocument {
  const layers = ownEntry(doc.areas, areaKey)?.layers;
  const [a, b] = [ownEntry(layers, ids[0]), ownEntry(layers, ids[1])];
  if (!layers || !a || !b) return doc;
  return {
    ...doc,
    areas: {
      ...doc.areas,
      [areaKey]: {
        ...ownEntry(doc.areas, areaKey),
        layers: { ...layers, [ids[0]]: { ...a, order: b.order }, [ids[1]]: { ...b, order: a.order } },
      },
    },
  };
}
