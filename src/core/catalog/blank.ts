import type { Geometry, Technique } from '../geometry/area';
import { ownEntry } from '../own-entry';

/** Option values of one variant, by option code: `{ color: 'estuary', size: 'm' }`. */
export type OptionValues = { readonly [optionCode: string]: string };

/** For which variants something holds: for each named option one of these values. `{}` holds for all. */
export type OptionFilter = { readonly [optionCode: string]: readonly string[] };

export interface OptionValue {
  readonly code: string;
  readonly name: string;
  /** sRGB `#rrggbb` for an option that is a color, else null. */
  readonly hex: string | null;
  /** Spun from fibers of two shades. */
  readonly heather?: boolean;
}

export interface Option {
  readonly code: string;
  readonly name: string;
  /** The piece of a gift set that this is a choice of; null for a choice of the whole blank. */
  readonly pieceCode: string | null;
  readonly values: readonly OptionValue[];
}

/** Where the two ends of an area meet that goes around its good. */
export const AREA_EDGES = ['handle', 'seam'] as const;
export type AreaEdges = (typeof AREA_EDGES)[number];

/** A print area of a blank; its key is `piece.area`, such as `main.front`. */
export interface Area {
  readonly key: string;
  readonly pieceCode: string;
  readonly name: string;
  readonly technique: Technique;
  /** What its left and right edge lie at where it goes around the good; absent where it does not. */
  readonly edges?: AreaEdges;
  /** Tried in order: the first whose filter holds is the geometry of a variant. */
  readonly geometries: readonly { readonly geometryId: string; readonly applies: OptionFilter }[];
}

export interface BlankVariant {
  readonly key: string;
  readonly values: OptionValues;
  /** The partner's own code for it, unique with the partner. */
  readonly partnerSku: string;
  /** Weight as packed, in g. */
  readonly packWeightG: number;
  /** How many the partner says are there. */
  readonly stock: number;
  readonly inStock: boolean;
  readonly ended: boolean;
}

/** Body or goods measured for each value of one option, in mm. */
export interface SizeGuide {
  readonly optionCode: string;
  /** How it is measured: `body` of the wearer, or the `good` laid flat. */
  readonly of: 'body' | 'good';
  readonly measures: readonly {
    readonly code: string;
    readonly name: string;
    readonly mm: { readonly [valueCode: string]: number };
  }[];
}

/** A blank of one partner with all that the bench needs to know of it. */
export interface Blank {
  readonly id: string;
  readonly code: string;
  readonly name: string;
  readonly kind: string;
  readonly description: string;
  readonly facts: { readonly [name: string]: string };
  readonly partner: {
    readonly id: string;
    readonly code: string;
    readonly name: string;
    readonly country: string;
    readonly currency: string;
  };
  /** One word to choose by: cotton, ceramic, paper …; the whole text is among the facts. */
  readonly material: string;
  /** ISO 3166 alpha-2 of where it is made and sent from. */
  readonly shipsFrom: string;
  readonly sizeGuide: SizeGuide | null;
  readonly parcelClass: string;
  readonly makingDays: { readonly min: number; readonly max: number };
  readonly pieces: readonly { readonly code: string; readonly name: string }[];
  readonly areas: readonly Area[];
  readonly geometries: { readonly [id: string]: Geometry };
  readonly options: readonly Option[];
  readonly variants: readonly BlankVariant[];
}

export interface ShippingLine {
  readonly region: string;
  readonly countries: readonly string[];
  readonly firstMinor: number;
  readonly furtherMinor: number;
  readonly daysMin: number;
  readonly daysMax: number;
}

/** One dated price list of a partner, cut down to one blank. Amounts in minor units of `currency`. */
export interface PriceList {
  readonly id: string;
  readonly currency: string;
  readonly validFrom: string;
  readonly baseCostMinor: { readonly [variantKey: string]: number };
  /** Charge for an area that is printed beside another. */
  readonly extraAreaMinor: { readonly [areaKey: string]: number };
  /** Charge for printing an area at all: embroidery, for example. None is 0. */
  readonly techniqueMinor: { readonly [areaKey: string]: number };
  /** What can be put into the parcel, charged per order. */
  readonly inserts: readonly { readonly code: string; readonly name: string; readonly costMinor: number }[];
  readonly shipping: readonly ShippingLine[];
}

/** What a price list says of variants beyond their cost; it lies over what the catalog says. */
export interface StockUpdate {
  readonly stock: { readonly [variantKey: string]: number };
  readonly ended: ReadonlySet<string>;
}

/** The blank as a workspace with this price list sees it. */
export function withStock(blank: Blank, { stock, ended }: StockUpdate): Blank {
  return {
    ...blank,
    variants: blank.variants.map((variant) => {
      const count = ownEntry(stock, variant.key) ?? variant.stock;
      return { ...variant, stock: count, inStock: count > 0, ended: variant.ended || ended.has(variant.key) };
    }),
  };
}

/** `color=estuary;size=m`: option codes in alphabetical order, so that one variant has one key. */
export function variantKey(values: OptionValues): string {
  return Object.keys(values)
    .sort()
    .map((code) => `${code}=${ownEntry(values, code)}`)
    .join(';');
}

export function parseVariantKey(key: string): OptionValues {
  return Object.fromEntries(
    key
      .split(';')
      .filter(Boolean)
      .map((part) => part.split('=') as [string, string]),
  );
}

export const filterHolds = (filter: OptionFilter, values: OptionValues): boolean =>
  Object.entries(filter).every(([code, allowed]) => allowed.includes(ownEntry(values, code) ?? ''));

/** The geometry of an area for one variant, or null when the area does not exist there. */
export function geometryIdFor(area: Area, values: OptionValues): string | null {
  return area.geometries.find((g) => filterHolds(g.applies, values))?.geometryId ?? null;
}

/** The option whose values are colors, or null. */
export const colorOption = (blank: Pick<Blank, 'options'>): Option | null =>
  blank.options.find((option) => option.values.some((value) => value.hex !== null)) ?? null;

/** The code of the option that holds sizes, in every partner's catalog. */
export const SIZE_OPTION = 'size';

/** The option whose values are sizes, or null for a blank that comes in one size. */
export const sizeOption = (blank: Pick<Blank, 'options'>): Option | null =>
  blank.options.find(({ code }) => code === SIZE_OPTION) ?? null;

/** What a person calls a print area: `Front`, and in a gift set with its piece, `Towel face`. */
export function areaTitle(blank: Pick<Blank, 'pieces'>, area: Pick<Area, 'name' | 'pieceCode'>): string {
  const piece = blank.pieces.length > 1 ? blank.pieces.find((one) => one.code === area.pieceCode) : undefined;
  return piece ? `${piece.name} ${area.name.toLocaleLowerCase('en')}` : area.name;
}

/** The partner's shipping line to a country (ISO 3166 alpha-2): a line that names it, else one for all countries (`*`), else null. */
export function shippingTo(list: Pick<PriceList, 'shipping'>, country: string): ShippingLine | null {
  return (
    list.shipping.find((line) => line.countries.includes(country)) ??
    list.shipping.find((line) => line.countries.includes('*')) ??
    null
  );
}
