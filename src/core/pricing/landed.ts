import { money, mulDiv, type Money } from './money';
import type { RateTable } from './rates';

/** One line of what making and sending costs: in the partner's currency, and converted to the store's. */
export interface CostLine {
  readonly id: string;
  readonly label: string;
  readonly kind: 'making' | 'shipping';
  readonly original: Money;
  readonly amountMinor: number;
}

export interface LandedCostInput {
  readonly baseCost: Money;
  /** Further areas and techniques that are charged by themselves. */
  readonly charges: readonly { readonly id: string; readonly label: string; readonly cost: Money }[];
  /** What the partner takes for sending one item to the destination; null when it does not send there. */
  readonly shipping: Money | null;
}

export interface LandedCost {
  readonly currency: string;
  readonly lines: readonly CostLine[];
  readonly makingMinor: number;
  readonly shippingMinor: number;
  readonly totalMinor: number;
  readonly shipsThere: boolean;
}

/**
 * Landed cost in `currency`: base cost + charges + the partner's shipping, each converted by itself and rounded half up once, so
 * that the lines sum to the total to the cent.
 */
export function landedCost(input: LandedCostInput, currency: string, rates: RateTable): LandedCost {
  const line = (id: string, label: string, kind: CostLine['kind'], original: Money): CostLine => ({
    id,
    label,
    kind,
    original,
    amountMinor: rates.convert(original, currency).amountMinor,
  });
  const lines = [
    line('base', 'Base cost', 'making', input.baseCost),
    ...input.charges.map((charge) => line(charge.id, charge.label, 'making', charge.cost)),
    ...(input.shipping ? [line('shipping', 'Partner’s shipping', 'shipping', input.shipping)] : []),
  ];
  const sum = (kind: CostLine['kind']) =>
    lines.filter((l) => l.kind === kind).reduce((total, l) => total + l.amountMinor, 0);
  const makingMinor = sum('making');
  const shippingMinor = sum('shipping');
  return {
    currency,
    lines,
    makingMinor,
    shippingMinor,
    totalMinor: makingMinor + shippingMinor,
    shipsThere: input.shipping !== null,
  };
}

/** What a parcel of several same items costs at the buyer's door, in minor units of one currency. */
export interface ParcelCost {
  readonly makingMinor: number;
  readonly shippingMinor: number;
  readonly totalMinor: number;
  /** The total shared among the items, rounded half up. */
  readonly eachMinor: number;
}

/**
 * Landed cost of `items` same items in one parcel: items × making + first + (items − 1) × further. Making and shipping are summed in the
 * partner's currency and converted once each, so that one item gives what `landedCost` gives. Throws `rate-missing`.
 */
export function parcelCost(
  parcel: {
    readonly making: Money;
    readonly shipping: { readonly firstMinor: number; readonly furtherMinor: number };
    readonly items: number;
  },
  currency: string,
  rates: RateTable,
): ParcelCost {
  const { making, shipping, items } = parcel;
  const convert = (amountMinor: number) => rates.convert(money(amountMinor, making.currency), currency).amountMinor;
  const makingMinor = convert(making.amountMinor * items);
  const shippingMinor = convert(shipping.firstMinor + (items - 1) * shipping.furtherMinor);
  const totalMinor = makingMinor + shippingMinor;
  return { makingMinor, shippingMinor, totalMinor, eachMinor: mulDiv(totalMinor, 1, items) };
}
