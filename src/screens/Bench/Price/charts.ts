import { floorMinor, solveRetail, type Aim } from '@/core/pricing/solve';
import { minorDigits } from '@/core/pricing/money';
import type { PricedVariant } from '@/core/pricing/plan';
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

/** Profit against price around where it is: from below the floor to twice the price. `steps` points. */
export function profitCurve({ terms, quote, aim }: PricedVariant, steps = 80): ProfitCurve {
  const unit = (minor: number) => minor / 10 ** minorDigits(terms.currency);
  const tried = (find: () => number): number | null => {
    try {
      return find();
    } catch {
      return null;
    }
  };
  const floor = tried(() => floorMinor(terms));
  const met = aim.kind === 'retail' ? null : tried(() => solveRetail(terms, aim as Aim));
  const most = Math.max(quote.retailMinor, floor ?? 0, met ?? 0) * 1.6;
  const least = Math.min(quote.retailMinor, floor ?? quote.retailMinor) * 0.6;
  const points = Array.from({ length: steps + 1 }, (_, i) => {
    const minor = Math.round(least + ((most - least) * i) / steps);
    return { price: unit(minor), profit: unit(profitMinor(terms, minor)) };
  });
  return {
    points,
    floor: floor === null ? null : unit(floor),
    aim: met === null ? null : unit(met),
    price: unit(quote.retailMinor),
  };
}
