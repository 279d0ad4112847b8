import type { Technique } from '../geometry/area';
import type { ColorFamily } from '../catalog/family-colors';
import type { ShippingLine } from '../catalog/blank';

/** A blank cut down to what browsing asks of it. Variants are columns of equal length. */
export interface ShelfBlank {
  readonly id: string;
  /** Its place by name, partner and id: what decides between equal rows. */
  readonly rank: number;
  readonly code: string;
  readonly name: string;
  readonly kind: string;
  readonly material: string;
  readonly description: string;
  readonly factsText: string;
  readonly partner: { readonly id: string; readonly name: string };
  readonly shipsFrom: string;
  readonly parcelClass: string;
  readonly makingDays: { readonly min: number; readonly max: number };
  readonly techniques: readonly Technique[];
  readonly areas: readonly {
    readonly key: string;
    readonly name: string;
    readonly pieceCode: string;
    readonly widthMm: number;
    readonly heightMm: number;
    readonly outline: string | null;
    readonly dpi: number;
    readonly widthPx: number;
    readonly heightPx: number;
  }[];
  readonly colors: readonly {
    readonly code: string;
    readonly name: string;
    readonly hex: string;
    readonly family: ColorFamily;
  }[];
  /** Which option the colors are of, and of which piece; `color` colors the whole good, others (a rim, a frame) a part of it. */
  readonly colorOf: { readonly optionCode: string; readonly pieceCode: string | null } | null;
  /** Names of the values of the option `size`; none for a blank of one size. */
  readonly sizes: readonly string[];
  /** Options beside the first color and the size. */
  readonly choices: readonly { readonly name: string; readonly values: readonly string[] }[];
  /** Pieces of a gift set by name; one for an ordinary blank. */
  readonly pieces: readonly { readonly code: string; readonly name: string }[];
  /** The beginning of the hash of the shot that its picture is made from; null without one. */
  readonly shotHash: string | null;
  readonly variants: {
    readonly keys: readonly string[];
    /** Index into colors, or -1. */
    readonly color: Int16Array;
    /** Index into sizes, or -1. */
    readonly size: Int16Array;
    readonly stock: Int32Array;
    readonly ended: Uint8Array;
  };
}

/** A price list as browsing asks of it: columns beside each blank's variants. */
export interface ShelfPrices {
  readonly currency: string;
  readonly validFrom: string;
  /** By blank id. costMinor -1: no cost. stock -1: as the catalog says. printMinor: the least that printing one area costs beside it. */
  readonly blanks: ReadonlyMap<
    string,
    {
      readonly costMinor: Int32Array;
      readonly printMinor: number;
      readonly stock: Int32Array;
      readonly ended: Uint8Array;
    }
  >;
  /** By parcel class. */
  readonly shipping: ReadonlyMap<string, readonly ShippingLine[]>;
}

/** What is asked of the shelf. Lists hold alternatives; an empty one asks nothing. */
export interface ShelfQuery {
  readonly text: string;
  readonly kind: string | null;
  readonly techniques: readonly string[];
  readonly shipsFrom: readonly string[];
  readonly sizes: readonly string[];
  readonly families: readonly string[];
  readonly materials: readonly string[];
  readonly partners: readonly string[];
  /** At least so many print areas. */
  readonly areasMin: number | null;
  /** Made within so many days. */
  readonly makingMax: number | null;
  /** Landed cost of each item, minor units of the asking currency. */
  readonly landedMinMinor: number | null;
  readonly landedMaxMinor: number | null;
  readonly inStock: boolean;
  /** Only blanks that the workspace has marked, or that one of its products is on. */
  readonly favorite: boolean;
  readonly used: boolean;
  /** Destination, ISO 3166 alpha-2, and how many same items go in one parcel. */
  readonly country: string;
  readonly items: number;
  readonly sort: ShelfSort;
  readonly descending: boolean;
  readonly offset: number;
  readonly limit: number;
}

export const SHELF_SORTS = [
  'match',
  'name',
  'kind',
  'partner',
  'technique',
  'colors',
  'sizes',
  'areas',
  'making',
  'cost',
  'landed',
] as const;
export type ShelfSort = (typeof SHELF_SORTS)[number];

/** Ranks blanks for `rank`: by name, partner and id, as a person sorts them. */
export function rankBlanks(
  blanks: readonly { readonly id: string; readonly name: string; readonly partnerName: string }[],
): Map<string, number> {
  const { compare } = new Intl.Collator('en', { numeric: true });
  const sorted = blanks.toSorted(
    (a, b) => compare(a.name, b.name) || compare(a.partnerName, b.partnerName) || (a.id < b.id ? -1 : 1),
  );
  return new Map(sorted.map((blank, rank) => [blank.id, rank]));
}

/** A blank that was found, with its costs in the asking currency. Of the variants that fit the query the cheapest counts. */
export interface ShelfRow {
  readonly blank: ShelfBlank;
  /** Whether the workspace has marked it. */
  readonly favorite: boolean;
  /** What the partner takes at the least for making one, with one area printed and its discount taken off. */
  readonly costMinor: number;
  /** The same in the partner's currency. */
  readonly listCostMinor: number;
  readonly listCurrency: string;
  /** Null when the partner does not send there. */
  readonly landedEachMinor: number | null;
  readonly landedTotalMinor: number | null;
  readonly daysMin: number | null;
  readonly daysMax: number | null;
  /** Variants that fit and are not ended, and those of them in stock. */
  readonly fitting: number;
  readonly inStock: number;
}

export interface FacetValue {
  readonly value: string;
  readonly count: number;
}

/** How many blanks each further choice would leave, all other choices kept. */
export interface ShelfFacets {
  readonly kind: readonly FacetValue[];
  readonly technique: readonly FacetValue[];
  readonly shipsFrom: readonly FacetValue[];
  readonly size: readonly FacetValue[];
  readonly family: readonly FacetValue[];
  readonly material: readonly FacetValue[];
  readonly partner: readonly FacetValue[];
  readonly areas: readonly FacetValue[];
  readonly making: readonly FacetValue[];
  readonly inStock: number;
  readonly favorite: number;
  readonly used: number;
}

export interface ShelfAnswer {
  readonly total: number;
  readonly rows: readonly ShelfRow[];
  readonly facets: ShelfFacets;
}

export const EMPTY_QUERY: ShelfQuery = {
  text: '',
  kind: null,
  techniques: [],
  shipsFrom: [],
  sizes: [],
  families: [],
  materials: [],
  partners: [],
  areasMin: null,
  makingMax: null,
  landedMinMinor: null,
  landedMaxMinor: null,
  inStock: false,
  favorite: false,
  used: false,
  country: 'GB',
  items: 1,
  sort: 'landed',
  descending: false,
  offset: 0,
  limit: 60,
};

/** A row as the API tells it: what browsing shows, without the columns of the variants. */
export type ShelfItem = Omit<ShelfBlank, 'variants' | 'factsText' | 'rank'> & Omit<ShelfRow, 'blank'>;

export function itemOf({ blank, ...costs }: ShelfRow): ShelfItem {
  const { variants: _variants, factsText: _facts, rank: _rank, ...shown } = blank;
  return { ...shown, ...costs };
}
