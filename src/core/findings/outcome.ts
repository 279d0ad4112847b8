import type { ThinInk } from '../artwork/strokes';
import type { Blank } from '../catalog/blank';
import type { Layer, ProductDocument } from '../document/document';
import type { ArtworkSize, Finding, SetLettering } from './finding';
import { findFindings } from './findings';
import { remedied, withArtwork, type Derivation, type Remedy } from './remedy';
import { ownEntry } from '../own-entry';

/** All that the checks look at. */
export interface Checked {
  readonly doc: ProductDocument;
  readonly blank: Blank;
  readonly artworks: { readonly [id: string]: ArtworkSize | undefined };
  readonly letterings: { readonly [layerId: string]: SetLettering | undefined };
}

/** How many times longer the longer side is than what is seen of it. */
function shorter({ widthPx, heightPx, visible }: ArtworkSize): number {
  const { left, top, right, bottom } = visible ?? WHOLE;
  return Math.max(widthPx, heightPx) / Math.max(widthPx * (right - left), heightPx * (bottom - top));
}

const wider = (ink: readonly ThinInk[] | undefined, times: number): ThinInk[] =>
  (ink ?? []).map((one) => ({ ...one, width: one.width * times }));

/** What the checks will know of an artwork that is made out of one. */
export function derivedSize(size: ArtworkSize, derivation: Derivation): ArtworkSize {
  switch (derivation.kind) {
    case 'trim': {
      const { left, top, right, bottom } = size.visible ?? WHOLE;
      return {
        ...size,
        widthPx: Math.max(1, Math.round(size.widthPx * (right - left))),
        heightPx: Math.max(1, Math.round(size.heightPx * (bottom - top))),
        visible: WHOLE,
        // Widths are shares of the longer side, which is shorter then.
        thinInk: wider(size.thinInk, shorter(size)),
        groundInk: wider(size.groundInk, shorter(size)),
      };
    }
    case 'background':
      return { ...size, flatBox: null, unboxed: null, groundInk: [], ...size.unboxed };
    case 'solid':
      return { ...size, halfTransparent: 0 };
    case 'enlarge':
      return {
        ...size,
        widthPx: derivation.widthPx,
        heightPx: Math.round((size.heightPx * derivation.widthPx) / size.widthPx),
        enlargedFromPx: size.enlargedFromPx ?? size.widthPx,
      };
  }
}

const WHOLE = { left: 0, top: 0, right: 1, bottom: 1 };
/** Stands for an artwork that is not made yet. */
const MADE = 'made';

/** The texts with one of them in a size in which it fits its box. */
function resized({ letterings }: Checked, layer: Layer, layerId: string, sizeMm: number): Checked['letterings'] {
  const set = ownEntry(letterings, layerId);
  if (!set || layer.kind !== 'text') return letterings;
  const { boxWidthMm, boxHeightMm } = layer.lettering;
  const times = (mm: number | null | undefined) => (mm == null ? mm : (mm * sizeMm) / set.sizeMm);
  const bounds = set.bounds && {
    left: Math.max(0, set.bounds.left),
    top: Math.max(0, set.bounds.top),
    right: Math.min(boxWidthMm, set.bounds.right),
    bottom: Math.min(boxHeightMm, set.bounds.bottom),
  };
  return {
    ...letterings,
    [layerId]: {
      ...set,
      sizeMm,
      fits: true,
      capMm: times(set.capMm),
      smallMm: times(set.smallMm),
      strokeMm: times(set.strokeMm),
      bounds,
    },
  };
}

/** The design as it will be once a remedy is done. */
export function afterRemedy(checked: Checked, { areaKey, layerId }: Finding, remedy: Remedy): Checked {
  const { doc, artworks } = checked;
  const area = ownEntry(doc.areas, areaKey)!;
  const layer = ownEntry(area.layers, layerId)!;
  if (remedy.kind !== 'derive' || layer.kind !== 'artwork')
    return {
      ...checked,
      doc: remedied(doc, areaKey, layerId, remedy),
      letterings: remedy.kind === 'letters' ? resized(checked, layer, layerId, remedy.sizeMm) : checked.letterings,
    };
  const size = ownEntry(artworks, layer.artworkId)!;
  const kept = remedy.derive.kind === 'trim' ? (size.visible ?? undefined) : undefined;
  return {
    ...checked,
    artworks: { ...artworks, [MADE]: derivedSize(size, remedy.derive) },
    doc: {
      ...doc,
      areas: {
        ...doc.areas,
        [areaKey]: {
          ...area,
          layers: { ...area.layers, [layerId]: withArtwork(layer, MADE, size.heightPx / size.widthPx, kept) },
        },
      },
    },
  };
}

/** Stops and warnings that a remedy brings and that are not there now, so that they can be named before it is done. */
export function bringsOf(checked: Checked, now: readonly Finding[], finding: Finding, remedy: Remedy): Finding[] {
  const { doc, blank, artworks, letterings } = afterRemedy(checked, finding, remedy);
  const ids = new Set(now.map((one) => one.id));
  return findFindings(doc, blank, artworks, letterings).filter((one) => one.severity !== 'note' && !ids.has(one.id));
}
