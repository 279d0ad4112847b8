import { leastMaking, parcelCost, type LeastMaking, type ParcelCost } from '../pricing/landed';
import type { RateTable } from '../pricing/rates';
import { shippingTo, type ShippingLine } from './blank';
import { COLOR_FAMILIES } from './family-colors';
import type { FacetValue, ShelfAnswer, ShelfBlank, ShelfFacets, ShelfPrices, ShelfQuery, ShelfRow } from './shelf';
import { compareSizes } from './size-order';
import { ownEntry } from '../own-entry';

/** Where the days of the making filter are cut. */
export const MAKING_STEPS = [1, 2, 3, 5, 7] as const;
/** Where the number of print areas is cut. */
export const AREA_STEPS = [2, 3, 4] as const;

/** What the whole blank is filtered by; each is one bit. */
const BLANK_GROUPS = ['text', 'kind', 'technique', 'shipsFrom', 'material', 'partner', 'areas', 'making'] as const;
type BlankGroup = (typeof BLANK_GROUPS)[number];

/** What a single variant is filtered by; each is one bit. */
const SIZE = 1;
const FAMILY = 2;
const STOCK = 4;
const PRICE = 8;

/** Most values of one option. */
const MOST_VALUES = 4096;

class Counter {
  private readonly counts = new Map<string, number>();
  add(value: string) {
    this.counts.set(value, (this.counts.get(value) ?? 0) + 1);
  }
  values(compare: (a: FacetValue, b: FacetValue) => number): FacetValue[] {
    return [...this.counts].map(([value, count]) => ({ value, count })).sort(compare);
  }
}

