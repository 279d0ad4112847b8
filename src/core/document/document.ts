import type { Fit } from '../geometry/fit';
import type { Placement } from '../geometry/placement';
import type { Ordered } from '../order/order';
import type { Aim, Ending } from '../pricing/solve';

/**
 * The product document: everything a seller decides about one product. Objects keyed by stable ids with order keys, so that a patch
 * never names an array index. What may differ by store is `base` and overrides by store id.
 */
export interface ProductDocument {
  readonly format: 1;
  readonly blankId: string;
  readonly areas: { readonly [areaKey: string]: AreaDesign };
  /** The chosen variants; a key that is there is chosen. */
  readonly variants: { readonly [variantKey: string]: ChosenVariant };
  readonly price: {
    readonly currency: string;
    readonly base: PricePlan;
    readonly stores: { readonly [storeId: string]: Partial<PricePlan> };
  };
  readonly words: { readonly base: Words; readonly stores: { readonly [storeId: string]: Partial<Words> } };
  readonly pictures: { readonly base: Pictures; readonly stores: { readonly [storeId: string]: Pictures } };
}

export interface AreaDesign {
  readonly layers: { readonly [layerId: string]: Layer };
}

/** One placed artwork. `geometryId` is the geometry on which `placement` was made; other shapes follow by `fit`. */
export interface ArtworkLayer extends Ordered {
  readonly kind: 'artwork';
  readonly name: string;
  readonly artworkId: string;
  readonly geometryId: string;
  readonly placement: Placement;
  readonly fit: Fit;
  readonly overrides: { readonly [geometryId: string]: Placement };
  readonly hidden: boolean;
  readonly locked: boolean;
}

export type Layer = ArtworkLayer;

export interface ChosenVariant {
  /** The seller's own code; made by pattern when absent. */
  readonly sku?: string;
}

/** How prices are set: one aim for all and aims for single variants. Amounts are in the plan's currency (base: the document's; a store: its own). */
export interface PricePlan {
  readonly aim: Aim;
  readonly variants: { readonly [variantKey: string]: Aim };
  readonly ending: Ending;
  /** `charged`: the buyer pays the partner's shipping on top; `folded`: it is in the price. */
  readonly shipping: 'charged' | 'folded';
}

export interface Tag extends Ordered {
  readonly text: string;
}

export interface Words {
  readonly title: string;
  readonly description: string;
  readonly tags: { readonly [tagId: string]: Tag };
}

/** Chosen pictures; none chosen means the set that follows from colors and shots. */
export type Pictures = { readonly [pictureId: string]: Picture };

export interface Picture extends Ordered {
  readonly shotId: string;
  readonly color: string | null;
}

/** A new product on a blank: nothing placed, nothing chosen, a margin of 40 % as the aim. */
export function newDocument(blankId: string, currency: string, title: string): ProductDocument {
  return {
    format: 1,
    blankId,
    areas: {},
    variants: {},
    price: {
      currency,
      base: { aim: { kind: 'margin', ppm: 400_000 }, variants: {}, ending: 'none', shipping: 'charged' },
      stores: {},
    },
    words: { base: { title, description: '', tags: {} }, stores: {} },
    pictures: { base: {}, stores: {} },
  };
}

/** Words for a store: the base with the store's overrides. */
export const wordsFor = (doc: ProductDocument, storeId: string | null): Words => ({
  ...doc.words.base,
  ...(storeId ? doc.words.stores[storeId] : undefined),
});

/** Keys of areas on which something is printed, in the blank's order of areas. */
export function usedAreas(doc: ProductDocument, areaKeys: readonly string[]): string[] {
  return areaKeys.filter((key) => Object.values(doc.areas[key]?.layers ?? {}).some((layer) => !layer.hidden));
}
