import { money, mulDiv, PPM, type Money } from './money';
import type { RateTable } from './rates';

/** One line of what making and sending costs: in the partner's currency, and converted to the store's. A discount is below 0. */
export interface CostLine {
  readonly id: string;
  readonly label: string;
  readonly kind: 'making' | 'shipping';
  readonly original: Money;
  readonly amountMinor: number;
}

/** Something that costs beside the base: an area, a technique, a buyer's personalization (each item), an insert (once an order). */
export interface Charge {
  readonly id: string;
  readonly label: string;
  readonly cost: Money;
  readonly per?: 'item' | 'order';
}

export interface LandedCostInput {
  /** For one item; all costs are in one currency. */
  readonly baseCost: Money;
  readonly charges: readonly Charge[];
  /** What the partner takes off all making, parts per million. */
  readonly discountPpm?: number;
  /** Same items in the parcel; 1 when absent. */
  readonly items?: number;
  /** What the partner takes for sending the whole parcel to the destination; null when it does not send there. */
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

/** What a partner takes off, in minor units of its currency: round½(making × discount). */
export const discountMinor = (makingMinor: number, discountPpm: number): number =>
  discountPpm === 0 ? 0 : mulDiv(makingMinor, discountPpm, PPM);

/**
 * Landed cost in `currency`: base cost + charges − discount + the partner's shipping, for all items of a parcel. Each line is converted by
 * itself at the cost rate (with its safety margin) and rounded half up once, so that the lines sum to the total to the cent.
 */
export function landedCost(input: LandedCostInput, currency: string, rates: RateTable): LandedCost {
  const { baseCost, charges, discountPpm = 0, items = 1, shipping } = input;
  const lines: CostLine[] = [];
  let [makingMinor, madeMinor] = [0, 0];
  const add = (id: string, label: string, original: Money) => {
    const amountMinor = rates.convertCost(original, currency).amountMinor;
    lines.push({ id, label, kind: 'making', original, amountMinor });
    makingMinor += amountMinor;
    madeMinor += original.amountMinor;
  };
  const times = (sum: Money, n: number) => (n === 1 ? sum : money(sum.amountMinor * n, sum.currency));
  add('base', 'Base cost', times(baseCost, items));
  for (const charge of charges) add(charge.id, charge.label, times(charge.cost, charge.per === 'order' ? 1 : items));
  if (discountPpm !== 0)
    add(
      'discount',
      `Partner’s discount, ${discountPpm / 10_000} %`,
      money(-discountMinor(madeMinor, discountPpm), baseCost.currency),
    );
  let shippingMinor = 0;
  if (shipping) {
    shippingMinor = rates.convertCost(shipping, currency).amountMinor;
    lines.push({
      id: 'shipping',
      label: 'Partner’s shipping',
      kind: 'shipping',
      original: shipping,
      amountMinor: shippingMinor,
    });
  }
  return {
    currency,
    lines,
    makingMinor,
    shippingMinor,
    totalMinor: makingMinor + shippingMinor,
    shipsThere: shipping !== null,
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
 * Landed cost of `items` same items in one parcel: items × making − discount + first + (items − 1) × further. Making and shipping are summed
 * in the partner's currency and converted once each. Throws `rate-missing`.
 */
export function parcelCost(
  parcel: {
    readonly making: Money;
    readonly discountPpm?: number;
    readonly shipping: { readonly firstMinor: number; readonly furtherMinor: number };
    readonly items: number;
  },
  currency: string,
  rates: RateTable,
): ParcelCost {
  const { making, shipping, items, discountPpm = 0 } = parcel;
  const convert = (amountMinor: number) => rates.convertCost(money(amountMinor, making.currency), currency).amountMinor;
  const made = making.amountMinor * items;
  const makingMinor = convert(made - discountMinor(made, discountPpm));
  const shippingMinor = convert(shipping.firstMinor + (items - 1) * shipping.furtherMinor);
  const totalMinor = makingMinor + shippingMinor;
  return { makingMinor, shippingMinor, totalMinor, eachMinor: mulDiv(totalMinor, 1, items) };
}
