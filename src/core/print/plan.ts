import { colorOption, geometryIdFor, parseVariantKey, type Blank, type OptionValues } from '../catalog/blank';
import type { Layer, ProductDocument, ThreadChoice } from '../document/document';
import { MAX_THREADS } from '../embroidery/limits';
import { printSizePx, type Geometry } from '../geometry/area';
import { layerMatrix } from '../geometry/fit';
import { chain, scaling, translation, type Matrix } from '../geometry/matrix';
import type { Lettering } from '../lettering/text';
import { contentHash } from '../canonical/canonical';
import { chosenGeometryIds } from '../document/chosen';
import { inOrder } from '../order-key';
import { ornamentByCode } from '../ornaments/ornaments';
import { ownEntry } from '../own-entry';

/** Raised when the pixels that come out of the same plan change: old renderings are then made anew. */
export const RENDER_VERSION = 2;

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

/** One thing that is drawn on a sheet; `unitToMm` maps its unit square to mm of the trim. */
export type PlannedLayer = PlannedInk & {
  /** Above 0 and below 1; absent: 1. */
  readonly opacity?: number;
};

type PlannedInk =
  | {
      readonly kind: 'artwork';
      readonly artwork: ArtworkSource;
      /** All of it in this color, `#rrggbb`; null for its own colors. */
      readonly tint: string | null;
      readonly unitToMm: Matrix;
    }
  | { readonly kind: 'text'; readonly layerId: string; readonly lettering: Lettering; readonly unitToMm: Matrix }
  | { readonly kind: 'ornament'; readonly ornament: string; readonly color: string; readonly unitToMm: Matrix };

/** One printed sheet: what lies on one area in one geometry, from the lowest layer up. */
export interface SheetPlan {
  readonly areaKey: string;
  readonly geometryId: string;
  readonly geometry: Geometry;
  readonly layers: readonly PlannedLayer[];
  /** How threads are chosen on an embroidered area; null on others. */
  readonly threads: SheetThreads | null;
}

export interface SheetThreads {
  /** Codes of threads that are used whatever the design's colors are, at most six. */
  readonly pinned: readonly string[];
  readonly swaps: ThreadChoice['swaps'];
}

const sheetThreads = (choice: ThreadChoice | undefined): SheetThreads => ({
  pinned: inOrder(choice?.pinned ?? {})
    .slice(-MAX_THREADS)
    .map(([code]) => code),
  swaps: choice?.swaps ?? {},
});

/** Height ÷ width of a layer before it is placed; null while its artwork is not known. */
export function layerAspect(
  layer: Layer,
  artworks: ReadonlyMap<string, Pick<ArtworkSource, 'widthPx' | 'heightPx'>>,
): number | null {
  switch (layer.kind) {
    case 'text':
      return layer.lettering.boxHeightMm / layer.lettering.boxWidthMm;
    case 'ornament':
      return ornamentByCode(layer.ornament)?.aspect ?? null;
    case 'artwork': {
      const artwork = artworks.get(layer.artworkId);
      return artwork ? artwork.heightPx / artwork.widthPx : null;
    }
  }
}

/** What a layer draws on one color of the blank. A version's artwork of another shape is fitted into the place of the layer's own. */
function plannedInk(
  layerId: string,
  layer: Layer,
  color: string | null,
  unitToMm: Matrix,
  artworks: ReadonlyMap<string, ArtworkSource>,
): PlannedInk | null {
  const version = color === null ? undefined : ownEntry(layer.versions, color);
  const tint = version?.tint ?? null;
  if (layer.kind === 'text') {
    const { lettering } = layer;
    return { kind: 'text', layerId, lettering: tint ? { ...lettering, fill: tint } : lettering, unitToMm };
  }
  if (layer.kind === 'ornament')
    return { kind: 'ornament', ornament: layer.ornament, color: tint ?? layer.color, unitToMm };
  const own = artworks.get(layer.artworkId);
  const other = version?.artworkId ? artworks.get(version.artworkId) : undefined;
  const artwork = other ?? own;
  if (!artwork) return null;
  if (!other || !own) return { kind: 'artwork', artwork, tint, unitToMm };
  const [w, h] = [own.widthPx / own.heightPx, other.widthPx / other.heightPx];
  const [sx, sy] = h > w ? [1, w / h] : [h / w, 1];
  const into = chain(scaling(sx, sy), translation((1 - sx) / 2, (1 - sy) / 2));
  return { kind: 'artwork', artwork, tint, unitToMm: chain(into, unitToMm) };
}

