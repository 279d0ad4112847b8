import { shippingTo, type Blank, type PriceList } from '../catalog/blank';
import { usedAreas, type PricePlan, type ProductDocument, type StorePlan } from '../document/document';
import { TypicaError } from '../errors';
import { TECHNIQUE_NAMES } from '../geometry/area';
import { ownEntry } from '../own-entry';
import { quoteMix, type MixQuote } from './everywhere';
import { floorOver, lossesAt, mixOf, type Floor, type Loss, type TermsTo } from './floor';
import type { Fee } from './fees';
import { landedOf, madeCost, shippingCost, type Charge, type CostLine, type MadeCost } from './landed';
import { money, mulDiv, PPM } from './money';
import { dutyFee, dutyTo, hasOwnCosts, ownFees, type OwnCosts } from './own-costs';
import { baseOutlet, type AimsAt, type Outlet } from './outlet';
import { profitMinor, quote, type Quote, type Terms } from './quote';
import type { RateTable } from './rates';
import { priceFor, rounded, type Rounding } from './rounding';
import { PLAIN_SETTINGS, type MoneySettings } from './settings';
import type { Aim, Goal } from './solve';
import { classOf, countryOf, taxedStates, taxTo, type Tax } from './tax';
import { toldShipping } from './told-shipping';

/** What pricing needs beside the document. */
export interface PricingWorld {
  readonly blank: Blank;
  readonly list: PriceList;
  readonly rates: RateTable;
  readonly outlet: Outlet;
  /** Discounts, taxes and where the seller sells; none when absent. */
  readonly settings?: MoneySettings;
  /** The workspace's own country, ISO 3166 alpha-2; the outlet's first destination when absent. */
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
  return aimIn(
    ownEntry(doc.price.base.variants, key) ?? doc.price.base.aim,
    doc.price.currency,
    outlet.currency,
    rates,
  );
}

/** An aim in another currency: its sum is converted at the rate of the day. */
export const aimIn = (aim: Aim, from: string, to: string, rates: RateTable): Aim =>
  aim.kind === 'margin' || aim.kind === 'markup'
    ? aim
    : { kind: aim.kind, amountMinor: rates.convert(money(aim.amountMinor, from), to).amountMinor };

/** How prices end at an outlet, and between which they are held. Sums of the base are in its currency. */
export function roundingFor(doc: ProductDocument, { outlet, rates, settings }: PricingWorld): Rounding {
  const plan = planFor(doc, outlet.id);
  const own = ownPlan(doc, outlet);
  const bound = (name: 'leastMinor' | 'mostMinor'): number | undefined => {
    if (own?.[name] !== undefined) return own[name] ?? undefined;
    const sum = plan[name];
    return sum == null ? undefined : rates.convert(money(sum, doc.price.currency), outlet.currency).amountMinor;
  };
  return {
    ending: plan.ending,
    way: plan.way ?? 'up',
    ladder: ownEntry(settings?.ladders, outlet.currency),
    leastMinor: bound('leastMinor'),
    mostMinor: bound('mostMinor'),
  };
}

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
  const code = planFor(doc, outlet.id).insert;
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
  readonly taxTo: (destination: string) => Tax | null;
  readonly dutyTo: (destination: string) => Fee | null;
  readonly own: OwnCosts | null;
}

export function settled(doc: ProductDocument, world: PricingWorld): Settled {
  const { blank, list, rates, outlet, settings = PLAIN_SETTINGS } = world;
  const { currency } = outlet;
  const { shipping, freeFromMinor: planned = null } = planFor(doc, outlet.id);
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
      const told = shipping === 'charged' ? toldShipping(list, country, currency, rates) : null;
      return {
        shippingChargedMinor: told ? told.firstMinor + (items - 1) * told.furtherMinor : 0,
        freeFromMinor: shipping === 'charged' ? freeFromMinor : null,
      };
    },
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
  const { made, chargedTo, taxTo: taxOf, dutyTo: dutyOf, own } = settled(doc, world);
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
      fees: duty ? [...outlet.fees, duty] : outlet.fees,
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

/** A variant's price at an outlet with the whole sum behind it. */
export interface PricedVariant {
  readonly key: string;
  readonly aim: Aim;
  /** Whether the aim is the store's own, not the base's. */
  readonly own: boolean;
  /** Whether it is the base's price with the store's difference. */
  readonly follows: boolean;
  readonly retailMinor: number;
  /** Whether the seller's least or most price holds it. */
  readonly held: 'least' | 'most' | null;
  /** One item to each destination. */
  readonly to: readonly TermsTo[];
  /** The destination at which the aim is looked at: the first, or whichever leaves least. */
  readonly country: string;
  /** Terms and quote of one item there. */
  readonly terms: Terms;
  readonly quote: Quote;
  /** What is left on the whole where the seller sells; null where the outlet does not aim at that. */
  readonly mix: MixQuote | null;
  readonly floor: Floor;
  /** Destinations to which it is sold at a loss. */
  readonly losses: readonly Loss[];
}

