import type { Blank, PriceList } from '@/core/catalog/blank';
import type { ProductDocument } from '@/core/document/document';
import { isTypicaError } from '@/core/errors';
import { formatAmount, formatPercent, money } from '@/core/pricing/money';
import { countryName } from '@/core/country-names';
import { andMore } from '@/core/words/and-more';
import type { Floor } from '@/core/pricing/floor';
import { baseOutlet, type Outlet } from '@/core/pricing/outlet';
import { losesMoney, pricer, type PricedVariant } from '@/core/pricing/pricer';
import type { PricingWorld } from '@/core/pricing/plan';
import type { Aim } from '@/core/pricing/solve';
import { tiersOf, variantName, type Tier } from '@/core/variants/tiers';

export type PriceWorld = PricingWorld;

export interface Priced {
  readonly priced: readonly PricedVariant[];
  /** Why variants could not be priced, and how many; null when all could. */
  readonly problem: string | null;
  readonly unpriced: number;
}

/** All chosen variants priced; those that cannot be come with the reason. */
export function priceAll(doc: ProductDocument, world: PriceWorld): Priced {
  const priced: PricedVariant[] = [];
  let [problem, unpriced]: [string | null, number] = [null, 0];
  let price: ((key: string) => PricedVariant) | null = null;
  for (const variant of world.blank.variants) {
    if (!Object.hasOwn(doc.variants, variant.key)) continue;
    try {
      price ??= pricer(doc, world);
      priced.push(price(variant.key));
    } catch (error) {
      if (!isTypicaError(error)) throw error;
      problem ??= error.message;
      unpriced += 1;
    }
  }
  return { priced, problem, unpriced };
}

/** Prices at one outlet, with the world that they were made in. */
export interface PricesAt extends Priced {
  readonly world: PriceWorld;
}

/** Prices of a product by store, each worked out when it is first asked for. */
export function priceBook(
  doc: ProductDocument,
  shared: Omit<PriceWorld, 'outlet' | 'home'> & {
    readonly home: { readonly currency: string; readonly country: string };
  },
): (store: Outlet | null) => PricesAt {
  const kept = new Map<string | null, PricesAt>();
  const { home, ...rest } = shared;
  return (store) => {
    const id = store?.id ?? null;
    const known = kept.get(id);
    if (known) return known;
    const outlet = store ?? baseOutlet(home.currency, home.country, shared.settings);
    const world = { ...rest, outlet, home: home.country };
    const made = { world, ...priceAll(doc, world) };
    kept.set(id, made);
    return made;
  };
}

/** One line of the table: a tier, or one variant of it. */
export interface PriceRow {
  readonly id: string;
  readonly name: string;
  readonly note: string;
  readonly variantKeys: readonly string[];
  readonly cost: string;
  /** What the landed cost is of: `13.40 + 4.50`, making and shipping. */
  readonly costParts: string;
  readonly retail: string;
  readonly profit: string;
  readonly margin: string;
  readonly markup: string;
  readonly floor: string;
  /** Why the floor is where it is; empty where there is one destination. */
  readonly floorWhy: string;
  /** The countries that decide it, by their codes: `US, CA`. */
  readonly floorTo: string;
  /** How many of its variants lose money at their price, and the first destination to which they do. */
  readonly losing: number;
  readonly losingTo: string | null;
  /** Whether the seller's least or most price holds it. */
  readonly held: PricedVariant['held'];
  /** Whether its variants have different prices. */
  readonly mixed: boolean;
  /** What the seller fixed, in words. */
  readonly fixed: string;
  readonly aim: Aim;
}

/** The destinations that decide a floor, in words: `because of Canada and 1 more`; empty where there is one destination. */
export const floorBecause = ({ countries }: Pick<Floor, 'countries'>): string =>
  countries.length > 0 ? `because of ${andMore(countries.map(countryName), 1)}` : '';

