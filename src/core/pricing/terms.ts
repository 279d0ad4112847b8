import { ownPlan, planFor, type PricingWorld } from './plan';
import { shippingTo } from '../catalog/blank';
import { usedAreas, type ProductDocument } from '../document/document';
import { TypicaError } from '../errors';
import { TECHNIQUE_NAMES } from '../geometry/area';
import { ownEntry } from '../own-entry';
import type { TermsTo } from './floor';
import { feesIn, type Fee } from './fees';
import { landedOf, madeCost, shippingCost, type Charge, type CostLine, type MadeCost } from './landed';
import { money } from './money';
import { dutyFee, dutyTo, hasOwnCosts, ownFees, type OwnCosts } from './own-costs';
import type { Outlet } from './outlet';
import type { Terms } from './quote';
import type { RateTable } from './rates';
import { PLAIN_SETTINGS } from './settings';
import { classOf, countryOf, taxedStates, taxTo, type Tax } from './tax';
import { shippingCharge } from './shipping-charge';

const missing = (says: string, fields: Record<string, unknown>) =>
  new TypicaError('invalid', 'cost-missing', says, fields);

/** The charges of a design beside the base cost: further areas, techniques, and what is put into the parcel. Throws `cost-missing`. */
function chargesOf(doc: ProductDocument, { blank, list, outlet }: PricingWorld): Charge[] {
  const used = usedAreas(
    doc,
    blank.areas.map((area) => area.key),
  );
  const areaOf = (areaKey: string) => blank.areas.find((area) => area.key === areaKey)!;
  for (const areaKey of used)
    if (ownEntry(list.extraAreaMinor, areaKey) === undefined)
      throw missing(
        `${blank.partner.name}’s price list says nothing of printing ${areaOf(areaKey).name} of ${blank.name}; take that design off, or wait for a new price list.`,
        { areaKey },
      );
  const code = planFor(doc, outlet).insert;
  const insert = list.inserts.find((one) => one.code === code);
  if (code && !insert)
    throw missing(
      `${blank.partner.name}’s price list no longer has the insert “${code}”; choose another under In the parcel, or none.`,
      { insert: code },
    );
  const sum = (minor: number) => money(minor, list.currency);
  return [
    // The base cost holds one printed area; each further one adds its charge.
    ...used.slice(1).map((areaKey) => ({
      id: areaKey,
      label: areaOf(areaKey).name,
      cost: sum(ownEntry(list.extraAreaMinor, areaKey)!),
    })),
    // Some techniques are charged on every area that they print.
    ...used
      .filter((areaKey) => (ownEntry(list.techniqueMinor, areaKey) ?? 0) > 0)
      .map((areaKey) => ({
        id: `${areaKey}/technique`,
        label: `${areaOf(areaKey).name}, ${TECHNIQUE_NAMES[areaOf(areaKey).technique]}`,
        cost: sum(ownEntry(list.techniqueMinor, areaKey)!),
      })),
    ...(insert
      ? [{ id: `insert/${insert.code}`, label: insert.name, cost: sum(insert.costMinor), per: 'order' as const }]
      : []),
  ];
}

/** What of a product does not depend on variant and destination, settled once. */
export interface Settled {
  /** Making so many of a variant with this base cost. */
  readonly made: (baseCostMinor: number, items: number) => MadeCost;
  /** What a buyer in a country pays for sending so many, and from which sum on nothing. */
  readonly chargedTo: (
    country: string,
    items?: number,
  ) => { readonly shippingChargedMinor: number; readonly freeFromMinor: number | null };
  /** What the outlet takes, in its currency. */
  readonly fees: readonly Fee[];
  readonly taxTo: (destination: string) => Tax | null;
  readonly dutyTo: (destination: string) => Fee | null;
  readonly own: OwnCosts | null;
}

export function settled(doc: ProductDocument, world: PricingWorld): Settled {
  const { blank, list, rates, outlet, settings = PLAIN_SETTINGS } = world;
  const { currency } = outlet;
  const { shipping, freeFromMinor: planned = null } = planFor(doc, outlet);
  const own = ownPlan(doc, outlet);
  const charges = chargesOf(doc, world);
  // A sum that the base sets is in the base's currency.
  const freeFromMinor =
    planned === null || own?.freeFromMinor !== undefined
      ? planned
      : rates.convert(money(planned, doc.price.currency), currency).amountMinor;
  const discountPpm = ownEntry(settings.discounts, blank.partner.id) ?? 0;
  return {
    made: (baseCostMinor, items) =>
      madeCost({ baseCost: money(baseCostMinor, list.currency), charges, discountPpm, items }, currency, rates),
    chargedTo: (country, items = 1) => {
      const told = shipping === 'charged' ? shippingCharge(world, country) : null;
      return {
        shippingChargedMinor: told ? told.firstMinor + (items - 1) * told.furtherMinor : 0,
        freeFromMinor: shipping === 'charged' ? freeFromMinor : null,
      };
    },
    fees: feesIn(outlet.fees, currency, rates),
    taxTo: (destination) =>
      taxTo(settings.taxes, destination, {
        taxClass: classOf(settings.goods, blank.kind, countryOf(destination)),
      }),
    dutyTo: (destination) => {
      const duty = dutyTo(settings.duties, blank.shipsFrom, destination);
      return duty && dutyFee(duty, currency, rates);
    },
    own: hasOwnCosts(settings.own) ? settings.own : null,
  };
}

/** What sending an order to a destination costs and brings, whatever is in it. */
interface Sending {
  readonly shipping: CostLine | null;
  readonly shippingChargedMinor: number;
  readonly freeFromMinor: number | null;
  readonly tax: Tax | null;
  readonly fees: readonly Fee[];
}