/**
 * Finds, counts and sorts blanks. A blank is found when at least one variant that is not ended fits all that is asked of variants at once
 * (size, color family, stock, landed cost), so "blue, XL, in stock" never finds a blank whose blue XL is gone. A count says how many
 * blanks a choice would leave with all choices of other kinds kept. Blanks without a price are not found.
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
  /** What partners take off their costs for this seller, parts per million. */
  discounts: { readonly [partnerId: string]: number } = {},
): ShelfAnswer {
  const wanted = {
    technique: new Set(query.techniques),
    shipsFrom: new Set(query.shipsFrom),
    size: new Set(query.sizes),
    family: new Set(query.families),
    material: new Set(query.materials),
    partner: new Set(query.partners),
  };
  const priced = query.landedMinMinor !== null || query.landedMaxMinor !== null;
  const [least, most] = [query.landedMinMinor ?? 0, query.landedMaxMinor ?? Number.MAX_SAFE_INTEGER];
  // Written anew for each blank; made once, since a query looks at hundreds of thousands of variants.
  const [sizeFits, sizeOpen, colorFits, colorOpen] = [0, 0, 0, 0].map(() => new Uint8Array(MOST_VALUES)) as [
    Uint8Array,
    Uint8Array,
    Uint8Array,
    Uint8Array,
  ];
  const count = {
    kind: new Counter(),
    technique: new Counter(),
    shipsFrom: new Counter(),
    size: new Counter(),
    family: new Counter(),
    material: new Counter(),
    partner: new Counter(),
    areas: new Counter(),
    making: new Counter(),
  };
  let inStockCount = 0;
  const converted = memoRates(currency, rates);
  const lineOf = memoShipping(query.country);
  const found: ShelfRow[] = [];

  const blankFits: { readonly [group in BlankGroup]: (blank: ShelfBlank) => boolean } = {
    text: (b) => scores === null || scores.has(b.id),
    kind: (b) => query.kind === null || b.kind === query.kind,
    technique: (b) => wanted.technique.size === 0 || b.techniques.some((t) => wanted.technique.has(t)),
    shipsFrom: (b) => wanted.shipsFrom.size === 0 || wanted.shipsFrom.has(b.shipsFrom),
    material: (b) => wanted.material.size === 0 || wanted.material.has(b.material),
    partner: (b) => wanted.partner.size === 0 || wanted.partner.has(b.partner.id),
    areas: (b) => query.areasMin === null || b.areas.length >= query.areasMin,
    making: (b) => query.makingMax === null || b.makingDays.max <= query.makingMax,
  };

  for (const blank of blanks) {
    const prices = pricesOf(blank.partner.id);
    const costs = prices?.blanks.get(blank.id);
    if (!prices || !costs) continue;
    let missed: BlankGroup | null = null;
    let misses = 0;
    for (const group of BLANK_GROUPS)
      if (!blankFits[group](blank)) {
        missed = group;
        misses += 1;
      }
    if (misses > 1) continue;

    const line = lineOf(prices, blank.parcelClass);
    const making = {
      currency: prices.currency,
      printMinor: costs.printMinor,
      discountPpm: ownEntry(discounts, blank.partner.id) ?? 0,
    };
    const { color, size, stock, ended } = blank.variants;
    const { colors, sizes } = blank;
    for (let i = 0; i < sizes.length; i += 1) {
      sizeFits[i] = wanted.size.size === 0 || wanted.size.has(sizes[i]!) ? 1 : 0;
      sizeOpen[i] = 0;
    }
    for (let i = 0; i < colors.length; i += 1) {
      colorFits[i] = wanted.family.size === 0 || wanted.family.has(colors[i]!.family) ? 1 : 0;
      colorOpen[i] = 0;
    }
    let lastCost = -1;
    let lastFits = true;
    let stockOpen = false;
    let fitting = 0;
    let inStock = 0;
    let cheapest = Infinity;
    for (let v = 0; v < color.length; v += 1) {
      const cost = costs.costMinor[v]!;
      if (cost < 0 || ended[v] === 1 || costs.ended[v] === 1) continue;
      const listed = costs.stock[v]!;
      const there = (listed >= 0 ? listed : stock[v]!) > 0;
      const c = color[v]!;
      const s = size[v]!;
      let fails = 0;
      if (s >= 0 ? sizeFits[s] === 0 : wanted.size.size > 0) fails |= SIZE;
      if (c >= 0 ? colorFits[c] === 0 : wanted.family.size > 0) fails |= FAMILY;
      if (query.inStock && !there) fails |= STOCK;
      if (priced) {
        // Variants of one cost stand together: few costs are converted.
        if (cost !== lastCost) {
          lastCost = cost;
          const each = line === null ? null : converted({ ...making, baseMinor: cost }, line, query.items).eachMinor;
          lastFits = each !== null && each >= least && each <= most;
        }
        if (!lastFits) fails |= PRICE;
      }
      if ((fails & ~SIZE) === 0 && s >= 0) sizeOpen[s] = 1;
      if ((fails & ~FAMILY) === 0 && c >= 0) colorOpen[c] = 1;
      if ((fails & ~STOCK) === 0 && there) stockOpen = true;
      if (fails !== 0) continue;
      fitting += 1;
      if (there) inStock += 1;
      if (cost < cheapest) cheapest = cost;
    }

    const counts = (group: BlankGroup) => fitting > 0 && (misses === 0 || missed === group);
    if (counts('kind')) count.kind.add(blank.kind);
    if (counts('technique')) for (const technique of blank.techniques) count.technique.add(technique);
    if (counts('shipsFrom')) count.shipsFrom.add(blank.shipsFrom);
    if (counts('material')) count.material.add(blank.material);
    if (counts('partner')) count.partner.add(blank.partner.id);
    if (counts('areas')) for (const step of AREA_STEPS) if (blank.areas.length >= step) count.areas.add(String(step));
    if (counts('making'))
      for (const step of MAKING_STEPS) if (blank.makingDays.max <= step) count.making.add(String(step));
    if (misses > 0) continue;
    for (let i = 0; i < sizes.length; i += 1) if (sizeOpen[i] === 1) count.size.add(sizes[i]!);
    // A family is counted once, however many of its colors are there.
    for (let i = 0; i < colors.length; i += 1)
      if (
        colorOpen[i] === 1 &&
        !colors.some((other, j) => j < i && colorOpen[j] === 1 && other.family === colors[i]!.family)
      )
        count.family.add(colors[i]!.family);
    if (stockOpen) inStockCount += 1;
    if (fitting === 0) continue;
    const lowest = { ...making, baseMinor: cheapest };
    const cost = line === null ? null : converted(lowest, line, query.items);
    found.push({
      blank,
      costMinor: leastMaking(lowest, 1, currency, rates),
      listCostMinor: leastMaking(lowest, 1, prices.currency, rates),
      listCurrency: prices.currency,
      landedEachMinor: cost?.eachMinor ?? null,
      landedTotalMinor: cost?.totalMinor ?? null,
      daysMin: line?.daysMin ?? null,
      daysMax: line?.daysMax ?? null,
      fitting,
      inStock,
    });
  }
  const byCount = (a: FacetValue, b: FacetValue) => b.count - a.count || a.value.localeCompare(b.value, 'en');
  const byNumber = (a: FacetValue, b: FacetValue) => Number(a.value) - Number(b.value);
  const familyOrder = (value: string) => (COLOR_FAMILIES as readonly string[]).indexOf(value);
  const facets: ShelfFacets = {
    kind: count.kind.values((a, b) => a.value.localeCompare(b.value, 'en')),
    technique: count.technique.values(byCount),
    shipsFrom: count.shipsFrom.values(byCount),
    size: count.size.values((a, b) => compareSizes(a.value, b.value)),
    family: count.family.values((a, b) => familyOrder(a.value) - familyOrder(b.value)),
    material: count.material.values(byCount),
    partner: count.partner.values(byCount),
    areas: count.areas.values(byNumber),
    making: count.making.values(byNumber),
    inStock: inStockCount,
  };
  sortRows(found, query, scores);
  return { total: found.length, rows: found.slice(query.offset, query.offset + query.limit), facets };
}

