import { isTypicaError } from '../errors';
import { inOrder } from '../order-key';
import { bundlePricer, companionOf, type Companions, type Parcel } from './bundle';
import { pricer, type PricedVariant } from './pricer';
import { termsFor } from './terms';
import type { PricingWorld } from './plan';
import type { Bundle, ProductDocument } from '../document/document';

type Span = readonly [least: number, most: number];

/** What one bundle comes to at an outlet, over all chosen variants. Sums in minor units of `currency`. */
export interface BundleSums {
  readonly currency: string;
  readonly variants: number;
  readonly price: Span;
  /** What a buyer pays for shipping on top. */
  readonly shippingPaidMinor: number;
  /** What everything in it costs when it is bought one by one, with the shipping of each on top; null where a product in it has no price there. */
  readonly apart: { readonly price: Span; readonly shippingPaidMinor: number } | null;
  /** The destination at which the aim is looked at; what is left, shipping and the parcels are those to it. */
  readonly country: string;
  readonly making: Span;
  readonly shippingMinor: number;
  readonly parcels: readonly Parcel[];
  readonly left: Span;
  /** The lowest price at which the dearest of them loses nothing to any country; null where there is none. */
  readonly floorMinor: number | null;
  readonly floorCountries: readonly string[];
  /** Variants that lose money to a country in it. */
  readonly losing: number;
}

const span = (values: readonly number[]): Span => [Math.min(...values), Math.max(...values)];

/** What everything in a bundle beside the product costs by itself and to send to a country; null where a product has no price there. */
function othersApart(
  bundle: Bundle,
  country: string,
  world: PricingWorld,
  companions: Companions,
): { readonly priceMinor: number; readonly shippingMinor: number } | null {
  let [priceMinor, shippingMinor] = [0, 0];
  try {
    for (const item of Object.values(bundle.items)) {
      const { doc, blank, list } = companionOf(bundle, item, companions);
      const own = { ...world, blank, list };
      priceMinor += item.quantity * pricer(doc, own)(item.variantKey).retailMinor;
      shippingMinor += termsFor(doc, item.variantKey, own, country, item.quantity).shippingChargedMinor;
    }
    return { priceMinor, shippingMinor };
  } catch (error) {
    if (isTypicaError(error)) return null;
    throw error;
  }
}

const worstFloor = (priced: readonly PricedVariant[]): PricedVariant['floor'] =>
  priced
    .map(({ floor }) => floor)
    .reduce((worst, floor) =>
      worst.minor !== null && (floor.minor === null || floor.minor > worst.minor) ? floor : worst,
    );

/** The sums of a bundle with the chosen variants that are named; there is at least one. Throws as `bundlePricer`. */
export function bundleSums(
  doc: ProductDocument,
  bundle: Bundle,
  variantKeys: readonly string[],
  world: PricingWorld,
  companions: Companions,
): BundleSums {
  const { priceOf, parcelsTo } = bundlePricer(doc, bundle, world, companions);
  const priced = variantKeys.map(priceOf);
  const first = priced[0]!;
  const paid = first.terms.shippingChargedMinor;
  const others = othersApart(bundle, first.country, world, companions);
  const alone = pricer(doc, world);
  const floor = worstFloor(priced);
  return {
    currency: world.outlet.currency,
    variants: priced.length,
    price: span(priced.map(({ retailMinor }) => retailMinor)),
    shippingPaidMinor: paid,
    apart: others && {
      price: span(variantKeys.map((key) => alone(key).retailMinor + others.priceMinor)),
      shippingPaidMinor: paid + others.shippingMinor,
    },
    country: first.country,
    making: span(priced.map(({ terms }) => terms.landed.makingMinor)),
    shippingMinor: first.terms.landed.shippingMinor,
    parcels: parcelsTo(first.country.slice(0, 2)),
    left: span(priced.map(({ mix, quote }) => (mix ?? quote).profitMinor)),
    floorMinor: floor.minor,
    floorCountries: floor.countries,
    losing: priced.filter(({ losses }) => losses.length > 0).length,
  };
}

/** A bundle with its sums, or why there are none. */
export interface BundleView {
  readonly id: string;
  readonly sums: BundleSums | null;
  readonly problem: string | null;
}

/** Every bundle of a product at an outlet, in its order. */
export const viewBundles = (doc: ProductDocument, world: PricingWorld, companions: Companions): BundleView[] => {
  const keys = world.blank.variants
    .filter(({ key, ended }) => !ended && Object.hasOwn(doc.variants, key))
    .map(({ key }) => key);
  return inOrder(doc.bundles?.entries ?? {}).map(([id, bundle]) => {
    if (keys.length === 0) return { id, sums: null, problem: 'No color and size is chosen yet.' };
    try {
      return { id, sums: bundleSums(doc, bundle, keys, world, companions), problem: null };
    } catch (error) {
      if (!isTypicaError(error)) throw error;
      return { id, sums: null, problem: error.message };
    }
  });
};
