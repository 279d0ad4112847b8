import { solveGoals } from '@/core/pricing/solve';
import { minorDigits } from '@/core/pricing/money';
import { goalsOf, worstAt, type PricedVariant } from '@/core/pricing/pricer';
import type { AimsAt } from '@/core/pricing/outlet';
import { profitMinor } from '@/core/pricing/quote';
import type { TierRow } from './prices';

/** One bar of what a price is made of, in whole units of the currency (for drawing only). */
export interface CostBar {
  readonly name: string;
  readonly making: number;
  readonly shipping: number;
  readonly tax: number;
  readonly fees: number;
  readonly left: number;
}

/** From cost to what the buyer pays, a bar for each tier: its first variant. A loss is drawn below zero. */
export function costBars(rows: readonly TierRow[], priced: readonly PricedVariant[]): CostBar[] {
  return rows.flatMap((row) => {
    const one = priced.find(({ key }) => key === row.variantKeys[0]);
    if (!one) return [];
    const { quote: q } = one;
    const unit = (minor: number) => minor / 10 ** minorDigits(q.currency);
    return [
      {
        name: row.name,
        making: unit(q.makingMinor),
        shipping: unit(q.shippingMinor),
        tax: unit(q.taxMinor),
        fees: unit(q.feesMinor),
        left: unit(q.profitMinor),
      },
    ];
  });
}

export interface ProfitCurve {
  readonly points: readonly { readonly price: number; readonly profit: number }[];
  readonly floor: number | null;
  /** Price at which the aim is met, without its ending; null for a price that was typed. */
  readonly aim: number | null;
  readonly price: number;
}

/**
 * What one item leaves against its price, to the destination that leaves least there: from below the floor to past the price. `steps` points.
 */
export function profitCurve(
  { to, terms, retailMinor, aim, floor }: PricedVariant,
  aimsAt: AimsAt,
  steps = 80,
): ProfitCurve {
  const unit = (minor: number) => minor / 10 ** minorDigits(terms.currency);
  const tried = (find: () => number): number | null => {
    try {
      return find();
    } catch {
      return null;
    }
  };
  const met = aim.kind === 'retail' ? null : tried(() => solveGoals(goalsOf(aimsAt, to), aim));
  const most = Math.max(retailMinor, floor.minor ?? 0, met ?? 0) * 1.6;
  const least = Math.min(retailMinor, floor.minor ?? retailMinor) * 0.6;
  const points = Array.from({ length: steps + 1 }, (_, i) => {
    const minor = Math.round(least + ((most - least) * i) / steps);
    return { price: unit(minor), profit: unit(profitMinor(worstAt(to, minor).terms, minor)) };
  });
  return {
    points,
    floor: floor.minor === null ? null : unit(floor.minor),
    aim: met === null ? null : unit(met),
    price: unit(retailMinor),
  };
}

/** Steps that a scale can go in, times a power of ten. */
const STEPS = [1, 2, 2.5, 5, 10];

/** Round values from below `least` to above `most` in equal steps, about `count` of them: what an axis is marked with. */
export function niceTicks(least: number, most: number, count = 6): number[] {
  const span = Math.max(most - least, 1e-9);
  const rough = span / Math.max(1, count - 1);
  const power = 10 ** Math.floor(Math.log10(rough));
  const step = STEPS.find((one) => one * power >= rough)! * power;
  const first = Math.floor(least / step + 1e-9);
  const last = Math.ceil(most / step - 1e-9);
  return Array.from({ length: last - first + 1 }, (_, i) => Number(((first + i) * step).toPrecision(12)));
}

/** Marks on one scale: those nearer than `apart` share a line and say all their names, in order. */
export function marksApart<M extends { readonly at: number; readonly name: string }>(
  marks: readonly M[],
  apart: number,
): (M & { readonly names: string })[] {
  const groups: M[][] = [];
  for (const mark of [...marks].sort((a, b) => a.at - b.at)) {
    const last = groups.at(-1);
    if (last && mark.at - last.at(-1)!.at < apart) last.push(mark);
    else groups.push([mark]);
  }
  return groups.map((group) => ({ ...group.at(-1)!, names: group.map(({ name }) => name).join(', ') }));
}
