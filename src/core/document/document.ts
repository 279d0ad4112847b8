import type { Fit } from '../geometry/fit';
import type { Lettering } from '../lettering/text';
import type { Placement } from '../geometry/placement';
import type { Ordered } from '../order-key';
import type { Ending, Way } from '../pricing/rounding';
import type { Aim } from '../pricing/solve';
import { ownEntry } from '../own-entry';

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
  /** How SKUs are made that the seller has not typed; absent: as `PLAIN_PATTERN` says. */
  readonly skuPattern?: string;
  /** Chosen variants that single stores do not sell, by store id; absent: each store sells all. */
  readonly leftOut?: { readonly [storeId: string]: { readonly [variantKey: string]: true } };
  /** Stores that sell it in several listings, by store id; absent: each sells it in one. */
  readonly split?: { readonly [storeId: string]: StoreSplit };
  /** Single stores' own names for colors, by store id and color; absent: the store's settings, else the nearest. */
  readonly shades?: { readonly [storeId: string]: { readonly [colorCode: string]: string } };
  /** Whether stores show variants that are out of stock as sold out, or not at all; absent: shown. */
  readonly whenOut?: 'shown' | 'hidden';
  /** The seller's own order of an option's values, by option and value; values without one follow in the blank's order. */
  readonly optionOrder?: { readonly [optionCode: string]: { readonly [valueCode: string]: Ordered } };
  readonly price: {
    readonly currency: string;
    readonly base: PricePlan;
    readonly stores: { readonly [storeId: string]: StorePlan };
  };
  /** Products that are sold together with this one; absent: none. */
  readonly bundles?: Bundles;
  readonly words: { readonly base: Words; readonly stores: { readonly [storeId: string]: Partial<Words> } };
  readonly pictures: { readonly base: Pictures; readonly stores: { readonly [storeId: string]: Pictures } };
}

/** How a store sells a product in several listings: by the values of one option (in practice the color). */
export interface StoreSplit {
  readonly option: string;
  /** By number, from 1 on. */
  readonly listings: { readonly [number: string]: SplitListing };
}

export interface SplitListing {
  /** Values of the option that it sells, by code; what no listing names is in the first. */
  readonly values?: { readonly [valueCode: string]: true };
  /** Its own title; absent: the one that the product has in the store. */
  readonly title?: string;
}

export interface AreaDesign {
  readonly layers: { readonly [layerId: string]: Layer };
  /** How an embroidered area chooses its threads; absent: by itself. */
  readonly threads?: ThreadChoice;
}

/** Threads by code. */
export interface ThreadChoice {
  /** Used whatever the design's colors are: the last six of these in their order. */
  readonly pinned: { readonly [threadCode: string]: Ordered };
  /** What is sewn instead of a thread that was chosen by itself. */
  readonly swaps: { readonly [threadCode: string]: string };
}

/** What all placed things have. `geometryId` is the geometry on which `placement` was made; other shapes follow by `fit`. */
interface PlacedLayer extends Ordered {
  readonly name: string;
  readonly geometryId: string;
  readonly placement: Placement;
  readonly fit: Fit;
  readonly overrides: { readonly [geometryId: string]: Placement };
  /** What must stay in view where `fill` crops: a point of the layer, 0,0 its top left and 1,1 its bottom right; absent: its middle. */
  readonly focus?: { readonly x: number; readonly y: number };
  /** Other looks on single colors of the blank, by the color's code. */
  readonly versions?: { readonly [colorCode: string]: LayerVersion };
  /** How much of it covers what lies beneath, above 0 to 1; absent: all. */
  readonly opacity?: number;
  readonly hidden: boolean;
  readonly locked: boolean;
}

/** The least opacity of a layer: less is not seen. */
export const MIN_OPACITY = 0.05;

/** A layer on one color of the blank: another artwork, or all of it in one color. */
export interface LayerVersion {
  readonly artworkId?: string;
  /** sRGB `#rrggbb` in place of the layer's own colors. */
  readonly tint?: string;
}

export interface ArtworkLayer extends PlacedLayer {
  readonly kind: 'artwork';
  readonly artworkId: string;
}

/** Letters, set in a box of `lettering.boxWidthMm` × `boxHeightMm` that its placement scales. */
export interface TextLayer extends PlacedLayer {
  readonly kind: 'text';
  readonly lettering: Lettering;
}

/** A vector piece of our own, in one color. */
export interface OrnamentLayer extends PlacedLayer {
  readonly kind: 'ornament';
  readonly ornament: string;
  readonly color: string;
}

export type Layer = ArtworkLayer | TextLayer | OrnamentLayer;

/** What a text is called until somebody names it. */
export const PLAIN_TEXT_NAME = 'Text';
const MAX_TITLE = 40;

/** What a person calls a layer: its name, and a text that nobody named by what it says. */
export function layerTitle(layer: Layer): string {
  if (layer.kind !== 'text' || (layer.name !== PLAIN_TEXT_NAME && layer.name !== '')) return layer.name || 'Layer';
  const said = layer.lettering.text.replace(/\s+/g, ' ').trim();
  if (said === '') return PLAIN_TEXT_NAME;
  return said.length > MAX_TITLE
    ? `${said
        .slice(0, MAX_TITLE - 1)
        .toWellFormed()
        .trimEnd()}…`
    : said;
}

