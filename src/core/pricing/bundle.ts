import { shippingTo, type Blank, type PriceList } from '../catalog/blank';
import { countryName } from '../country-names';
import type { Bundle, BundleItem, ProductDocument } from '../document/document';
import { TypicaError } from '../errors';
import { inOrder } from '../order-key';
import { ownEntry } from '../own-entry';
import { variantName } from '../variants/tiers';
import type { Fee } from './fees';
import type { TermsTo } from './floor';
import type { CostLine, MadeCost } from './landed';
import { money, type Money } from './money';
import type { Outlet } from './outlet';
import { aimIn, roundingFor, type PricingWorld } from './plan';
import { baseCostOf, destinationsOf, settled, termsOf, type Settled } from './terms';
import { priceMaker, type PricedVariant } from './pricer';
import { PLAIN_SETTINGS } from './settings';
import { countryOf, taxedStates, type Tax } from './tax';

/** The choice of a bundle in a variant's key; no blank has an option of this code. */
export const BUNDLE_OPTION = 'sold-with';

/** `color=coal;size=m;sold-with=b1`: a variant in a bundle. By itself a variant keeps its own key. */
export const bundledKey = (variantKey: string, bundleId: string): string =>
  `${variantKey};${BUNDLE_OPTION}=${bundleId}`;

/** The variant and the bundle that a key of a listing stands for; `bundleId` null: the variant by itself. */
export function splitBundled(key: string): { readonly variantKey: string; readonly bundleId: string | null } {
  const at = key.indexOf(`;${BUNDLE_OPTION}=`);
  return at < 0
    ? { variantKey: key, bundleId: null }
    : { variantKey: key.slice(0, at), bundleId: key.slice(at + BUNDLE_OPTION.length + 2) };
}

/** `Coal, M, with a Tide mug`. */
export function offerName(blank: Blank, doc: ProductDocument, key: string): string {
  const { variantKey, bundleId } = splitBundled(key);
  const bundle = bundleId === null ? '' : (ownEntry(doc.bundles?.entries, bundleId)?.name ?? 'a bundle that is gone');
  return [variantName(blank, variantKey), bundle].filter(Boolean).join(', ');
}

/** A product that others are sold with. */
export interface Companion {
  readonly title: string;
  readonly doc: ProductDocument;
  readonly blank: Blank;
  readonly list: PriceList;
}

/** Products that bundles name, by id; what was deleted or is archived is not among them. */
export type Companions = ReadonlyMap<string, Companion>;
export const NO_COMPANIONS: Companions = new Map();

/** One product of a parcel, with what its partner takes. */
interface Part {
  readonly label: string;
  readonly quantity: number;
  readonly world: PricingWorld;
  readonly settled: Settled;
}

const broken = (says: string, fields: Record<string, unknown>) =>
  new TypicaError('invalid', 'bundle-broken', says, fields);

/** The product of an item as it can be made now. Throws `bundle-broken` where it cannot. */
export function companionOf({ name }: Bundle, item: BundleItem, companions: Companions): Companion {
  const companion = companions.get(item.productId);
  const wrong = (what: string) => {
    const title = companion?.title ?? 'a product';
    return broken(`The bundle “${name}” holds ${title}, ${what}. Remove it from the bundle, or put another in.`, {
      bundle: name,
      productId: item.productId,
    });
  };
  if (!companion) throw wrong('which was deleted or is archived');
  const variant = companion.blank.variants.find(({ key }) => key === item.variantKey);
  if (!variant || variant.ended) throw wrong('in a variant that its partner no longer makes');
  if (!ownEntry(companion.doc.variants, item.variantKey))
    throw wrong(`in ${variantName(companion.blank, item.variantKey)}, which is not chosen there`);
  return companion;
}

/** Whether all that a bundle holds beside the product is in stock. Throws `bundle-broken`. */
export const bundleInStock = (bundle: Bundle, companions: Companions): boolean =>
  Object.values(bundle.items).every((item) =>
    companionOf(bundle, item, companions).blank.variants.some(({ key, inStock }) => key === item.variantKey && inStock),
  );

