import { aimFor, ownPlan, roundingFor, type PricingWorld } from './plan';
import { baseCostOf, ordersMaker } from './terms';
import type { ProductDocument } from '../document/document';
import { ownEntry } from '../own-entry';
import { quoteMix, type MixQuote } from './everywhere';
import { floorOver, lossesAt, mixOf, type Floor, type Loss, type TermsTo } from './floor';
import { money, mulDiv, PPM } from './money';
import { baseOutlet, type AimsAt, type Outlet } from './outlet';
import { profitMinor, quote, type Quote, type Terms } from './quote';
import { priceFor, rounded, type Rounding } from './rounding';
import type { Aim, Goal } from './solve';

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
