/** How a shop can say what a parcel costs. Sums in minor units. */
export type ShippingModel =
  | { readonly kind: 'order+item'; readonly orderMinor: number; readonly itemMinor: number }
  | { readonly kind: 'first+further'; readonly firstMinor: number; readonly furtherMinor: number }
  | { readonly kind: 'item'; readonly itemMinor: number }
  | { readonly kind: 'weight'; readonly rows: readonly { readonly upToG: number; readonly sumMinor: number }[] }
  | { readonly kind: 'flat'; readonly orderMinor: number }
  | { readonly kind: 'free' };
export const SHIPPING_MODELS = ['order+item', 'first+further', 'item', 'weight', 'flat', 'free'] as const;
export type ShippingModelKind = (typeof SHIPPING_MODELS)[number];

/** What a partner takes for a parcel of same items: the first, and each further one. */
export interface FirstAndFurther {
  readonly firstMinor: number;
  readonly furtherMinor: number;
  /** Weight of one item as packed, g: for tables by weight. */
  readonly itemWeightG: number;
}

/** Baskets for which models are held against the partner's sums. */
export const BASKETS = [1, 2, 3, 4, 5] as const;

export interface MatchedShipping {
  readonly model: ShippingModel;
  /** For baskets of 1 to 5: what the partner takes, what the shop charges, and by how much that is more (or less, below 0). */
  readonly baskets: readonly {
    readonly items: number;
    readonly partnerMinor: number;
    readonly chargedMinor: number;
    readonly differenceMinor: number;
  }[];
  /** Sum of all that is charged too much, and of all that is charged too little. */
  readonly overMinor: number;
  readonly underMinor: number;
}

/** What a model charges for a parcel of same items. */
export function chargedBy(model: ShippingModel, items: number, itemWeightG: number): number {
  switch (model.kind) {
    case 'order+item':
      return model.orderMinor + items * model.itemMinor;
    case 'first+further':
      return model.firstMinor + (items - 1) * model.furtherMinor;
    case 'item':
      return items * model.itemMinor;
    case 'weight':
      return (model.rows.find((row) => items * itemWeightG <= row.upToG) ?? model.rows.at(-1)!).sumMinor;
    case 'flat':
      return model.orderMinor;
    case 'free':
      return 0;
  }
}

function held(model: ShippingModel, partner: FirstAndFurther): MatchedShipping {
  let [overMinor, underMinor] = [0, 0];
  const baskets = BASKETS.map((items) => {
    const partnerMinor = partner.firstMinor + (items - 1) * partner.furtherMinor;
    const chargedMinor = chargedBy(model, items, partner.itemWeightG);
    const differenceMinor = chargedMinor - partnerMinor;
    if (differenceMinor > 0) overMinor += differenceMinor;
    else underMinor -= differenceMinor;
    return { items, partnerMinor, chargedMinor, differenceMinor };
  });
  return { model, baskets, overMinor, underMinor };
}

/** The value that leaves the least sum of weighted distances to all: their weighted median, the upper where two do. */
function weightedMedian(values: readonly (readonly [value: number, weight: number])[]): number {
  const sorted = values.toSorted((a, b) => a[0] - b[0]);
  const half = sorted.reduce((sum, [, weight]) => sum + weight, 0) / 2;
  let sum = 0;
  for (const [value, weight] of sorted) if ((sum += weight) > half) return value;
  return sorted.at(-1)![0];
}

/**
 * The partner's first-and-further as one of a shop's models, with the least sum of over- and undercharge for baskets of 1 to 5. Exact for
 * `order+item` (order = first − further, item = further), `first+further` and, for parcels of this item alone, `weight`. A further item
 * that is dearer than the first leaves nothing for the order: then the best sum per item alone is taken. Where a sum per item would lie
 * between two minor units it is the one with the smaller distance.
 */
export function matchShipping(partner: FirstAndFurther, kind: ShippingModelKind): MatchedShipping {
  const { firstMinor, furtherMinor, itemWeightG } = partner;
  const sums = BASKETS.map((items) => [items, firstMinor + (items - 1) * furtherMinor] as const);
  const best = (models: readonly ShippingModel[]): MatchedShipping =>
    models
      .map((model) => held(model, partner))
      .reduce((a, b) => (b.overMinor + b.underMinor < a.overMinor + a.underMinor ? b : a));
  /** A sum per item: distances are items × |item − sum ÷ items|, so the weights are the items. */
  const perItem = (): ShippingModel[] => {
    const middle = weightedMedian(sums.map(([items, sum]) => [sum / items, items]));
    return [Math.floor(middle), Math.ceil(middle)].map((itemMinor) => ({ kind: 'item', itemMinor }));
  };
  switch (kind) {
    case 'order+item':
      if (furtherMinor <= firstMinor)
        return held({ kind, orderMinor: firstMinor - furtherMinor, itemMinor: furtherMinor }, partner);
      return best(
        perItem().flatMap((model) =>
          model.kind === 'item' ? [{ kind, orderMinor: 0, itemMinor: model.itemMinor }] : [],
        ),
      );
    case 'first+further':
      return held({ kind, firstMinor, furtherMinor }, partner);
    case 'item':
      return best(perItem());
    case 'weight':
      return held({ kind, rows: sums.map(([items, sumMinor]) => ({ upToG: items * itemWeightG, sumMinor })) }, partner);
    case 'flat':
      return held({ kind, orderMinor: weightedMedian(sums.map(([, sum]) => [sum, 1])) }, partner);
    case 'free':
      return held({ kind }, partner);
  }
}
