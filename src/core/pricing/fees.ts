import { unprintable } from '../json/bounds';
import { isDay } from './days';
import { isCurrency, MAX_RETAIL_MINOR, money, mulDiv, PPM } from './money';
import type { RateTable } from './rates';

/** What a fee's share is taken of: the items, items and shipping, or all that the buyer pays, tax included. */
export const FEE_OF = ['item', 'item+shipping', 'total'] as const;
export type FeeOf = (typeof FEE_OF)[number];
/** What a fee's fixed sum is taken for: each item, each order, or each live listing (spread over expected sales). */
export const FEE_PER = ['item', 'order', 'listing'] as const;
export type FeePer = (typeof FEE_PER)[number];

/**
 * One thing that a store takes: a share (parts per million) and a fixed sum, held between a least and a most, and where asked the tax on
 * the fee itself. Least and most hold for each item where the sum is per item, else for the order.
 */
export interface Fee {
  readonly id: string;
  readonly label: string;
  readonly of: FeeOf;
  readonly ratePpm: number;
  readonly per: FeePer;
  readonly fixedMinor: number;
  /** Currency of its sums; absent: the store's. */
  readonly currency?: string;
  readonly minMinor?: number;
  readonly maxMinor?: number;
  /** Tax that the store adds to the fee, parts per million. */
  readonly taxPpm?: number;
  /** Nothing is taken where the items together cost no more than this. */
  readonly overMinor?: number;
  /** First and last day on which it is taken, YYYY-MM-DD; absent: always. */
  readonly firstDay?: string;
  readonly lastDay?: string;
  /** Category of the shop in which it is taken; absent: in all. */
  readonly category?: string;
  /** A cost of the seller's own, not of the store: ads, returns, duty. */
  readonly own?: boolean;
}

/** The fees that are taken on a day (YYYY-MM-DD) in a category of the shop. */
export const feesOn = (fees: readonly Fee[], day: string, category?: string): Fee[] =>
  fees.filter(
    (fee) => (fee.firstDay ?? day) <= day && (fee.lastDay ?? day) >= day && (fee.category ?? category) === category,
  );

const SUMS = ['fixedMinor', 'minMinor', 'maxMinor', 'overMinor'] as const;

/** Fees with their sums in one currency, at the rate of the day: the same list where all are in it already. Throws `rate-missing`. */
export function feesIn(fees: readonly Fee[], currency: string, rates: RateTable): readonly Fee[] {
  if (fees.every((fee) => (fee.currency ?? currency) === currency)) return fees;
  return fees.map((fee) => {
    const { currency: of = currency } = fee;
    const sums = SUMS.flatMap((name) => {
      const minor = fee[name];
      return minor === undefined ? [] : [[name, rates.convert(money(minor, of), currency).amountMinor]];
    });
    return { ...fee, currency, ...(Object.fromEntries(sums) as Partial<Fee>) };
  });
}

/** What an order of same items brings, as far as fees look at it. Minor units of the store's currency. */
export interface FeeBase {
  readonly items: number;
  /** What is paid for all items, discounts taken off. */
  readonly itemsMinor: number;
  readonly shippingMinor: number;
  /** Tax that the buyer pays on top. */
  readonly taxOnTopMinor: number;
  /** Items that a listing's fee is spread over. */
  readonly expectedSales: number;
}

export interface FeeAmount {
  readonly fee: Fee;
  /** What the share was taken of, minor units. */
  readonly ofMinor: number;
  /** Tax on the fee; within `amountMinor`. */
  readonly taxMinor: number;
  readonly amountMinor: number;
}

/** The fixed part for an order: a listing's sum is spread over the expected sales and rounded up, so that it is never short. */
export const fixedPart = (fee: Fee, items: number, expectedSales: number): number =>
  fee.per === 'item'
    ? fee.fixedMinor * items
    : fee.per === 'order'
      ? fee.fixedMinor
      : mulDiv(fee.fixedMinor, items, Math.max(1, expectedSales), 'up');

