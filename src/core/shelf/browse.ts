import { leastMaking, type LeastMaking } from '../pricing/landed';
import type { RateTable } from '../pricing/rates';
import { ownEntry } from '../own-entry';
import type { ShippingLine } from '../catalog/blank';
import { blankFilter, type OwnBlanks } from './browse-blanks';
import { memoRates, memoShipping } from './browse-costs';
import { FacetCounts } from './browse-facets';
import { sortRows } from './browse-sort';
import { VariantFilter } from './browse-variants';
import type { ShelfAnswer, ShelfBlank, ShelfPrices, ShelfQuery, ShelfRow } from './shelf';

const NOTHING_OWN: OwnBlanks = { favorites: new Set(), used: new Set() };

/** What is known of the seller who browses. */
export interface Browser {
  /** What partners take off their costs for this seller, parts per million. */
  readonly discounts?: { readonly [partnerId: string]: number };
  readonly own?: OwnBlanks;
}

/**
 * Finds, counts and sorts blanks. A blank is found when at least one variant that is not ended fits all that is asked of variants at once
 * (size, color family, stock, landed cost). A count says how many blanks a choice would leave with all choices of other kinds kept. Blanks
 * without a price are not found.
 *
 * `scores` holds the blanks that match the text with how well they do, or is null when nothing is searched for. Amounts are exact: each
 * cost is converted by itself as in `parcelCost`. Throws `rate-missing`.
 */
export function browse(
  blanks: readonly ShelfBlank[],
  pricesOf: (partnerId: string) => ShelfPrices | undefined,
  scores: ReadonlyMap<string, number> | null,
  query: ShelfQuery,
  currency: string,
  rates: RateTable,
  { discounts = {}, own = NOTHING_OWN }: Browser = {},
): ShelfAnswer {
  const missedBy = blankFilter(query, scores, own);
  const variants = new VariantFilter(query);
  const counts = new FacetCounts(own);
  const converted = memoRates(currency, rates);
  const lineOf = memoShipping(query.country);
  const found: ShelfRow[] = [];
  for (const blank of blanks) {
    const prices = pricesOf(blank.partner.id);
    const costs = prices?.blanks.get(blank.id);
    if (!prices || !costs) continue;
    const missed = missedBy(blank);
    if (missed === 'many') continue;
    const line = lineOf(prices, blank.parcelClass);
    const { printMinor } = costs;
    const discountPpm = ownEntry(discounts, blank.partner.id) ?? 0;
    const making = (baseMinor: number): LeastMaking => ({
      currency: prices.currency,
      baseMinor,
      printMinor,
      discountPpm,
    });
    const parcel = (baseMinor: number) => (line === null ? null : converted(making(baseMinor), line, query.items));
    variants.look(blank, costs, (baseMinor) => parcel(baseMinor)?.eachMinor ?? null);
    counts.add(blank, missed, variants);
    if (missed !== null || variants.fitting === 0) continue;
    const lowest = making(variants.cheapest);
    const { fitting, inStock } = variants;
    found.push({
      blank,
      favorite: own.favorites.has(blank.id),
      costMinor: leastMaking(lowest, 1, currency, rates),
      listCostMinor: leastMaking(lowest, 1, prices.currency, rates),
      listCurrency: prices.currency,
      ...landed(parcel(variants.cheapest), line),
      fitting,
      inStock,
    });
  }
  sortRows(found, query, scores);
  return {
    total: found.length,
    rows: found.slice(query.offset, query.offset + query.limit),
    facets: counts.facets(),
  };
}

const landed = (cost: { eachMinor: number; totalMinor: number } | null, line: ShippingLine | null) => ({
  landedEachMinor: cost?.eachMinor ?? null,
  landedTotalMinor: cost?.totalMinor ?? null,
  daysMin: line?.daysMin ?? null,
  daysMax: line?.daysMax ?? null,
});