/** Terms of an order of `items` as the shop counts them and `ownItems` as the seller's own costs do. */
export function termsOf(
  made: MadeCost,
  { shipping, fees, ...sending }: Sending,
  order: {
    readonly outlet: Outlet;
    readonly rates: RateTable;
    readonly own: OwnCosts | null;
    readonly items: number;
    readonly ownItems: number;
  },
): Terms {
  const { outlet, rates, own, items, ownItems } = order;
  const { currency, expectedSales } = outlet;
  const landed = landedOf(made, shipping);
  return {
    currency,
    items,
    landed,
    shippingChargedMinor: sending.shippingChargedMinor,
    freeFromMinor: sending.freeFromMinor,
    salePpm: 0,
    voucherMinor: 0,
    tax: sending.tax,
    fees: own ? [...fees, ...ownFees(own, { landedMinor: landed.totalMinor, items: ownItems }, currency, rates)] : fees,
    expectedSales,
  };
}

/** The base cost of a variant, minor units of the list's currency. Throws `cost-missing`. */
export function baseCostOf({ blank, list }: PricingWorld, key: string): number {
  const base = ownEntry(list.baseCostMinor, key);
  if (base === undefined)
    throw missing(
      `${blank.partner.name} has no base cost for this variant of ${blank.name}; remove it or wait for a new price list.`,
      { key },
    );
  return base;
}

/** Terms at an outlet: what making costs is settled once for all destinations, and what sending costs once for all variants. */
function termsMaker(doc: ProductDocument, world: PricingWorld, items = 1) {
  const { list, rates, outlet } = world;
  const { made, chargedTo, fees, taxTo: taxOf, dutyTo: dutyOf, own } = settled(doc, world);
  const order = { outlet, rates, own, items, ownItems: items };
  const to = (destination: string): ((made: MadeCost) => Terms) => {
    const country = countryOf(destination);
    const line = shippingTo(list, country);
    const sum = line && money(line.firstMinor + (items - 1) * line.furtherMinor, list.currency);
    const duty = dutyOf(destination);
    const sending = {
      shipping: shippingCost(sum, outlet.currency, rates),
      ...chargedTo(country, items),
      tax: taxOf(destination),
      fees: duty ? [...fees, duty] : fees,
    };
    return (cost) => termsOf(cost, sending, order);
  };
  return { made: (baseCostMinor: number) => made(baseCostMinor, items), to };
}

/** Everything but the price for one variant and one destination, for an order of `items` of it. Throws `cost-missing` or `rate-missing`. */
export function termsFor(doc: ProductDocument, key: string, world: PricingWorld, country: string, items = 1): Terms {
  const { made, to } = termsMaker(doc, world, items);
  return to(country)(made(baseCostOf(world, key)));
}

/** Countries to which an outlet sells a product: all of its own but those that the seller took out. */
export const sellsTo = (doc: ProductDocument, outlet: Outlet): string[] =>
  outlet.sellsTo.filter((country) => !ownEntry(ownPlan(doc, outlet)?.notTo, country));

/** Countries to which an outlet sells a product and its partner sends it. Throws `cost-missing` where there is none. */
export function destinationsOf(doc: ProductDocument, { blank, list, outlet }: PricingWorld): string[] {
  const sold = sellsTo(doc, outlet);
  const sent = sold.filter((country) => shippingTo(list, country) !== null);
  if (sent.length > 0) return sent;
  const where = outlet.id === null ? 'of your destinations' : `country to which ${outlet.name} sells`;
  throw missing(
    sold.length === 0
      ? `This product is taken out of every country to which ${outlet.name} sells; let it be sold to one of them again.`
      : `${blank.partner.name}’s price list has no shipping to ${outlet.id === null ? 'any ' : 'a '}${where}: ${sold.slice(0, 5).join(', ')}. Choose a blank of a partner that sends there, or name other destinations under Rates and rules.`,
    { countries: sold },
  );
}

/** What makes two destinations differ: shipping, tax and duty. */
function likeness(destination: string, { blank, list, settings = PLAIN_SETTINGS }: PricingWorld): string {
  const line = shippingTo(list, countryOf(destination));
  const tax = taxTo(settings.taxes, destination, {
    taxClass: classOf(settings.goods, blank.kind, countryOf(destination)),
  });
  const duty = dutyTo(settings.duties, blank.shipsFrom, destination);
  return JSON.stringify([line?.firstMinor, line?.furtherMinor, tax, duty]);
}

/** One item of a variant to each destination of an outlet: what does not depend on the variant is settled once. Throws as `termsFor`. */
export function ordersMaker(doc: ProductDocument, world: PricingWorld): (baseCostMinor: number) => TermsTo[] {
  const { settings = PLAIN_SETTINGS } = world;
  const { made, to } = termsMaker(doc, world);
  // States that tax in their own way are destinations of their own.
  const places = destinationsOf(doc, world).flatMap((country) => [country, ...taxedStates(settings.taxes, country)]);
  // Countries to which nothing differs share their terms: there are far fewer regions than countries.
  const kinds: { alike: string; termsOf: (cost: MadeCost) => Terms }[] = [];
  const destinations = places.map((country) => {
    const alike = likeness(country, world);
    let kind = kinds.findIndex((one) => one.alike === alike);
    if (kind < 0) kind = kinds.push({ alike, termsOf: to(country) }) - 1;
    return { country, kind, weight: settings.mix.find((part) => part.country === country)?.weight ?? 0 };
  });
  return (baseCostMinor) => {
    const cost = made(baseCostMinor);
    const terms = kinds.map(({ termsOf }) => termsOf(cost));
    return destinations.map(({ country, kind, weight }) => ({ country, weight, terms: terms[kind]! }));
  };
}