/** Sorts in place; what has no value comes last either way, and equal rows stand by rank. */
function sortRows(rows: ShelfRow[], query: ShelfQuery, scores: ReadonlyMap<string, number> | null): void {
  const byText = (textOf: (row: ShelfRow) => string) => {
    // Few different texts: they are compared as texts once, and then by their place.
    const { compare } = new Intl.Collator('en');
    const places = new Map([...new Set(rows.map(textOf))].sort(compare).map((text, i) => [text, i]));
    return (row: ShelfRow) => places.get(textOf(row))!;
  };
  const keys: { readonly [sort in ShelfQuery['sort']]: () => (row: ShelfRow) => number | null } = {
    match: () => (scores ? (row) => -scores.get(row.blank.id)! : (row) => row.landedEachMinor),
    name: () => (row) => row.blank.rank,
    kind: () => byText((row) => row.blank.kind),
    partner: () => byText((row) => row.blank.partner.name),
    technique: () => byText((row) => row.blank.techniques[0] ?? ''),
    colors: () => (row) => row.blank.colors.length,
    sizes: () => (row) => row.blank.sizes.length,
    areas: () => (row) => row.blank.areas.length,
    making: () => (row) => row.blank.makingDays.max,
    cost: () => (row) => row.costMinor,
    landed: () => (row) => row.landedEachMinor,
  };
  const keyOf = keys[query.sort]();
  const sign = query.descending ? -1 : 1;
  const keyed = rows.map((row) => ({ row, key: keyOf(row) }));
  keyed.sort((a, b) => {
    if (a.key === null || b.key === null)
      return (a.key === null ? 1 : 0) - (b.key === null ? 1 : 0) || a.row.blank.rank - b.row.blank.rank;
    return sign * (a.key - b.key) || a.row.blank.rank - b.row.blank.rank;
  });
  keyed.forEach(({ row }, i) => (rows[i] = row));
}

/** Landed cost by partner's cost, kept for the length of one query: many blanks share few costs. */
function memoRates(currency: string, rates: RateTable) {
  const kept = new Map<string, ParcelCost>();
  return (making: LeastMaking, line: ShippingLine, items: number): ParcelCost => {
    const { currency: from, baseMinor, printMinor, discountPpm } = making;
    const key = `${from}/${baseMinor}/${printMinor}/${line.firstMinor}/${line.furtherMinor}/${discountPpm}`;
    let cost = kept.get(key);
    if (!cost) kept.set(key, (cost = parcelCost(making, line, items, currency, rates)));
    return cost;
  };
}

function memoShipping(country: string) {
  const kept = new Map<ShelfPrices, Map<string, ShippingLine | null>>();
  return (prices: ShelfPrices, parcelClass: string): ShippingLine | null => {
    let lines = kept.get(prices);
    if (!lines) kept.set(prices, (lines = new Map()));
    let line = lines.get(parcelClass);
    if (line === undefined) {
      line = shippingTo({ shipping: prices.shipping.get(parcelClass) ?? [] }, country);
      lines.set(parcelClass, line);
    }
    return line;
  };
}
