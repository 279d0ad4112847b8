import type { Money } from './money';
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
  readonly extraAreas: readonly { readonly id: string; readonly label: string; readonly cost: Money }[];
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
 * Landed cost in `currency`: base cost + extra areas + the partner's shipping, each converted by itself and rounded half up once, so
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
    ...input.extraAreas.map((area) => line(area.id, area.label, 'making', area.cost)),
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
