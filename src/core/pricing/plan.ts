import type { Blank, PriceList } from '../catalog/blank';
import type { PricePlan, ProductDocument, StorePlan } from '../document/document';
import { ownEntry } from '../own-entry';
import { money } from './money';
import type { Outlet } from './outlet';
import type { RateTable } from './rates';
import { planOver } from './store-rule';
import type { Rounding } from './rounding';
import type { MoneySettings } from './settings';
import type { Aim } from './solve';

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

type Place = Pick<Outlet, 'id' | 'rule'> | null;

/** The plan in force at an outlet, null for no store: the base, with the store's rule and the product's own parts there over it. */
export function planFor(doc: ProductDocument, outlet: Place): PricePlan {
  const own = ownPlan(doc, outlet);
  return { ...doc.price.base, ...own, variants: own?.variants ?? {} };
}

/** What a product's prices are made by in a store other than by the base: by the store's rule, or by what it has of its own there. */
export const ownPlan = (doc: ProductDocument, outlet: Place): StorePlan | undefined =>
  outlet?.id ? planOver(outlet.rule, ownEntry(doc.price.stores, outlet.id)) : undefined;

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
  const plan = planFor(doc, outlet);
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