/** A fee made ready for orders of so many items: what does not depend on the price is settled once. */
export class FeeTaker {
  private readonly fixedMinor: number;
  private readonly leastMinor: number;
  private readonly mostMinor: number;
  private readonly overMinor: number;

  constructor(
    readonly fee: Fee,
    items: number,
    expectedSales: number,
  ) {
    const times = fee.per === 'item' ? items : 1;
    this.fixedMinor = fixedPart(fee, items, expectedSales);
    this.leastMinor = fee.minMinor === undefined ? Number.NEGATIVE_INFINITY : fee.minMinor * times;
    this.mostMinor = fee.maxMinor === undefined ? Number.POSITIVE_INFINITY : fee.maxMinor * times;
    this.overMinor = fee.overMinor ?? Number.NEGATIVE_INFINITY;
  }

  /** What its share is of. */
  baseMinor(itemsMinor: number, shippingMinor: number, taxOnTopMinor: number): number {
    const { of } = this.fee;
    return of === 'item'
      ? itemsMinor
      : of === 'item+shipping'
        ? itemsMinor + shippingMinor
        : itemsMinor + shippingMinor + taxOnTopMinor;
  }

  /** Without the tax on it: clamp(round½(base × rate) + fixed). */
  untaxedMinor(itemsMinor: number, baseMinor: number): number {
    if (itemsMinor <= this.overMinor) return 0;
    const { ratePpm } = this.fee;
    const amount = (ratePpm === 0 ? 0 : mulDiv(baseMinor, ratePpm, PPM)) + this.fixedMinor;
    return amount < this.leastMinor ? this.leastMinor : amount > this.mostMinor ? this.mostMinor : amount;
  }

  /** One fee on one order, in minor units: clamp(round½(base × rate) + fixed) + round½(that × tax). */
  takenMinor(itemsMinor: number, shippingMinor: number, taxOnTopMinor: number): number {
    const amount = this.untaxedMinor(itemsMinor, this.baseMinor(itemsMinor, shippingMinor, taxOnTopMinor));
    const { taxPpm } = this.fee;
    return taxPpm ? amount + mulDiv(amount, taxPpm, PPM) : amount;
  }
}

interface KeptTakers {
  readonly items: number;
  readonly expectedSales: number;
  readonly takers: readonly FeeTaker[];
}

/** Takers of a list of fees for the orders that were asked for last, kept as long as the list: thousands of variants have the same. */
const kept = new WeakMap<readonly Fee[], KeptTakers>();

export function takersOf(fees: readonly Fee[], items: number, expectedSales: number): readonly FeeTaker[] {
  const known = kept.get(fees);
  if (known?.items === items && known.expectedSales === expectedSales) return known.takers;
  const takers = fees.map((fee) => new FeeTaker(fee, items, expectedSales));
  kept.set(fees, { items, expectedSales, takers });
  return takers;
}

/** A fee on one order with what it is made of. */
export function feeAmount(
  fee: Fee,
  { items, itemsMinor, shippingMinor, taxOnTopMinor, expectedSales }: FeeBase,
): FeeAmount {
  const taker = new FeeTaker(fee, items, expectedSales);
  const ofMinor = taker.baseMinor(itemsMinor, shippingMinor, taxOnTopMinor);
  const amount = taker.untaxedMinor(itemsMinor, ofMinor);
  const taxMinor = fee.taxPpm ? mulDiv(amount, fee.taxPpm, PPM) : 0;
  return { fee, ofMinor, taxMinor, amountMinor: amount + taxMinor };
}

/** What of each further minor unit of price the fees take where none is at its least or most, parts per million. */
export const totalRatePpm = (fees: readonly Fee[]): number =>
  fees.reduce((sum, fee) => sum + fee.ratePpm + mulDiv(fee.ratePpm, fee.taxPpm ?? 0, PPM), 0);

const MAX_FEES = 20;
const isWhole = (value: unknown, least: number, most: number): value is number =>
  Number.isInteger(value) && (value as number) >= least && (value as number) <= most;
const NAMES = new Set([
  'id',
  'label',
  'of',
  'ratePpm',
  'per',
  'fixedMinor',
  'currency',
  'minMinor',
  'maxMinor',
  'taxPpm',
  'firstDay',
  'lastDay',
  'category',
]);

