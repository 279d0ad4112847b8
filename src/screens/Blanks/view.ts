import { colorOption, shippingTo, type Blank, type PriceList } from '@/core/catalog/blank';
import { printSizePx, TECHNIQUE_NAMES } from '@/core/geometry/area';
import { landedCost } from '@/core/pricing/landed';
import { money } from '@/core/pricing/money';
import type { RateTable } from '@/core/pricing/rates';

export interface BlankRow {
  readonly id: string;
  readonly name: string;
  readonly partner: string;
  readonly from: string;
  readonly technique: string;
  readonly colors: readonly { readonly code: string; readonly name: string; readonly hex: string }[];
  readonly sizes: string;
  readonly areas: readonly string[];
  readonly makingDays: string;
  /** Lowest base cost, minor units of the workspace's currency. */
  readonly costMinor: number;
  /** Landed cost of the cheapest variant to the destination; null when the partner does not send there. */
  readonly landedMinor: number | null;
  readonly shipping: string;
  readonly firstColor: string | null;
}

export type SortKey = 'name' | 'partner' | 'costMinor' | 'landedMinor';

/** Rows of the Blanks table for a destination, in the workspace's currency. */
export function blankRows(
  entries: readonly { blank: Blank; list: PriceList }[],
  rates: RateTable,
  currency: string,
  country: string,
): BlankRow[] {
  return entries.map(({ blank, list }) => {
    const cheapest = Math.min(
      ...blank.variants.filter((v) => !v.ended).map((v) => list.baseCostMinor[v.key] ?? Infinity),
    );
    const line = shippingTo(list, country);
    const landed = landedCost(
      {
        baseCost: money(cheapest, list.currency),
        extraAreas: [],
        shipping: line && money(line.firstMinor, list.currency),
      },
      currency,
      rates,
    );
    const color = colorOption(blank);
    const colors = (color?.values ?? []).map(({ code, name, hex }) => ({ code, name, hex: hex! }));
    const plain = blank.options.filter((option) => option !== color);
    return {
      id: blank.id,
      name: blank.name,
      partner: blank.partner.name,
      from: blank.partner.country,
      technique: [...new Set(blank.areas.map((area) => TECHNIQUE_NAMES[area.technique]))].join(', '),
      colors,
      sizes: plain.map((option) => span(option.values.map((value) => value.name))).join('; '),
      areas: blank.areas.map((area) => {
        const { widthPx, heightPx } = printSizePx(blank.geometries[area.geometries[0]!.geometryId]!);
        return `${area.name} ${widthPx} × ${heightPx} px`;
      }),
      makingDays: `${blank.makingDays.min}–${blank.makingDays.max} days`,
      costMinor: landed.makingMinor,
      landedMinor: line ? landed.totalMinor : null,
      shipping: line ? `${line.daysMin}–${line.daysMax} days` : 'not sent there',
      firstColor: colors[0]?.code ?? null,
    };
  });
}

const span = (names: readonly string[]): string =>
  names.length > 3 ? `${names[0]} – ${names.at(-1)}` : names.join(', ');

/** Sorted by a column; what has no value comes last either way. */
export function sortRows(rows: readonly BlankRow[], key: SortKey, descending: boolean): BlankRow[] {
  const sign = descending ? -1 : 1;
  return rows.toSorted((a, b) => {
    const [x, y] = [a[key], b[key]];
    if (x === null || y === null) return (x === null ? 1 : 0) - (y === null ? 1 : 0);
    return sign * (typeof x === 'number' ? x - (y as number) : x.localeCompare(y as string, 'en'));
  });
}
