import type { ShelfBlank, ShelfPrices, ShelfQuery } from './shelf';

/** What a single variant is filtered by; each is one bit. */
const SIZE = 1;
const FAMILY = 2;
const STOCK = 4;
const PRICE = 8;

/** Most values of one option. */
const MAX_VALUES = 4096;

type Costs = ShelfPrices['blanks'] extends ReadonlyMap<string, infer C> ? C : never;

/**
 * Looks at the variants of one blank after another. A variant fits when it fits all that is asked of variants at once, so "blue, XL, in
 * stock" never finds a blank whose blue XL is gone. The results stand in its members until the next blank.
 */
export class VariantFilter {
  /** Variants that fit, and how many of them are in stock. */
  fitting = 0;
  inStock = 0;
  /** Least cost of those that fit, minor units of the list; Infinity when none does. */
  cheapest = Infinity;
  /** Whether one fits all but stock, and is there. */
  stockOpen = false;
  // Written anew for each blank; made once, since a query looks at hundreds of thousands of variants.
  private readonly sizeFits = new Uint8Array(MAX_VALUES);
  private readonly colorFits = new Uint8Array(MAX_VALUES);
  /** 1 for a size or color that one variant has which fits all else that is asked. */
  readonly sizeOpen = new Uint8Array(MAX_VALUES);
  readonly colorOpen = new Uint8Array(MAX_VALUES);
  private readonly sizes: ReadonlySet<string>;
  private readonly families: ReadonlySet<string>;
  private readonly priced: boolean;
  private readonly least: number;
  private readonly most: number;

  constructor(private readonly query: ShelfQuery) {
    this.sizes = new Set(query.sizes);
    this.families = new Set(query.families);
    this.priced = query.landedMinMinor !== null || query.landedMaxMinor !== null;
    this.least = query.landedMinMinor ?? 0;
    this.most = query.landedMaxMinor ?? Number.MAX_SAFE_INTEGER;
  }

  /** `landedOf` gives what a cost comes to at the door, or null where nothing is sent there. */
  look(blank: ShelfBlank, costs: Costs, landedOf: (costMinor: number) => number | null): void {
    this.begin(blank);
    const { color, size, stock, ended } = blank.variants;
    let lastCost = -1;
    let lastFits = true;
    for (let v = 0; v < color.length; v += 1) {
      const cost = costs.costMinor[v]!;
      if (cost < 0 || ended[v] === 1 || costs.ended[v] === 1) continue;
      const listed = costs.stock[v]!;
      const there = (listed >= 0 ? listed : stock[v]!) > 0;
      // Variants of one cost stand together: few costs are converted.
      if (this.priced && cost !== lastCost) {
        lastCost = cost;
        const landed = landedOf(cost);
        lastFits = landed !== null && landed >= this.least && landed <= this.most;
      }
      this.take(color[v]!, size[v]!, there, cost, lastFits);
    }
  }

  private begin({ sizes, colors }: ShelfBlank): void {
    this.fitting = 0;
    this.inStock = 0;
    this.cheapest = Infinity;
    this.stockOpen = false;
    for (let i = 0; i < sizes.length; i += 1) {
      this.sizeFits[i] = this.sizes.size === 0 || this.sizes.has(sizes[i]!) ? 1 : 0;
      this.sizeOpen[i] = 0;
    }
    for (let i = 0; i < colors.length; i += 1) {
      this.colorFits[i] = this.families.size === 0 || this.families.has(colors[i]!.family) ? 1 : 0;
      this.colorOpen[i] = 0;
    }
  }

  private take(color: number, size: number, there: boolean, cost: number, priceFits: boolean): void {
    let fails = priceFits ? 0 : PRICE;
    if (size >= 0 ? this.sizeFits[size] === 0 : this.sizes.size > 0) fails |= SIZE;
    if (color >= 0 ? this.colorFits[color] === 0 : this.families.size > 0) fails |= FAMILY;
    if (this.query.inStock && !there) fails |= STOCK;
    if ((fails & ~SIZE) === 0 && size >= 0) this.sizeOpen[size] = 1;
    if ((fails & ~FAMILY) === 0 && color >= 0) this.colorOpen[color] = 1;
    if ((fails & ~STOCK) === 0 && there) this.stockOpen = true;
    if (fails !== 0) return;
    this.fitting += 1;
    if (there) this.inStock += 1;
    if (cost < this.cheapest) this.cheapest = cost;
  }
}