/** What decides a floor, and what it would be otherwise: `because of Canada; 11.47 without it; 14.20 on your mix`. */
export function floorWhy(floor: Floor, currency: string): string {
  const amount = (sum: number | null) => (sum === null ? 'none' : formatAmount(money(sum, currency)));
  const { countries, withoutMinor, mixMinor } = floor;
  const without = `${amount(withoutMinor)} without ${countries.length > 1 ? 'them' : 'it'}`;
  return [
    ...(countries.length > 0 ? [floorBecause(floor), without] : []),
    ...(mixMinor === null ? [] : [`${amount(mixMinor)} on your mix`]),
  ].join('; ');
}

/** What is fixed, in words. */
export function aimText(aim: Aim, currency: string): string {
  switch (aim.kind) {
    case 'margin':
      return `margin ${formatPercent(aim.ppm)}`;
    case 'markup':
      return `markup ${formatPercent(aim.ppm)}`;
    default:
      return `${aim.kind === 'retail' ? 'price' : 'profit'} ${formatAmount(money(aim.amountMinor, currency))}`;
  }
}

function rowOf(id: string, name: string, note: string, entries: readonly PricedVariant[]): PriceRow {
  const first = entries[0]!;
  const { quote: q, floor, aim, terms, follows, retailMinor, mix, held } = first;
  const amount = (minor: number) => formatAmount(money(minor, terms.currency));
  const share = (ppm: number | null) => (ppm === null ? '–' : formatPercent(ppm));
  const kinds = new Set(entries.map((entry) => JSON.stringify(entry.aim)));
  return {
    id,
    name,
    note,
    variantKeys: entries.map((entry) => entry.key),
    cost: amount(terms.landed.totalMinor),
    costParts: `${amount(terms.landed.makingMinor)} + ${amount(terms.landed.shippingMinor)}`,
    retail: amount(retailMinor),
    profit: amount((mix ?? q).profitMinor),
    margin: share((mix ?? q).marginPpm),
    markup: share((mix ?? q).markupPpm),
    floor: floor.minor === null ? 'none' : amount(floor.minor),
    floorWhy: floorWhy(floor, terms.currency),
    floorTo: floor.countries.slice(0, 3).join(', ') + (floor.countries.length > 3 ? ' …' : ''),
    losing: entries.filter(losesMoney).length,
    losingTo: entries.find(losesMoney)?.losses[0]!.country ?? null,
    held,
    mixed: new Set(entries.map((entry) => entry.retailMinor)).size > 1,
    fixed: kinds.size > 1 ? 'differs' : follows ? 'follows' : aimText(aim, terms.currency),
    aim,
  };
}

export interface TierRow extends PriceRow {
  readonly tier: Tier;
  /** Its single variants; empty where it has one. */
  readonly variants: readonly PriceRow[];
}

/** Price rows by tier, in the outlet's currency; each can be opened to its variants. */
export function tierRows(
  doc: ProductDocument,
  blank: Blank,
  list: PriceList,
  priced: readonly PricedVariant[],
): TierRow[] {
  const byKey = new Map(priced.map((p) => [p.key, p]));
  return tiersOf(blank, list, doc.variants).flatMap((tier) => {
    const entries = tier.variantKeys.flatMap((key) => byKey.get(key) ?? []);
    if (entries.length === 0) return [];
    const single = entries.length === 1;
    return [
      {
        ...rowOf(
          String(tier.costMinor),
          tier.name,
          single ? variantName(blank, entries[0]!.key) : `${entries.length} variants`,
          entries,
        ),
        tier,
        variants: single ? [] : entries.map((entry) => rowOf(entry.key, variantName(blank, entry.key), '', [entry])),
      },
    ];
  });
}

/** An amount as it is shown, one unit (of the currency's whole ones) up or down, as typed text. */
export function stepped(text: string, by: number): string {
  const [whole = '0', decimals] = text.replace('−', '-').split('.');
  const scale = 10 ** (decimals?.length ?? 0);
  const minor = Math.max(0, Math.round((Number(whole) + Number(`0.${decimals ?? '0'}`) + by) * scale));
  const digits = String(minor).padStart((decimals?.length ?? 0) + 1, '0');
  return decimals === undefined ? digits : `${digits.slice(0, -decimals.length)}.${digits.slice(-decimals.length)}`;
}
