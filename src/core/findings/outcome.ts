import type { Blank } from '../catalog/blank';
import type { ProductDocument } from '../document/document';
import { findFindings, type ArtworkSize, type Finding, type SetLettering } from './findings';
import { withArtwork, withRemedy, type Derivation, type Remedy } from './remedy';
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
        ...(size.thinInk ? { thinInk: size.thinInk.map((one) => ({ ...one, width: one.width * shorter(size) })) } : {}),
      };
    }
    case 'background':
      return { ...size, flatBox: null, unboxed: null, ...size.unboxed };
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

/** The design as it will be once a remedy is done. */
export function afterRemedy(checked: Checked, { areaKey, layerId }: Finding, remedy: Remedy): Checked {
  const { doc, artworks } = checked;
  const area = ownEntry(doc.areas, areaKey)!;
  const layer = ownEntry(area.layers, layerId)!;
  const put = (changed: typeof layer): ProductDocument => ({
    ...doc,
    areas: { ...doc.areas, [areaKey]: { ...area, layers: { ...area.layers, [layerId]: changed } } },
  });
  if (remedy.kind !== 'derive' || layer.kind !== 'artwork') return { ...checked, doc: put(withRemedy(layer, remedy)) };
  const size = ownEntry(artworks, layer.artworkId)!;
  const kept = remedy.derive.kind === 'trim' ? (size.visible ?? undefined) : undefined;
  return {
    ...checked,
    artworks: { ...artworks, [MADE]: derivedSize(size, remedy.derive) },
    doc: put(withArtwork(layer, MADE, size.heightPx / size.widthPx, kept)),
  };
}

/** Stops and warnings that a remedy brings and that are not there now, so that they can be named before it is done. */
export function bringsOf(checked: Checked, now: readonly Finding[], finding: Finding, remedy: Remedy): Finding[] {
  const { doc, blank, artworks, letterings } = afterRemedy(checked, finding, remedy);
  const ids = new Set(now.map((one) => one.id));
  return findFindings(doc, blank, artworks, letterings).filter((one) => one.severity !== 'note' && !ids.has(one.id));
}
