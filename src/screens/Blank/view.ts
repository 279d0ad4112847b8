import {
  areaTitle,
  colorOption,
  shippingTo,
  type Blank,
  type Option,
  type OptionFilter,
  type OptionValue,
  type PriceList,
} from '@/core/catalog/blank';
import { countryName } from '@/core/country-names';
import { printSizePx, TECHNIQUE_NAMES, type Geometry } from '@/core/geometry/area';
import { leastPrintMinor, parcelCost } from '@/core/pricing/landed';
import { formatMoney, money } from '@/core/pricing/money';
import type { RateTable } from '@/core/pricing/rates';
import { ownEntry } from '@/core/own-entry';
import type { PicturedBlank } from './BlankPicture';

/** What a picture of a blank is made from. */
export function picturedBlank(blank: Blank, shotHash: string | null): PicturedBlank {
  const option = colorOption(blank);
  return {
    id: blank.id,
    name: blank.name,
    shotHash,
    colorOf: option && { optionCode: option.code, pieceCode: option.pieceCode },
    colors: (option?.values ?? []).map(({ code, name, hex }) => ({ code, name, hex: hex! })),
    areas: blank.areas.map((area) => {
      const g = ownEntry(blank.geometries, area.geometries[0]!.geometryId)!;
      const { widthMm, heightMm, outline, dpi } = g;
      const { key, name, pieceCode } = area;
      return { key, name, pieceCode, widthMm, heightMm, outline, dpi, ...printSizePx(g) };
    }),
  };
}

/** The values for which something holds, by name; null when it holds for all. */
export function appliesText(blank: Blank, applies: OptionFilter, others: readonly OptionFilter[] = []): string | null {
  const named = Object.entries(applies).map(([code, values]) => valueNames(blank, code, values));
  if (named.length > 0) return named.join('; ');
  return others.some((filter) => Object.keys(filter).length > 0) ? 'all others' : null;
}

function valueNames(blank: Blank, code: string, values: readonly string[]): string {
  const all = blank.options.find((option) => option.code === code)?.values ?? [];
  const used = all.filter((value) => values.includes(value.code));
  const run = all.slice(all.indexOf(used[0]!), all.indexOf(used.at(-1)!) + 1);
  return used.length > 2 && run.length === used.length
    ? `${used[0]!.name} – ${used.at(-1)!.name}`
    : used.map((value) => value.name).join(', ');
}

export interface AreaEntry {
  readonly areaKey: string;
  readonly geometryId: string;
  readonly name: string;
  /** Sizes or colors for which it holds; null for all. */
  readonly applies: string | null;
  readonly technique: string;
  readonly geometry: Geometry;
  readonly widthPx: number;
  readonly heightPx: number;
}

/** Every print area with each of its geometries, in order. */
export function areaEntries(blank: Blank): AreaEntry[] {
  return blank.areas.flatMap((area) =>
    area.geometries.map(({ geometryId, applies }) => {
      const geometry = ownEntry(blank.geometries, geometryId)!;
      return {
        areaKey: area.key,
        geometryId,
        name: areaTitle(blank, area),
        applies: appliesText(
          blank,
          applies,
          area.geometries.map((one) => one.applies),
        ),
        technique: TECHNIQUE_NAMES[geometry.technique],
        geometry,
        ...printSizePx(geometry),
      };
    }),
  );
}

/** Which option stands in the rows and which in the columns of a table of variants; either can be absent. */
export function tableOptions(blank: Pick<Blank, 'options'>): { down: Option | null; across: Option | null } {
  const down = colorOption(blank);
  return { down, across: blank.options.find((option) => option !== down) ?? null };
}

const at = (
  blank: Blank,
  down: Option | null,
  row: OptionValue | null,
  across: Option | null,
  column: OptionValue | null,
) =>
  blank.variants.find(
    (variant) =>
      (!down || !row || ownEntry(variant.values, down.code) === row.code) &&
      (!across || !column || ownEntry(variant.values, across.code) === column.code),
  );

export interface CostRow {
  /** Colors that cost the same; empty for a blank without colors. */
  readonly colors: readonly OptionValue[];
  /** Minor units of the list's currency by column; null where there is no such variant. */
  readonly costsMinor: readonly (number | null)[];
}

/** Base costs, sizes across; colors that cost the same in every size share a row. */
export function costTable(blank: Blank, list: PriceList): { columns: readonly string[]; rows: CostRow[] } {
  const { down, across } = tableOptions(blank);
  const columns: readonly (OptionValue | null)[] = across?.values ?? [null];
  const groups = new Map<string, { colors: OptionValue[]; costsMinor: (number | null)[] }>();
  for (const row of down?.values ?? [null]) {
    const costsMinor = columns.map((column) => {
      const variant = at(blank, down, row, across, column);
      return variant && !variant.ended ? (ownEntry(list.baseCostMinor, variant.key) ?? null) : null;
    });
    const key = costsMinor.join();
    const group = groups.get(key) ?? { colors: [], costsMinor };
    if (row) group.colors.push(row);
    groups.set(key, group);
  }
  return { columns: columns.map((column) => column?.name ?? 'Base cost'), rows: [...groups.values()] };
}

