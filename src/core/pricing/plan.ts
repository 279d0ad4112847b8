import { shippingTo, type Blank, type PriceList } from '../catalog/blank';
import { usedAreas, type PricePlan, type ProductDocument, type StorePlan } from '../document/document';
import { isTypicaError, TypicaError } from '../errors';
import { TECHNIQUE_NAMES } from '../geometry/area';
import type { Fee } from './fees';
import { landedCost, type Charge } from './landed';
import { money, mulDiv, PPM } from './money';
import { quote, type Quote, type Terms } from './quote';
import type { RateTable } from './rates';
import { PLAIN_SETTINGS, type MoneySettings } from './settings';
import { floorMinor, priceFor, withEnding, type Aim } from './solve';
import { taxTo } from './tax';
import { ownEntry } from '../own-entry';

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
  /** Discounts and taxes of the workspace; none when absent. */
  readonly settings?: MoneySettings;
  /** Destination for which prices of no store in particular are solved; `country` when absent. */
  readonly home?: string;
}

/** The plan in force at an outlet: the base, with the store's own parts over it. */
export function planFor(doc: ProductDocument, storeId: string | null): PricePlan {
  const own = storeId ? ownEntry(doc.price.stores, storeId) : undefined;
  return { ...doc.price.base, ...own, variants: own?.variants ?? {} };
}

const ownPlan = (doc: ProductDocument, outlet: Outlet): StorePlan | undefined =>
  outlet.id ? ownEntry(doc.price.stores, outlet.id) : undefined;

/**
 * The aim for a variant at an outlet, in the outlet's currency: the store's for the variant, the store's for all, the base's for the
 * variant, the base's for all. Sums of the base are converted at the rate of the day.
 */
export function aimFor(doc: ProductDocument, outlet: Outlet, key: string, rates: RateTable): Aim {
  const own = ownPlan(doc, outlet);
  const mine = ownEntry(own?.variants, key) ?? own?.aim;
  if (mine) return mine;
  const aim = ownEntry(doc.price.base.variants, key) ?? doc.price.base.aim;
  if (aim.kind === 'margin' || aim.kind === 'markup') return aim;
  return {
    kind: aim.kind,
    amountMinor: rates.convert(money(aim.amountMinor, doc.price.currency), outlet.currency).amountMinor,
  };
}

/** The charges of a design beside the base cost: further areas, techniques, and what is put into the parcel. */
function chargesOf(doc: ProductDocument, { blank, list, outlet }: PricingWorld): Charge[] {
  const used = usedAreas(
    doc,
    blank.areas.map((area) => area.key),
  );
  const nameOf = (areaKey: string) => blank.areas.find((area) => area.key === areaKey)!;
  const code = planFor(doc, outlet.id).insert;
  const insert = list.inserts.find((one) => one.code === code);
  return [
    // The base cost holds one printed area; each further one adds its charge.
    ...used.slice(1).map((areaKey) => ({
      id: areaKey,
      label: nameOf(areaKey).name,
      cost: money(ownEntry(list.extraAreaMinor, areaKey) ?? 0, list.currency),
    })),
    // Some techniques are charged on every area that they print.
    ...used
      .filter((areaKey) => (ownEntry(list.techniqueMinor, areaKey) ?? 0) > 0)
      .map((areaKey) => ({
        id: `${areaKey}/technique`,
        label: `${nameOf(areaKey).name}, ${TECHNIQUE_NAMES[nameOf(areaKey).technique]}`,
        cost: money(ownEntry(list.techniqueMinor, areaKey)!, list.currency),
      })),
    ...(insert
      ? [
          {
            id: `insert/${insert.code}`,
            label: insert.name,
            cost: money(insert.costMinor, list.currency),
            per: 'order' as const,
          },
        ]
      : []),
  ];
}