/**
 * What is on an area in one geometry, on one color of the blank (null for a blank without colors). Layers whose artwork is not known (not
 * ready, deleted) are left out; an empty sheet is null.
 */
export function planSheet(
  doc: Pick<ProductDocument, 'areas'>,
  blank: Blank,
  areaKey: string,
  geometryId: string,
  color: string | null,
  artworks: ReadonlyMap<string, ArtworkSource>,
): SheetPlan | null {
  const geometry = ownEntry(blank.geometries, geometryId);
  if (!geometry) return null;
  const layers = inOrder(ownEntry(doc.areas, areaKey)?.layers ?? {}).flatMap(([layerId, layer]) => {
    const aspect = layer.hidden ? null : layerAspect(layer, artworks);
    if (aspect === null) return [];
    const unitToMm = layerMatrix(layer, aspect, geometryId, blank.geometries);
    const ink = plannedInk(layerId, layer, color, unitToMm, artworks);
    const { opacity = 1 } = layer;
    return ink ? [opacity < 1 ? { ...ink, opacity } : ink] : [];
  });
  const threads = geometry.technique === 'embroidery' ? sheetThreads(ownEntry(doc.areas, areaKey)?.threads) : null;
  return layers.length === 0 ? null : { areaKey, geometryId, geometry, layers, threads };
}

function inkContent(layer: PlannedLayer) {
  switch (layer.kind) {
    case 'artwork':
      return { sha256: layer.artwork.sha256, tint: layer.tint };
    case 'text':
      return { lettering: layer.lettering };
    case 'ornament':
      return { ornament: layer.ornament, color: layer.color };
  }
}

/** Everything that decides a sheet's pixels. */
export const sheetContent = (sheet: SheetPlan) => ({
  geometry: sheet.geometry,
  layers: sheet.layers.map((layer) => ({
    ...inkContent(layer),
    ...layer.unitToMm,
    ...(layer.opacity === undefined ? {} : { opacity: layer.opacity }),
  })),
  ...(sheet.threads ? { threads: sheet.threads } : {}),
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

/**
 * All print files of a product: one for each used area and each geometry among the chosen variants, and one more for each version of the
 * design on other colors.
 */
export function planPrintFiles(
  doc: ProductDocument,
  blank: Blank,
  artworks: ReadonlyMap<string, ArtworkSource>,
): PrintFilePlan[] {
  const option = colorOption(blank)?.code;
  return blank.areas.flatMap((area) =>
    chosenGeometryIds(doc, blank, area.key).flatMap((geometryId) => {
      const variantKeys = Object.keys(doc.variants).filter(
        (key) => geometryIdFor(area, parseVariantKey(key)) === geometryId,
      );
      const byColor = new Map<string | null, string[]>();
      for (const key of variantKeys) {
        const color = (option && ownEntry(parseVariantKey(key), option)) || null;
        byColor.set(color, [...(byColor.get(color) ?? []), key]);
      }
      const files = new Map<string, { sheet: SheetPlan; variantKeys: string[]; colors: string[] }>();
      for (const [color, keys] of byColor) {
        const sheet = planSheet(doc, blank, area.key, geometryId, color, artworks);
        if (!sheet) continue;
        const key = contentHash({ version: RENDER_VERSION, kind: 'print-file', ...sheetContent(sheet) });
        const file = files.get(key) ?? { sheet, variantKeys: [], colors: [] };
        file.variantKeys.push(...keys);
        if (color) file.colors.push(color);
        files.set(key, file);
      }
      return [...files].map(([key, file]) => ({
        key,
        sheet: file.sheet,
        ...printSizePx(file.sheet.geometry),
        variantKeys: file.variantKeys,
        slug: slugOf(area.key, file.variantKeys, files.size > 1 ? file.colors : []),
      }));
    }),
  );
}

/** Sizes and colors are named while they are few. */
const NAMED = 6;

function slugOf(areaKey: string, variantKeys: readonly string[], colors: readonly string[]): string {
  const values: OptionValues[] = variantKeys.map(parseVariantKey);
  const sizes = [...new Set(values.map((v) => v.size).filter(Boolean))];
  const [piece, area] = areaKey.split('.');
  return [
    piece === 'main' ? area : `${piece}-${area}`,
    sizes.length <= NAMED ? sizes.join('-') : '',
    colors.length <= NAMED ? colors.join('-') : `${colors.length}-colors`,
  ]
    .filter(Boolean)
    .join('_');
}