export interface StockRow {
  readonly color: OptionValue | null;
  /** Count, or null where there is no such variant; `ended` wins over both. */
  readonly cells: readonly ({ readonly count: number; readonly ended: boolean } | null)[];
}

/** What the partner says is there, variant by variant. */
export function stockTable(blank: Blank): { columns: readonly string[]; rows: StockRow[] } {
  const { down, across } = tableOptions(blank);
  const columns: readonly (OptionValue | null)[] = across?.values ?? [null];
  return {
    columns: columns.map((column) => column?.name ?? 'In stock'),
    rows: (down?.values ?? [null]).map((color) => ({
      color,
      cells: columns.map((column) => {
        const variant = at(blank, down, color, across, column);
        return variant ? { count: variant.stock, ended: variant.ended } : null;
      }),
    })),
  };
}

/** What the partner charges beside the base cost, a line each: minor units of the list's currency. */
export function chargeLines(blank: Blank, list: PriceList): { label: string; amountMinor: number }[] {
  return [
    ...blank.areas
      .filter((area) => (ownEntry(list.extraAreaMinor, area.key) ?? 0) > 0)
      .map((area) => ({
        label: `${areaTitle(blank, area)}, beside another area`,
        amountMinor: ownEntry(list.extraAreaMinor, area.key)!,
      })),
    ...blank.areas
      .filter((area) => (ownEntry(list.techniqueMinor, area.key) ?? 0) > 0)
      .map((area) => ({
        label: `${TECHNIQUE_NAMES[area.technique]} on ${areaTitle(blank, area).toLowerCase()}`,
        amountMinor: ownEntry(list.techniqueMinor, area.key)!,
      })),
    ...list.inserts.map(({ name, costMinor }) => ({ label: `${name}, per order`, amountMinor: costMinor })),
  ];
}

export interface ShippingRow {
  readonly to: string;
  readonly first: string;
  readonly further: string;
  readonly days: string;
  /** The cheapest variant at the door, one item, in the workspace's currency. */
  readonly landed: string;
  readonly isHome: boolean;
}

/** What the partner takes for sending, region by region. Throws `rate-missing`. */
export function shippingRows(
  blank: Blank,
  list: PriceList,
  currency: string,
  country: string,
  rates: RateTable,
  discountPpm = 0,
): ShippingRow[] {
  const costs = blank.variants.filter((v) => !v.ended).flatMap((v) => ownEntry(list.baseCostMinor, v.key) ?? []);
  const cheapest = costs.length > 0 ? Math.min(...costs) : null;
  const home = shippingTo(list, country);
  const areaKeys = blank.areas.map((area) => area.key);
  return list.shipping.map((line) => ({
    to: line.countries.includes('*')
      ? list.shipping.length > 1
        ? 'Everywhere else'
        : 'Everywhere'
      : line.countries.map(countryName).join(', '),
    first: formatMoney(money(line.firstMinor, list.currency)),
    further: formatMoney(money(line.furtherMinor, list.currency)),
    days: line.daysMin === line.daysMax ? `${line.daysMax}` : `${line.daysMin}–${line.daysMax}`,
    landed:
      cheapest === null
        ? '–'
        : formatMoney(
            money(
              parcelCost(
                {
                  currency: list.currency,
                  baseMinor: cheapest,
                  printMinor: leastPrintMinor(areaKeys, list.techniqueMinor),
                  discountPpm,
                },
                line,
                1,
                currency,
                rates,
              ).totalMinor,
              currency,
            ),
          ),
    isHome: line === home,
  }));
}

/** Keys of the variants that a product with these colors starts with: all sizes that are not ended. */
export const variantsOfColors = (blank: Blank, colors: ReadonlySet<string>): string[] => {
  const option = colorOption(blank);
  return blank.variants
    .filter((variant) => !variant.ended && (!option || colors.has(ownEntry(variant.values, option.code) ?? '')))
    .map((variant) => variant.key);
};

/** Weights as packed: `182–221 g`. */
export function packText(blank: Blank): string {
  const weights = blank.variants.map((variant) => variant.packWeightG);
  const [least, most] = [Math.min(...weights), Math.max(...weights)];
  return least === most ? `${least} g` : `${least}–${most} g`;
}

/** How many variants are there of those that have not ended. */
export function stockText(blank: Blank): string {
  const able = blank.variants.filter((variant) => !variant.ended);
  const there = able.filter((variant) => variant.inStock).length;
  return there === able.length
    ? `all ${able.length} variants in stock`
    : `${there} of ${able.length} variants in stock`;
}