/** Terms of the variants of a product at an outlet and a destination: what does not depend on the variant is settled once. */
function termsMaker(doc: ProductDocument, world: PricingWorld): (key: string, items?: number) => Terms {
  const { blank, list, rates, outlet, country, settings = PLAIN_SETTINGS } = world;
  const charges = chargesOf(doc, world);
  const line = shippingTo(list, country);
  const { shipping, freeFromMinor = null } = planFor(doc, outlet.id);
  const own = ownPlan(doc, outlet);
  // A sum that the base sets is in the base's currency.
  const freeFrom =
    freeFromMinor === null || own?.freeFromMinor !== undefined
      ? freeFromMinor
      : rates.convert(money(freeFromMinor, doc.price.currency), outlet.currency).amountMinor;
  const discountPpm = ownEntry(settings.discounts, blank.partner.id) ?? 0;
  const tax = taxTo(settings.taxes, country);
  return (key, items = 1) => {
    const base = ownEntry(list.baseCostMinor, key);
    if (base === undefined) {
      throw new TypicaError(
        'invalid',
        'cost-missing',
        `${blank.partner.name} has no base cost for this variant of ${blank.name}; take it out or wait for a new price list.`,
        { key },
      );
    }
    const landed = landedCost(
      {
        baseCost: money(base, list.currency),
        charges,
        discountPpm,
        items,
        shipping: line ? money(line.firstMinor + (items - 1) * line.furtherMinor, list.currency) : null,
      },
      outlet.currency,
      rates,
    );
    return {
      currency: outlet.currency,
      items,
      landed,
      shippingChargedMinor: shipping === 'charged' ? landed.shippingMinor : 0,
      freeFromMinor: shipping === 'charged' ? freeFrom : null,
      salePpm: 0,
      voucherMinor: 0,
      tax,
      fees: outlet.fees,
      expectedSales: outlet.expectedSales,
    };
  };
}

/** Everything but the price for one variant, for an order of `items` of it. Throws `cost-missing` or `rate-missing`. */
export const termsFor = (doc: ProductDocument, key: string, world: PricingWorld, items = 1): Terms =>
  termsMaker(doc, world)(key, items);

/** A variant's price at an outlet with the whole sum behind it. */
export interface PricedVariant {
  readonly key: string;
  readonly aim: Aim;
  /** Whether the aim is the store's own, not the base's. */
  readonly own: boolean;
  /** Whether it is the base's price with the store's difference. */
  readonly follows: boolean;
  readonly terms: Terms;
  readonly quote: Quote;
  /** The lowest price at which nothing is lost; null where fees leave none. */
  readonly floorMinor: number | null;
}

/** The floor, or null where no price brings anything. */
function floorOf(terms: Terms): number | null {
  try {
    return floorMinor(terms);
  } catch (error) {
    if (isTypicaError(error) && error.code === 'price-unsolvable') return null;
    throw error;
  }
}

/** Whether a price loses money: it lies below its floor, or there is none. */
export const losesMoney = ({ quote: { profitMinor } }: Pick<PricedVariant, 'quote'>): boolean => profitMinor < 0;

/** Prices the variants of a product at an outlet, one after the other: what they share is settled once. */
export function pricer(doc: ProductDocument, world: PricingWorld): (key: string) => PricedVariant {
  const { outlet, rates } = world;
  const own = ownPlan(doc, outlet);
  const termsOf = termsMaker(doc, world);
  const { ending } = planFor(doc, outlet.id);
  const followsPpm = own?.aim ? undefined : own?.differencePpm;
  const base =
    followsPpm === undefined
      ? null
      : pricer(doc, {
          ...world,
          country: world.home ?? world.country,
          outlet: { id: null, name: '', currency: doc.price.currency, fees: [], expectedSales: 1 },
        });
  const aimOf = (key: string): { aim: Aim; follows: boolean } => {
    if (base === null || ownEntry(own?.variants, key)) return { aim: aimFor(doc, outlet, key, rates), follows: false };
    const there = base(key).quote.retailMinor;
    const here = rates.convert(money(there, doc.price.currency), outlet.currency).amountMinor;
    const amountMinor = withEnding(mulDiv(here, PPM + followsPpm!, PPM), ending, outlet.currency);
    return { aim: { kind: 'retail', amountMinor }, follows: true };
  };
  return (key) => {
    const terms = termsOf(key);
    const { aim, follows } = aimOf(key);
    return {
      key,
      aim,
      own: Boolean(ownEntry(own?.variants, key) ?? own?.aim),
      follows,
      terms,
      quote: quote(terms, priceFor(terms, aim, ending)),
      floorMinor: floorOf(terms),
    };
  };
}

/** Prices one variant. Throws what `termsFor` and `solveRetail` throw. */
export const priceVariant = (doc: ProductDocument, key: string, world: PricingWorld): PricedVariant =>
  pricer(doc, world)(key);
