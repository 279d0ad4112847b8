import { geometryIdFor, parseVariantKey, type Blank, type OptionValues } from '../catalog/blank';
import type { ProductDocument } from '../document/document';
import { printSizePx, type Geometry } from '../geometry/area';
import { layerMatrix } from '../geometry/fit';
import type { Matrix } from '../geometry/matrix';
import { contentHash } from '../listing/canonical';
import { chosenGeometryIds } from '../listing/form';
import { inOrder } from '../order/order';

/** Raised when the pixels that come out of the same plan change: old renderings are then made anew. */
export const RENDER_VERSION = 1;

/** What rendering needs to know of an artwork. */
export interface ArtworkSource {
  readonly id: string;
  /** Hash of the bytes that are printed from. */
  readonly sha256: string;
  readonly vector: boolean;
  /** As seen; for a vector its size in CSS px. */
  readonly widthPx: number;
  readonly heightPx: number;
}

export interface PlannedLayer {
  readonly artwork: ArtworkSource;
  /** From the artwork's unit square to mm of the trim. */
  readonly unitToMm: Matrix;
}

/** One printed sheet: what lies on one area in one geometry, from the lowest layer up. */
export interface SheetPlan {
  readonly areaKey: string;
  readonly geometryId: string;
  readonly geometry: Geometry;
  readonly layers: readonly PlannedLayer[];
}

/** What is on an area in one geometry. Layers whose artwork is not known (not ready, deleted) are left out; an empty sheet is null. */
export function planSheet(
  doc: ProductDocument,
  blank: Blank,
  areaKey: string,
  geometryId: string,
  artworks: ReadonlyMap<string, ArtworkSource>,
): SheetPlan | null {
  const geometry = blank.geometries[geometryId];
  if (!geometry) return null;
  const layers = inOrder(doc.areas[areaKey]?.layers ?? {}).flatMap(([, layer]) => {
    const artwork = artworks.get(layer.artworkId);
    if (!artwork || layer.hidden) return [];
    return [
      { artwork, unitToMm: layerMatrix(layer, artwork.heightPx / artwork.widthPx, geometryId, blank.geometries) },
    ];
  });
  return layers.length === 0 ? null : { areaKey, geometryId, geometry, layers };
}

/** Everything that decides a sheet's pixels. */
export const sheetContent = (sheet: SheetPlan) => ({
  geometry: sheet.geometry,
  layers: sheet.layers.map(({ artwork, unitToMm }) => ({ sha256: artwork.sha256, ...unitToMm })),
});

/** One print file: a sheet with its key, its exact pixels and the variants that it is for. */
export interface PrintFilePlan {
  readonly key: string;
  readonly sheet: SheetPlan;
  readonly widthPx: number;
  readonly heightPx: number;
  readonly variantKeys: readonly string[];
  /** `front_s-m-l`, of a gift set with its piece `towel-face`: for a file name. */
  readonly slug: string;
}

/** All print files of a product: one for each used area and each geometry among the chosen variants. */
export function planPrintFiles(
  doc: ProductDocument,
  blank: Blank,
  artworks: ReadonlyMap<string, ArtworkSource>,
): PrintFilePlan[] {
  return blank.areas.flatMap((area) =>
    chosenGeometryIds(doc, blank, area.key).flatMap((geometryId) => {
      const sheet = planSheet(doc, blank, area.key, geometryId, artworks);
      if (!sheet) return [];
      const variantKeys = Object.keys(doc.variants).filter(
        (key) => geometryIdFor(area, parseVariantKey(key)) === geometryId,
      );
      return [
        {
          key: contentHash({ version: RENDER_VERSION, kind: 'print-file', ...sheetContent(sheet) }),
          sheet,
          ...printSizePx(sheet.geometry),
          variantKeys,
          slug: slugOf(area.key, variantKeys),
        },
      ];
    }),
  );
}

function slugOf(areaKey: string, variantKeys: readonly string[]): string {
  const values: OptionValues[] = variantKeys.map(parseVariantKey);
  const sizes = [...new Set(values.map((v) => v.size).filter(Boolean))];
  const [piece, area] = areaKey.split('.');
  return [piece === 'main' ? area : `${piece}-${area}`, sizes.length > 0 && sizes.length <= 6 ? sizes.join('-') : '']
    .filter(Boolean)
    .join('_');
}