/** What one parcel of a bundle costs to send. */
export interface Parcel {
  readonly partnerName: string;
  /** ISO 3166 alpha-2 of where it comes from. */
  readonly from: string;
  readonly goods: readonly string[];
  readonly shipping: Money;
}

/**
 * The parcels that parts travel in: what one partner sends from one country goes together. The item with the dearest first rate is the first of a
 * parcel, and each other one is charged as a further one (common practice, no source). Null where one of them is not sent there.
 */
function parcelsOf(parts: readonly Part[], country: string): Parcel[] | null {
  const together = new Map<string, Part[]>();
  for (const part of parts) {
    const { partner, shipsFrom } = part.world.blank;
    const key = JSON.stringify([partner.id, shipsFrom, part.world.list.currency]);
    together.set(key, [...(together.get(key) ?? []), part]);
  }
  const parcels: Parcel[] = [];
  for (const inside of together.values()) {
    const lines = inside.map(({ world, quantity }) => ({ line: shippingTo(world.list, country), quantity }));
    let [firstMinor, extraMinor, sum] = [-1, 0, 0];
    for (const { line, quantity } of lines) {
      if (!line) return null;
      sum += quantity * line.furtherMinor;
      // Of items with the same first rate it is the one that costs most as the first.
      const extra = line.firstMinor - line.furtherMinor;
      if (line.firstMinor > firstMinor || (line.firstMinor === firstMinor && extra > extraMinor))
        [firstMinor, extraMinor] = [line.firstMinor, extra];
    }
    const { blank, list } = inside[0]!.world;
    parcels.push({
      partnerName: blank.partner.name,
      from: blank.shipsFrom,
      goods: inside.map(({ label, quantity }) => (quantity === 1 ? label : `${quantity} × ${label}`)),
      shipping: money(sum + extraMinor, list.currency),
    });
  }
  return parcels;
}

/** Parcels as one line of a landed cost: each is converted and rounded by itself. */
function shippingLine(parcels: readonly Parcel[], currency: string, { rates }: PricingWorld): CostLine {
  const amounts = parcels.map(({ shipping }) => rates.convertCost(shipping, currency).amountMinor);
  const amountMinor = amounts.reduce((sum, amount) => sum + amount, 0);
  const alone = parcels.length === 1;
  return {
    id: 'shipping',
    label: alone ? 'Partner’s shipping' : `Shipping of ${parcels.length} parcels`,
    kind: 'shipping',
    original: alone ? parcels[0]!.shipping : money(amountMinor, currency),
    amountMinor,
  };
}

/** Lines of several products under one another, each named by its product. */
function madeTogether(
  made: readonly { readonly label: string; readonly cost: MadeCost }[],
  currency: string,
): MadeCost {
  return {
    currency,
    lines: made.flatMap(({ label, cost }, i) =>
      cost.lines.map((line) => ({ ...line, id: `${i}/${line.id}`, label: `${label}: ${line.label}` })),
    ),
    makingMinor: made.reduce((sum, { cost }) => sum + cost.makingMinor, 0),
  };
}

const dearest = <T extends { readonly ratePpm: number }>(all: readonly T[]): T | null =>
  all.reduce<T | null>((worst, one) => (worst && worst.ratePpm >= one.ratePpm ? worst : one), null);

/**
 * The tax and the fees to a destination. A parcel whose goods are taxed differently is taxed as the good with the highest rate, and duty is counted as of
 * the part with the highest: never less than will be paid.
 */
function chargedTo(parts: readonly Part[], destination: string): { tax: Tax | null; fees: readonly Fee[] } {
  const duties = parts.flatMap(({ settled: { dutyTo } }) => dutyTo(destination) ?? []);
  const duty = dearest(duties);
  const { fees } = parts[0]!.settled;
  return {
    tax: dearest(parts.flatMap(({ settled: { taxTo } }) => taxTo(destination) ?? [])),
    fees: duty ? [...fees, duty] : fees,
  };
}

/** One bundle of each variant, priced at an outlet. */
export interface BundlePricer {
  readonly bundle: Bundle;
  readonly priceOf: (variantKey: string) => PricedVariant;
  /** The parcels that it travels in to a country. */
  readonly parcelsTo: (country: string) => readonly Parcel[];
}