/** Whether a price loses money to any destination. */
export const losesMoney = ({ losses }: Pick<PricedVariant, 'losses'>): boolean => losses.length > 0;

/** What a price has to meet, and where one looks at it. */
export function goalsOf(aimsAt: AimsAt, to: readonly TermsTo[]): Goal[] {
  const alone = ({ terms }: TermsTo): Goal => [{ terms, weight: 1 }];
  if (aimsAt === 'worst') return to.map(alone);
  const mix = aimsAt === 'mix' ? mixOf(to) : [];
  return [mix.length > 0 ? mix : alone(to[0]!)];
}

/** The destination that leaves least at a price. */
export const worstAt = (to: readonly TermsTo[], retailMinor: number): TermsTo =>
  to
    .map((one) => ({ one, left: profitMinor(one.terms, retailMinor) }))
    .reduce((worst, next) => (next.left < worst.left ? next : worst)).one;

type Priced = Omit<PricedVariant, 'key' | 'aim' | 'own' | 'follows'>;

/** Prices by base cost and aim: variants that share both share all of it. `ordersOf` gives one order to each destination by base cost. */
export function priceMaker(
  ordersOf: (baseCostMinor: number) => TermsTo[],
  outlet: Outlet,
  rounding: Rounding,
): (baseCostMinor: number, aim: Aim) => Priced {
  const costs = new Map<number, { to: TermsTo[]; floor: Floor }>();
  const known = new Map<string, Map<number, Priced>>();
  const costed = (base: number) => {
    let cost = costs.get(base);
    if (cost) return cost;
    const to = ordersOf(base);
    cost = { to, floor: floorOver(to) };
    costs.set(base, cost);
    return cost;
  };
  return (base, aim) => {
    const name = `${aim.kind}${'ppm' in aim ? aim.ppm : aim.amountMinor}`;
    let byCost = known.get(name);
    if (!byCost) known.set(name, (byCost = new Map()));
    const before = byCost.get(base);
    if (before) return before;
    const { to, floor } = costed(base);
    const goals = goalsOf(outlet.aimsAt, to);
    const { priceMinor, held } = priceFor(goals, aim, rounding, outlet.currency);
    const { country, terms } = outlet.aimsAt === 'worst' ? worstAt(to, priceMinor) : to[0]!;
    const mix = outlet.aimsAt === 'mix' ? mixOf(to) : [];
    const made: Priced = {
      retailMinor: priceMinor,
      held,
      to,
      country,
      terms,
      quote: quote(terms, priceMinor),
      mix: mix.length > 0 ? quoteMix(mix, priceMinor) : null,
      floor,
      losses: lossesAt(to, priceMinor),
    };
    byCost.set(base, made);
    return made;
  };
}

/** Prices the variants of a product at an outlet, one after the other: what they share is settled once. */
export function pricer(doc: ProductDocument, world: PricingWorld): (key: string) => PricedVariant {
  const { outlet, rates, settings } = world;
  const own = ownPlan(doc, outlet);
  const rounding = roundingFor(doc, world);
  const price = priceMaker(ordersMaker(doc, world), outlet, rounding);
  const followsPpm = own?.aim ? undefined : own?.differencePpm;
  const base =
    followsPpm === undefined
      ? null
      : pricer(doc, { ...world, outlet: baseOutlet(doc.price.currency, world.home ?? outlet.sellsTo[0]!, settings) });
  const aimOf = (key: string): { aim: Aim; follows: boolean } => {
    if (base === null || ownEntry(own?.variants, key)) return { aim: aimFor(doc, outlet, key, rates), follows: false };
    const here = rates.convert(money(base(key).retailMinor, doc.price.currency), outlet.currency).amountMinor;
    const amountMinor = rounded(mulDiv(here, PPM + followsPpm!, PPM), rounding, outlet.currency);
    return { aim: { kind: 'retail', amountMinor }, follows: true };
  };
  return (key) => {
    const baseCostMinor = baseCostOf(world, key);
    const { aim, follows } = aimOf(key);
    return { key, aim, follows, own: Boolean(ownEntry(own?.variants, key) ?? own?.aim), ...price(baseCostMinor, aim) };
  };
}

/** Prices one variant. Throws what `termsFor` and `priceFor` throw. */
export const priceVariant = (doc: ProductDocument, key: string, world: PricingWorld): PricedVariant =>
  pricer(doc, world)(key);
