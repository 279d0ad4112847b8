import { shippingTo, type Blank, type PriceList } from '../catalog/blank';
import { usedAreas, type PricePlan, type ProductDocument } from '../document/document';
import { TypicaError } from '../errors';
import { TECHNIQUE_NAMES } from '../geometry/area';
import type { Fee } from './fees';
import { landedCost } from './landed';
import { money } from './money';
import { quote, type Quote, type Terms } from './quote';
import type { RateTable } from './rates';
import { floorMinor, priceFor, type Aim } from './solve';

/** Where something is sold: a store with its currency and fees, or `id: null` for no store in particular. */
export interface Outlet {
  readonly id: string | null;
  readonly name: string;
  readonly currency: string;
  readonly fees: readonly Fee[];
  /** Items over which a fee per listing is spread. */
  readonly expectedSales: number;
}

/** What pricing needs beside the document. */
export interface PricingWorld {
  readonly blank: Blank;
  readonly list: PriceList;
  readonly rates: RateTable;
  readonly outlet: Outlet;
  /** Destination, ISO 3166 alpha-2. */
  readonly country: string;
}

/** The plan in force at an outlet: the base, with the store's own parts over it. */
export function planFor(doc: ProductDocument, storeId: string | null): PricePlan {
  const own = storeId ? doc.price.stores[storeId] : undefined;
  return { ...doc.price.base, ...own, variants: own?.variants ?? {} };
}

/**
 * The aim for a variant at an outlet, in the outlet's currency: the store's for the variant, the store's for all, the base's for the
 * variant, the base's for all. Sums of the base are converted at the rate of the day.
 */
export function aimFor(doc: ProductDocument, outlet: Outlet, key: string, rates: RateTable): Aim {
  const own = outlet.id ? doc.price.stores[outlet.id] : undefined;
  const mine = own?.variants?.[key] ?? own?.aim;
  if (mine) return mine;
  const aim = doc.price.base.variants[key] ?? doc.price.base.aim;
  if (aim.kind === 'margin') return aim;
  return {
    kind: aim.kind,
    amountMinor: rates.convert(money(aim.amountMinor, doc.price.currency), outlet.currency).amountMinor,
  };
}

/** Everything but the price for one variant. Throws `cost-missing` or `rate-missing`. */
export function termsFor(doc: ProductDocument, key: string, world: PricingWorld): Terms {
  const { blank, list, rates, outlet, country } = world;
  const base = list.baseCostMinor[key];
  if (base === undefined) {
    throw new TypicaError(
      'invalid',
      'cost-missing',
      `${blank.partner.name} has no base cost for this variant of ${blank.name}; take it out or wait for a new price list.`,
      { key },
    );
  }
  const used = usedAreas(
    doc,
    blank.areas.map((area) => area.key),
  );
  const nameOf = (areaKey: string) => blank.areas.find((area) => area.key === areaKey)!;
  const line = shippingTo(list, country);
  const landed = landedCost(
    {
      baseCost: money(base, list.currency),
      charges: [
        // The base cost holds one printed area; each further one adds its charge.
        ...used.slice(1).map((areaKey) => ({
          id: areaKey,
          label: nameOf(areaKey).name,
          cost: money(list.extraAreaMinor[areaKey] ?? 0, list.currency),
        })),
        // Some techniques are charged on every area that they print.
        ...used
          .filter((areaKey) => (list.techniqueMinor[areaKey] ?? 0) > 0)
          .map((areaKey) => ({
            id: `${areaKey}/technique`,
            label: `${nameOf(areaKey).name}, ${TECHNIQUE_NAMES[nameOf(areaKey).technique]}`,
            cost: money(list.techniqueMinor[areaKey]!, list.currency),
          })),
      ],
      shipping: line ? money(line.firstMinor, list.currency) : null,
    },
    outlet.currency,
    rates,
  );
  const charged = planFor(doc, outlet.id).shipping === 'charged';
  return {
    currency: outlet.currency,
    landed,
    shippingChargedMinor: charged ? landed.shippingMinor : 0,
    fees: outlet.fees,
    expectedSales: outlet.expectedSales,
  };
}

/** A variant's price at an outlet with the whole sum behind it. */
export interface PricedVariant {
  readonly key: string;
  readonly aim: Aim;
  /** Whether the aim is the store's own, not the base's. */
  readonly own: boolean;
  readonly terms: Terms;
  readonly quote: Quote;
  readonly floorMinor: number;
}

/** Prices one variant. Throws what `termsFor` and `solveRetail` throw. */
export function priceVariant(doc: ProductDocument, key: string, world: PricingWorld): PricedVariant {
  const terms = termsFor(doc, key, world);
  const aim = aimFor(doc, world.outlet, key, world.rates);
  const own = world.outlet.id ? doc.price.stores[world.outlet.id] : undefined;
  const retail = priceFor(terms, aim, planFor(doc, world.outlet.id).ending);
  return {
    key,
    aim,
    own: Boolean(own?.variants?.[key] ?? own?.aim),
    terms,
    quote: quote(terms, retail),
    floorMinor: floorMinor(terms),
  };
}