/**
 * Prices a bundle with the variants of its product: making of everything in it, and the real shipping of its parcels, to every destination of the
 * product; the shop takes it as one item and charges the product's own shipping. Throws `bundle-broken`, and what `pricer` throws.
 */
export function bundlePricer(
  doc: ProductDocument,
  bundle: Bundle,
  world: PricingWorld,
  companions: Companions,
): BundlePricer {
  const { outlet, rates, settings = PLAIN_SETTINGS } = world;
  const { currency } = outlet;
  const items = inOrder(bundle.items).map(([, item]) => ({ item, companion: companionOf(bundle, item, companions) }));
  if (items.length === 0)
    throw broken(
      `The bundle “${bundle.name}” holds nothing beside the product; put another product in, or delete it.`,
      {
        bundle: bundle.name,
      },
    );
  const lead: Part = { label: doc.words.base.title, quantity: 1, world, settled: settled(doc, world) };
  const others = items.map(({ item, companion }): Part & { made: MadeCost } => {
    const own = { ...world, blank: companion.blank, list: companion.list };
    const of = settled(companion.doc, own);
    const made = of.made(baseCostOf(own, item.variantKey), item.quantity);
    return { label: companion.title, quantity: item.quantity, world: own, settled: of, made };
  });
  const parts: Part[] = [lead, ...others];
  const count = parts.reduce((sum, { quantity }) => sum + quantity, 0);
  const parcelsTo = (country: string): Parcel[] => {
    const parcels = parcelsOf(parts, country);
    if (parcels) return parcels;
    const unsent = parts.find((part) => shippingTo(part.world.list, country) === null)!;
    throw broken(
      `The bundle “${bundle.name}” cannot be sent to ${countryName(country)}: ${unsent.world.blank.partner.name} does not send ${unsent.label} there. Do not sell the product there, or take ${unsent.label} out of the bundle.`,
      { bundle: bundle.name, country },
    );
  };
  const places = destinationsOf(doc, world).flatMap((country) => [country, ...taxedStates(settings.taxes, country)]);
  const destinations = places.map((country) => {
    const sending = {
      shipping: shippingLine(parcelsTo(countryOf(country)), currency, world),
      ...lead.settled.chargedTo(countryOf(country)),
      ...chargedTo(parts, country),
    };
    const weight = settings.mix.find((part) => part.country === country)?.weight ?? 0;
    return { country, weight, sending };
  });
  const ordersOf = (baseCostMinor: number): TermsTo[] => {
    const made = madeTogether(
      [
        { label: lead.label, cost: lead.settled.made(baseCostMinor, 1) },
        ...others.map(({ label, made: cost }) => ({ label, cost })),
      ],
      currency,
    );
    return destinations.map(({ country, weight, sending }) => ({
      country,
      weight,
      terms: termsOf(made, sending, { outlet, rates, items: 1, ownItems: count, own: lead.settled.own }),
    }));
  };
  const aim = aimOfBundle(doc, bundle, outlet, world);
  const price = priceMaker(ordersOf, outlet, roundingFor(doc, world));
  return {
    bundle,
    parcelsTo,
    priceOf: (key) => ({
      key,
      aim,
      follows: false,
      own: ownEntry(bundle.stores, outlet.id ?? '') !== undefined,
      ...price(baseCostOf(world, key), aim),
    }),
  };
}

const aimOfBundle = (doc: ProductDocument, bundle: Bundle, outlet: Outlet, { rates }: PricingWorld) =>
  (outlet.id === null ? undefined : ownEntry(bundle.stores, outlet.id)) ??
  aimIn(bundle.aim, doc.price.currency, outlet.currency, rates);

/** Every bundle of a product at an outlet, in its order. Throws as `bundlePricer`. */
export const bundlePricers = (
  doc: ProductDocument,
  world: PricingWorld,
  companions: Companions,
): [string, BundlePricer][] =>
  inOrder(doc.bundles?.entries ?? {}).map(([id, bundle]) => [id, bundlePricer(doc, bundle, world, companions)]);