function faultsOf(fee: Partial<Fee>): string[] {
  const faults: string[] = [];
  const name = typeof fee.label === 'string' && fee.label.trim() !== '' ? `“${fee.label.slice(0, 60)}”` : 'A fee';
  const stranger = Object.keys(fee).find((key) => !NAMES.has(key));
  if (stranger !== undefined) faults.push(`${name} has “${stranger.slice(0, 40)}”, which no fee has.`);
  if (typeof fee.id !== 'string' || !/^[a-z0-9-]{1,40}$/.test(fee.id))
    faults.push(`${name} needs an id of small letters, digits and hyphens.`);
  if (typeof fee.label !== 'string' || fee.label.trim() === '' || fee.label.length > 80 || unprintable(fee.label))
    faults.push('A fee needs a name of up to 80 characters.');
  if (!FEE_OF.includes(fee.of as FeeOf)) faults.push(`${name} is a share of ${FEE_OF.join(', ')}.`);
  if (!FEE_PER.includes(fee.per as FeePer)) faults.push(`${name} is taken per ${FEE_PER.join(', ')}.`);
  if (!isWhole(fee.ratePpm, 0, PPM - 1)) faults.push(`The share of ${name} must be from 0 % to below 100 %.`);
  if (!isWhole(fee.fixedMinor, 0, MAX_RETAIL_MINOR)) faults.push(`The sum of ${name} must be 0 or more.`);
  for (const bound of ['minMinor', 'maxMinor'] as const)
    if (fee[bound] !== undefined && !isWhole(fee[bound], 0, MAX_RETAIL_MINOR))
      faults.push(`The ${bound === 'minMinor' ? 'least' : 'most'} of ${name} must be 0 or more.`);
  if (fee.minMinor !== undefined && fee.maxMinor !== undefined && fee.minMinor > fee.maxMinor)
    faults.push(`The least of ${name} is more than its most.`);
  if (fee.currency !== undefined && !isCurrency(fee.currency))
    faults.push(`“${String(fee.currency).slice(0, 20)}”, of ${name}, is no currency code such as EUR.`);
  if (fee.taxPpm !== undefined && !isWhole(fee.taxPpm, 0, PPM))
    faults.push(`The tax on ${name} must be from 0 % to 100 %.`);
  for (const day of [fee.firstDay, fee.lastDay])
    if (day !== undefined && !isDay(day))
      faults.push(`“${String(day).slice(0, 40)}” is not a day; write it as 2026-11-28.`);
  if (fee.firstDay !== undefined && fee.lastDay !== undefined && fee.firstDay > fee.lastDay)
    faults.push(`${name} ends before it begins.`);
  if (fee.category !== undefined && (typeof fee.category !== 'string' || !/^[\w -]{1,60}$/.test(fee.category)))
    faults.push(`The category of ${name} has up to 60 letters.`);
  return faults;
}

/** Faults of what a store takes, as sentences; none means it can be kept. On no day may all shares together reach the whole price. */
export function checkFees(value: unknown): string[] {
  if (!Array.isArray(value) || value.length > MAX_FEES) return [`A store takes up to ${MAX_FEES} fees.`];
  const faults = (value as unknown[]).flatMap((fee) =>
    typeof fee === 'object' && fee !== null && !Array.isArray(fee) ? faultsOf(fee) : ['A fee is an object.'],
  );
  if (faults.length > 0) return faults.slice(0, 50);
  const fees = value as Fee[];
  if (new Set(fees.map(({ id }) => id)).size < fees.length) return ['Two fees have the same id.'];
  for (const day of new Set(fees.map(({ firstDay }) => firstDay ?? '0000-01-01'))) {
    const taken = totalRatePpm(fees.filter((fee) => (fee.firstDay ?? day) <= day && (fee.lastDay ?? day) >= day));
    if (taken >= PPM)
      return [
        `Together the fees${day === '0000-01-01' ? '' : ` of ${day}`} would take ${taken / 10_000} % of the price; they must stay below 100 %.`,
      ];
  }
  return [];
}
