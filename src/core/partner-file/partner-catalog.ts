import { TypicaError } from '../errors';
import { checkGeometry, type Geometry } from '../geometry/area';
import {
  AREA_EDGES,
  filterHolds,
  variantKey,
  type AreaEdges,
  type OptionFilter,
  type OptionValues,
  type SizeGuide,
} from '../catalog/blank';
import { ownEntry } from '../own-entry';

/** A partner's catalog as it is read in; see docs/catalog.md. Amounts in minor units of the partner's currency, lengths in mm. */
export interface PartnerCatalog {
  readonly partner: {
    readonly code: string;
    readonly name: string;
    readonly country: string;
    readonly currency: string;
    /** What the partner's SKUs begin with. */
    readonly skuPrefix: string;
  };
  readonly validFrom: string;
  readonly inserts?: readonly { readonly code: string; readonly name: string; readonly costMinor: number }[];
  readonly shipping: readonly {
    readonly parcelClass: string;
    readonly region: string;
    readonly countries: readonly string[];
    readonly firstMinor: number;
    readonly furtherMinor: number;
    readonly daysMin: number;
    readonly daysMax: number;
  }[];
  readonly blanks: readonly CatalogBlank[];
}

export interface CatalogBlank {
  readonly good: { readonly code: string; readonly name: string; readonly kind: string };
  readonly code: string;
  readonly name: string;
  readonly description: string;
  readonly facts: { readonly [name: string]: string };
  readonly material: string;
  /** Where it is made and sent from, when not in the partner's own country. */
  readonly shipsFrom?: string;
  readonly parcelClass: string;
  readonly makingDays: readonly [number, number];
  readonly options: readonly {
    readonly code: string;
    readonly name: string;
    /** The piece of a gift set that this is a choice of. */
    readonly piece?: string;
    readonly values: readonly {
      readonly code: string;
      readonly name: string;
      readonly hex?: string;
      readonly heather?: boolean;
    }[];
  }[];
  readonly sizeGuide?: SizeGuide;
  /** Geometries by a name that areas refer to. */
  readonly geometries: { readonly [name: string]: Geometry };
  readonly pieces: readonly {
    readonly code: string;
    readonly name: string;
    readonly areas: readonly {
      readonly code: string;
      readonly name: string;
      /** Charge when it is printed beside another area. */
      readonly extraMinor: number;
      /** Charge whenever it is printed: embroidery, for example. */
      readonly techniqueMinor?: number;
      /** Of an area that goes around the good. */
      readonly edges?: AreaEdges;
      readonly geometries: readonly { readonly applies: OptionFilter; readonly geometry: string }[];
    }[];
  }[];
  /** Tried in order: the first that holds gives a variant its cost and its weight as packed. */
  readonly costs: readonly {
    readonly applies: OptionFilter;
    readonly costMinor: number;
    readonly packWeightG: number;
  }[];
  /** Tried in order: the first that holds says how many there are; where none does, there is none. */
  readonly stock: readonly { readonly applies: OptionFilter; readonly count: number }[];
  /** Variants that the partner no longer makes. */
  readonly ended?: readonly OptionFilter[];
  /** Shots in order of choice, by code. */
  readonly shots: readonly string[];
}
/** All option values combined, in the options' order. */
export function combinations(options: CatalogBlank['options']): OptionValues[] {
  return options.reduce<OptionValues[]>(
    (all, option) => all.flatMap((values) => option.values.map((value) => ({ ...values, [option.code]: value.code }))),
    [{}],
  );
}
const catalogInvalid = (says: string) => new TypicaError('invalid', 'catalog-invalid', says);

/** Throws `catalog-invalid` or `geometry-invalid` with the first thing that does not hold together. */
export function checkCatalogBlank(blank: CatalogBlank): void {
  for (const geometry of Object.values(blank.geometries)) checkGeometry(geometry);
  const pieces = new Set(blank.pieces.map((piece) => piece.code));
  for (const piece of blank.pieces)
    for (const area of piece.areas) {
      if (area.edges !== undefined && !AREA_EDGES.includes(area.edges))
        throw catalogInvalid(
          `${blank.name}: the edges of ${area.name} lie at ${AREA_EDGES.join(' or ')}, not at “${String(area.edges)}”.`,
        );
      for (const { geometry } of area.geometries)
        if (!ownEntry(blank.geometries, geometry))
          throw catalogInvalid(
            `${blank.name}: the area ${area.name} names the geometry “${geometry}”, which is not there.`,
          );
    }
  for (const option of blank.options)
    if (option.piece !== undefined && !pieces.has(option.piece))
      throw catalogInvalid(
        `${blank.name}: the option ${option.name} is of the piece “${option.piece}”, which is not there.`,
      );
  for (const values of combinations(blank.options)) costOf(blank, values);
}
/** The cost and packed weight of a variant: of the first entry that holds. Throws `catalog-invalid` where none does. */
export function costOf(blank: CatalogBlank, values: OptionValues) {
  const cost = blank.costs.find((entry) => filterHolds(entry.applies, values));
  if (!cost) throw catalogInvalid(`${blank.name} has no cost for ${variantKey(values)}.`);
  return cost;
}
