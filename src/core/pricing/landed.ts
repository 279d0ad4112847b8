import { ownEntry } from '../own-entry';
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
  readonly making: readonly CostLine[];
  /** Null where the partner does not send. */
  readonly shipping: CostLine | null;
  readonly makingMinor: number;
  readonly shippingMinor: number;
  readonly totalMinor: number;
  readonly shipsThere: boolean;
}

/** What a partner takes off, in minor units of its currency: round½(making × discount). */
export const discountMinor = (makingMinor: number, discountPpm: number): number =>
  discountPpm === 0 ? 0 : mulDiv(makingMinor, discountPpm, PPM);

/** What making costs, in `currency`: the part of a landed cost that is the same to every destination. */
export interface MadeCost {
  readonly currency: string;
  readonly lines: readonly CostLine[];
  readonly makingMinor: number;
}

const times = (sum: Money, n: number): Money => (n === 1 ? sum : money(sum.amountMinor * n, sum.currency));

/** A line of cost, converted at the cost rate. */
function costLine(
  about: Pick<CostLine, 'id' | 'label' | 'kind'>,
  original: Money,
  currency: string,
  rates: RateTable,
): CostLine {
  const { amountMinor } = rates.convertCost(original, currency);
  return { id: about.id, label: about.label, kind: about.kind, original, amountMinor };
}

const BASE = { id: 'base', label: 'Base cost', kind: 'making' } as const;

/** Base cost + charges − discount for all items of a parcel; see `landedCost`. */
export function madeCost(
  { baseCost, charges, discountPpm = 0, items = 1 }: Omit<LandedCostInput, 'shipping'>,
  currency: string,
  rates: RateTable,
): MadeCost {
  const lines = [costLine(BASE, times(baseCost, items), currency, rates)];
  for (const charge of charges) {
    const sum = times(charge.cost, charge.per === 'order' ? 1 : items);
    lines.push(costLine({ id: charge.id, label: charge.label, kind: 'making' }, sum, currency, rates));
  }
  if (discountPpm !== 0) {
    const made = lines.reduce((sum, { original }) => sum + original.amountMinor, 0);
    const about = {
      id: 'discount',
      label: `Partner’s discount, ${discountPpm / 10_000} %`,
      kind: 'making',
    } as const;
    lines.push(costLine(about, money(-discountMinor(made, discountPpm), baseCost.currency), currency, rates));
  }
  let makingMinor = 0;
  for (const line of lines) makingMinor += line.amountMinor;
  return { currency, lines, makingMinor };
}

const SHIPPING = { id: 'shipping', label: 'Partner’s shipping', kind: 'shipping' } as const;

/** The line of shipping; null where the partner does not send. */
export const shippingCost = (shipping: Money | null, currency: string, rates: RateTable): CostLine | null =>
  shipping && costLine(SHIPPING, shipping, currency, rates);

/** Every line of a landed cost, making before shipping. */
export const landedLines = ({ making, shipping }: LandedCost): readonly CostLine[] =>
  shipping ? [...making, shipping] : making;

/** Making and shipping together. */
export function landedOf({ currency, lines, makingMinor }: MadeCost, shipping: CostLine | null): LandedCost {
  const shippingMinor = shipping?.amountMinor ?? 0;
  return {
    currency,
    making: lines,
    shipping,
    makingMinor,
    shippingMinor,
    totalMinor: makingMinor + shippingMinor,
    shipsThere: shipping !== null,
  };
}

/**
 * Landed cost in `currency`: base cost + charges − discount + the partner's shipping, for all items of a parcel. Each line is converted by
 * itself at the cost rate (with its safety margin) and rounded half up once, so that the lines sum to the total to the cent.
 */
export const landedCost = (input: LandedCostInput, currency: string, rates: RateTable): LandedCost =>
  landedOf(madeCost(input, currency, rates), shippingCost(input.shipping, currency, rates));

/** The least that a parcel of several same items costs at the buyer's door, in minor units of one currency. */
export interface ParcelCost {
  readonly makingMinor: number;
  readonly shippingMinor: number;
  readonly totalMinor: number;
  /** The total shared among the items, rounded half up. */
  readonly eachMinor: number;
}

/** What of a price list decides the least cost of making. Minor units of its currency. */
export interface LeastMaking {
  readonly currency: string;
  readonly baseMinor: number;
  /** The least that printing one area costs beside the base. */
  readonly printMinor: number;
  readonly discountPpm: number;
}

/** What has to be paid for printing one area, at the least: something is printed on every product. 0 for a blank without areas. */
export const leastPrintMinor = (
  areaKeys: readonly string[],
  techniqueMinor: Readonly<Record<string, number>>,
): number => (areaKeys.length === 0 ? 0 : Math.min(...areaKeys.map((key) => ownEntry(techniqueMinor, key) ?? 0)));

/** Making `items` same items with one area printed: line by line as in `landedCost`. Throws `rate-missing`. */
export function leastMaking(
  { currency, baseMinor, printMinor, discountPpm }: LeastMaking,
  items: number,
  to: string,
  rates: RateTable,
): number {
  const convert = (amountMinor: number) => rates.convertCost(money(amountMinor, currency), to).amountMinor;
  const made = (baseMinor + printMinor) * items;
  return convert(baseMinor * items) + convert(printMinor * items) - convert(discountMinor(made, discountPpm));
}

/**
 * The least landed cost of `items` same items in one parcel: as a product with one printed area has it, to the cent. Throws `rate-missing`.
 */
export function parcelCost(
  making: LeastMaking,
  shipping: { readonly firstMinor: number; readonly furtherMinor: number },
  items: number,
  currency: string,
  rates: RateTable,
): ParcelCost {
  const makingMinor = leastMaking(making, items, currency, rates);
  const sum = money(shipping.firstMinor + (items - 1) * shipping.furtherMinor, making.currency);
  const shippingMinor = rates.convertCost(sum, currency).amountMinor;
  const totalMinor = makingMinor + shippingMinor;
  return { makingMinor, shippingMinor, totalMinor, eachMinor: mulDiv(totalMinor, 1, items) };
}
