import type { Layer } from '../document/document';
import type { Fit } from '../geometry/fit';
import type { Placement } from '../geometry/placement';
import { familyByCode } from '../lettering/families';

/** What a finding offers to do about itself. */
export type Remedy =
  | { readonly kind: 'family'; readonly family: string }
  | { readonly kind: 'tint'; readonly colors: readonly string[]; readonly tint: string }
  | { readonly kind: 'fit'; readonly fit: Fit }
  /** Puts the layer elsewhere on one geometry; `name` says what that does. */
  | { readonly kind: 'place'; readonly name: string; readonly geometryId: string; readonly placement: Placement };

export const WHITE = '#ffffff';
export const BLACK = '#1a1c20';

/** The remedy on its button. */
export function remedyName(remedy: Remedy): string {
  switch (remedy.kind) {
    case 'family':
      return `Set it in ${familyByCode(remedy.family)?.name ?? remedy.family}`;
    case 'tint':
      return `Make it ${remedy.tint === WHITE ? 'white' : 'black'} there`;
    case 'fit':
      return remedy.fit === 'fill' ? 'Fill and crop instead' : 'Fit it instead';
    case 'place':
      return remedy.name;
  }
}

/** The layer with the remedy done. */
export function withRemedy(layer: Layer, remedy: Remedy): Layer {
  switch (remedy.kind) {
    case 'family':
      return layer.kind === 'text' ? { ...layer, lettering: { ...layer.lettering, family: remedy.family } } : layer;
    case 'tint': {
      const versions = Object.fromEntries(remedy.colors.map((code) => [code, { tint: remedy.tint }]));
      return { ...layer, versions: { ...layer.versions, ...versions } };
    }
    case 'fit':
      return { ...layer, fit: remedy.fit };
    case 'place':
      return layer.geometryId === remedy.geometryId
        ? { ...layer, placement: remedy.placement }
        : { ...layer, overrides: { ...layer.overrides, [remedy.geometryId]: remedy.placement } };
  }
}
