import { setChosen } from '../document/choosing';
import type { Layer, ProductDocument } from '../document/document';
import type { Fit } from '../geometry/fit';
import type { Box } from '../geometry/box';
import { apply } from '../geometry/matrix';
import { placementMatrix, type Placement } from '../geometry/placement';
import { withPlacement } from './placed';
import { ownEntry } from '../own-entry';
import { familyByCode } from '../lettering/families';

/** What can be made out of an artwork by itself. */
export type Derivation =
  /** Without its transparent edge. */
  | { readonly kind: 'trim' }
  /** Without the flat color around it; inner parts in that color stay. */
  | { readonly kind: 'background' }
  /** Half-transparent pixels become solid or clear. */
  | { readonly kind: 'solid' }
  /** Resampled to this width in px, and marked as enlarged. */
  | { readonly kind: 'enlarge'; readonly widthPx: number };

/** What a finding offers to do about itself. */
export type Remedy =
  | { readonly kind: 'family'; readonly family: string }
  | { readonly kind: 'tint'; readonly colors: readonly string[]; readonly tint: string }
  /** Letters or an ornament in another color, on whatever good. */
  | { readonly kind: 'ink'; readonly ink: string }
  | { readonly kind: 'fit'; readonly fit: Fit }
  /** Prints nothing of the layer, and does not pay for it. */
  | { readonly kind: 'hide' }
  /** All of it covers what lies beneath. */
  | { readonly kind: 'opaque' }
  /** These variants are not sold: those of the colors on which something cannot be printed. */
  | { readonly kind: 'leave-out'; readonly name: string; readonly variantKeys: readonly string[] }
  /** Letters in another size of their own, mm. */
  | { readonly kind: 'letters'; readonly sizeMm: number }
  /** Another artwork in its place, which keeps the place of what is seen. */
  | { readonly kind: 'artwork'; readonly artworkId: string }
  /** A new artwork made out of its own, and that in its place. */
  | { readonly kind: 'derive'; readonly derive: Derivation }
  /** Puts the layer elsewhere on one geometry, and where it has to be on `also` others; `name` says what that does. */
  | {
      readonly kind: 'place';
      readonly name: string;
      readonly geometryId: string;
      readonly placement: Placement;
      readonly also?: { readonly [geometryId: string]: Placement };
    };

export const WHITE = '#ffffff';
export const BLACK = '#1a1c20';

/** The remedy on its button. */
export function remedyName(remedy: Remedy): string {
  switch (remedy.kind) {
    case 'family':
      return `Set it in ${familyByCode(remedy.family)?.name ?? remedy.family}`;
    case 'tint':
      return `Make it ${remedy.tint === WHITE ? 'white' : 'black'} there`;
    case 'ink':
      return `Make it ${remedy.ink === WHITE ? 'white' : 'black'}`;
    case 'fit':
      return remedy.fit === 'fill' ? 'Fill and crop instead' : 'Fit it instead';
    case 'hide':
      return 'Hide it';
    case 'opaque':
      return 'Set it to 100 %';
    case 'artwork':
      return 'Use that one';
    case 'derive':
      return DERIVES[remedy.derive.kind];
    case 'letters':
      return `Make its letters ${remedy.sizeMm} mm`;
    case 'leave-out':
    case 'place':
      return remedy.name;
  }
}

const DERIVES: Record<Derivation['kind'], string> = {
  trim: 'Trim its transparent edge',
  background: 'Remove the background',
  solid: 'Make it solid',
  enlarge: 'Enlarge it (resampled)',
};

/** The layer with the remedy done; see `remedied` for what concerns the whole design. */
export function withRemedy(layer: Layer, remedy: Remedy): Layer {
  switch (remedy.kind) {
    case 'family':
      return layer.kind === 'text' ? { ...layer, lettering: { ...layer.lettering, family: remedy.family } } : layer;
    case 'tint': {
      const versions = Object.fromEntries(remedy.colors.map((code) => [code, { tint: remedy.tint }]));
      return { ...layer, versions: { ...layer.versions, ...versions } };
    }
    case 'ink':
      return inked(layer, remedy.ink);
    case 'fit':
      return { ...layer, fit: remedy.fit };
    case 'hide':
      return { ...layer, hidden: true };
    case 'opaque': {
      const { opacity: _opacity, ...whole } = layer;
      return whole as Layer;
    }
    case 'artwork':
      return layer.kind === 'artwork' ? { ...layer, artworkId: remedy.artworkId } : layer;
    case 'letters':
      return layer.kind === 'text'
        ? { ...layer, lettering: { ...layer.lettering, sizeMm: remedy.sizeMm, shrinkToMm: null } }
        : layer;
    // A new artwork is made first; variants are none of the layer's.
    case 'derive':
    case 'leave-out':
      return layer;
    case 'place':
      return Object.entries({ ...remedy.also, [remedy.geometryId]: remedy.placement }).reduce<Layer>(
        (one, [geometryId, placement]) => withPlacement(one, geometryId, placement),
        layer,
      );
  }
}

/** Letters in one color, without an outline in another; an ornament in it. */
function inked(layer: Layer, color: string): Layer {
  if (layer.kind === 'text') return { ...layer, lettering: { ...layer.lettering, fill: color, outline: null } };
  return layer.kind === 'ornament' ? { ...layer, color } : layer;
}

/**
 * An artwork layer with another artwork in its place, `aspect` the height ÷ width of its own. `kept` is the part of its own that the other one
 * shows, as shares: what is seen stays where it is.
 */
export function withArtwork(layer: Layer, artworkId: string, aspect: number, kept: Box = WHOLE): Layer {
  if (layer.kind !== 'artwork') return layer;
  const move = (placement: Placement): Placement => {
    const center = apply(placementMatrix(placement, aspect), {
      x: (kept.left + kept.right) / 2,
      y: (kept.top + kept.bottom) / 2,
    });
    return { ...placement, xMm: center.x, yMm: center.y, widthMm: placement.widthMm * (kept.right - kept.left) };
  };
  const overrides = Object.fromEntries(Object.entries(layer.overrides).map(([id, one]) => [id, move(one)]));
  return { ...layer, artworkId, placement: move(layer.placement), overrides };
}

const WHOLE: Box = { left: 0, top: 0, right: 1, bottom: 1 };

/** The design with a remedy done on one of its layers; one that makes a new artwork changes nothing: it is made first, and then put in with `withArtwork`. */
export function remedied(doc: ProductDocument, areaKey: string, layerId: string, remedy: Remedy): ProductDocument {
  if (remedy.kind === 'leave-out') return setChosen(doc, remedy.variantKeys, false);
  const area = ownEntry(doc.areas, areaKey);
  const layer = ownEntry(area?.layers, layerId);
  if (!area || !layer) return doc;
  const layers = { ...area.layers, [layerId]: withRemedy(layer, remedy) };
  return { ...doc, areas: { ...doc.areas, [areaKey]: { ...area, layers } } };
}