/** Every artwork that a design uses, on whatever color. */
export function artworkIdsOf(areas: ProductDocument['areas']): string[] {
  const ids = new Set<string>();
  for (const { layers } of Object.values(areas))
    for (const layer of Object.values(layers)) {
      if (layer.kind === 'artwork') ids.add(layer.artworkId);
      for (const version of Object.values(layer.versions ?? {})) if (version.artworkId) ids.add(version.artworkId);
    }
  return [...ids];
}

/** Every photograph that pictures name. */
export const photographIdsOf = (pictures: ProductDocument['pictures']): string[] => [
  ...new Set(
    [pictures.base, ...Object.values(pictures.stores)].flatMap((set) =>
      Object.values(set).flatMap(({ imageId }) => imageId ?? []),
    ),
  ),
];

export interface ChosenVariant {
  /** The seller's own code; made by pattern when absent. */
  readonly sku?: string;
  /** Its GTIN, 8 to 14 digits with a right check digit. */
  readonly gtin?: string;
}

/** How prices are set: one aim for all and aims for single variants. Amounts are in the plan's currency (base: the document's; a store: its own). */
export interface PricePlan {
  readonly aim: Aim;
  readonly variants: { readonly [variantKey: string]: Aim };
  readonly ending: Ending;
  /** Which way prices go to their ending; absent: up. */
  readonly way?: Way;
  /** The least and the most that is asked for, whatever the aim; null or absent: no bound. In the plan's currency. */
  readonly leastMinor?: number | null;
  readonly mostMinor?: number | null;
  /** `charged`: the buyer pays the partner's shipping on top; `folded`: it is in the price. */
  readonly shipping: 'charged' | 'folded';
  /** From this sum of items on shipping is free; null or absent: never. In the plan's currency. */
  readonly freeFromMinor?: number | null;
  /** What the partner puts into each parcel, by code; null or absent: nothing. */
  readonly insert?: string | null;
}

/** What of a plan a store has of its own. */
export interface StorePlan extends Partial<PricePlan> {
  /** The base's prices and this much more (below 0: less), parts per million; absent: the base's aims, reached with the store's own fees. */
  readonly differencePpm?: number;
  /** Countries to which this product is not sold there, ISO 3166 alpha-2. */
  readonly notTo?: { readonly [country: string]: true };
}

/** Each chosen variant is offered by itself and in each bundle: one more choice in the listing. */
export interface Bundles {
  /** What shops call the choice, and the product by itself. */
  readonly option: string;
  readonly alone: string;
  readonly entries: { readonly [bundleId: string]: Bundle };
}

/** The product with others, at one price. */
export interface Bundle extends Ordered {
  /** What buyers read, such as `With a Tide mug`. */
  readonly name: string;
  readonly items: { readonly [itemId: string]: BundleItem };
  /** What the price of the whole is to reach; sums in the document's currency. */
  readonly aim: Aim;
  /** Aims of single stores, in their currencies. */
  readonly stores?: { readonly [storeId: string]: Aim };
}

export interface BundleItem extends Ordered {
  readonly productId: string;
  readonly variantKey: string;
  readonly quantity: number;
}

/** Products that bundles name. */
export const companionIdsOf = ({ bundles }: Pick<ProductDocument, 'bundles'>): string[] => [
  ...new Set(
    Object.values(bundles?.entries ?? {}).flatMap(({ items }) =>
      Object.values(items).map(({ productId }) => productId),
    ),
  ),
];

export interface Tag extends Ordered {
  readonly text: string;
}

export interface Words {
  readonly title: string;
  readonly description: string;
  readonly tags: { readonly [tagId: string]: Tag };
  /** Short sentences that some shops show beside the title. */
  readonly highlights?: { readonly [highlightId: string]: Tag };
  /** The end of its page's address, and what search engines show; absent: they follow from title and description. */
  readonly pageAddress?: string;
  readonly seoTitle?: string;
  readonly seoDescription?: string;
}

/** Chosen pictures; none chosen means the set that follows from colors and shots. */
export type Pictures = { readonly [pictureId: string]: Picture };

export interface Picture extends Ordered {
  /** The shot that it is a mock-up of; null for a picture of the seller's own. */
  readonly shotId: string | null;
  /** The photograph that it is; only without a shot. */
  readonly imageId?: string;
  /** Color of the blank that it shows; of an own picture the one that it is tied to. */
  readonly color: string | null;
  /** Alternative text in place of the one that is written from facts. */
  readonly alt?: string;
  /** The main picture of its color, whatever comes before it. */
  readonly main?: boolean;
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
  ...(storeId ? ownEntry(doc.words.stores, storeId) : undefined),
});

/** Keys of areas on which something is printed, in the blank's order of areas. */
export function usedAreas(doc: ProductDocument, areaKeys: readonly string[]): string[] {
  return areaKeys.filter((key) => Object.values(ownEntry(doc.areas, key)?.layers ?? {}).some((layer) => !layer.hidden));
}
