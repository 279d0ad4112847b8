import { andMore } from '@/core/words/and-more';
import { countryName } from '@/core/country-names';
import type { FacetValue, ShelfItem, ShelfQuery, ShelfSort } from '@/core/shelf/shelf';
import { TECHNIQUE_NAMES, type Technique } from '@/core/geometry/area';
import { formatMoney, money } from '@/core/pricing/money';

export interface Column {
  readonly sort: ShelfSort;
  readonly name: string;
  readonly right?: boolean;
  /** What it says, where its name does not. */
  readonly says?: string;
}

/** Columns that a narrow window leaves out, as classes. */
export const LEFT_OUT: { readonly [Column in ShelfSort]?: string } = {
  technique: 'max-[1240px]:hidden',
  making: 'max-[1240px]:hidden',
  colors: 'max-[900px]:hidden',
  sizes: 'max-[900px]:hidden',
  areas: 'max-[900px]:hidden',
};

/** Columns of the table in order; the landed column's name says where to. */
export const columns = (query: Pick<ShelfQuery, 'country' | 'items'>): Column[] => [
  { sort: 'name', name: 'Blank' },
  { sort: 'technique', name: 'Technique' },
  { sort: 'partner', name: 'Print partner' },
  { sort: 'colors', name: 'Colors' },
  { sort: 'sizes', name: 'Sizes' },
  { sort: 'areas', name: 'Print areas' },
  { sort: 'making', name: 'Making', says: 'Working days until it is sent' },
  { sort: 'cost', name: 'Cost from', right: true, says: 'What the cheapest variant costs, without shipping' },
  {
    sort: 'landed',
    name: query.items > 1 ? `Landed, each of ${query.items}` : `Landed, ${countryName(query.country)}`,
    right: true,
    says: 'What the cheapest variant costs with shipping there',
  },
];

const span = (names: readonly string[]): string =>
  names.length > 3 ? `${names[0]} – ${names.at(-1)}` : names.join(', ');

const days = (min: number, max: number): string =>
  min === max ? (max === 1 ? '1 day' : `${max} days`) : `${min}–${max} days`;

export interface RowTexts {
  readonly technique: string;
  readonly sizes: string;
  /** What the blank lets one choose beside color and size. */
  readonly choices: string | null;
  readonly areas: string;
  /** Of the first area. */
  readonly areaSize: string;
  readonly making: string;
  readonly cost: string;
  /** The partner's own amount where it is in another currency. */
  readonly listCost: string | null;
  readonly landed: string | null;
  readonly delivery: string;
  /** Set where some variants that fit are not there. */
  readonly stock: string | null;
}

/** What a row shows, as text. */
export function rowTexts(item: ShelfItem, currency: string): RowTexts {
  const pieces = item.pieces.length > 1;
  const first = item.areas[0];
  return {
    technique: item.techniques.map((technique) => TECHNIQUE_NAMES[technique]).join(', '),
    sizes: item.sizes.length > 0 ? span(item.sizes) : 'one size',
    choices: pieces
      ? `${item.pieces.length} pieces`
      : item.choices.length > 0
        ? item.choices.map((choice) => choice.name).join(', ')
        : null,
    areas: andMore(
      item.areas.map((area) => area.name),
      item.areas.length > 2 ? 1 : 2,
    ),
    areaSize: first ? `${first.widthPx} × ${first.heightPx} px` : '',
    making: days(item.makingDays.min, item.makingDays.max),
    cost: formatMoney(money(item.costMinor, currency)),
    listCost: item.listCurrency === currency ? null : formatMoney(money(item.listCostMinor, item.listCurrency)),
    landed: item.landedEachMinor === null ? null : formatMoney(money(item.landedEachMinor, currency)),
    delivery: item.daysMin === null || item.daysMax === null ? 'not sent there' : days(item.daysMin, item.daysMax),
    stock: item.inStock < item.fitting ? `${item.inStock} of ${item.fitting} in stock` : null,
  };
}

/** A facet's values by name, those that are chosen and were counted out included: a choice never vanishes from under the mouse. */
export function facetChoices(
  values: readonly FacetValue[],
  chosen: readonly string[],
  nameOf: (value: string) => string,
): { value: string; name: string; count: number; on: boolean }[] {
  const missing = chosen.filter((value) => !values.some((facet) => facet.value === value));
  return [...values, ...missing.map((value) => ({ value, count: 0 }))].map(({ value, count }) => ({
    value,
    name: nameOf(value),
    count,
    on: chosen.includes(value),
  }));
}

export const techniqueName = (value: string): string => TECHNIQUE_NAMES[value as Technique] ?? value;

/** How many filters are set, beside the category, the destination and the sorting. */
export const filterCount = (query: ShelfQuery): number =>
  (['techniques', 'shipsFrom', 'sizes', 'families', 'materials', 'partners'] as const).reduce(
    (n, key) => n + query[key].length,
    0,
  ) +
  [query.areasMin, query.makingMax, query.landedMinMinor, query.landedMaxMinor].filter((v) => v !== null).length +
  [query.inStock, query.favorite, query.used].filter(Boolean).length +
  (query.text ? 1 : 0);

/** The next sorting when a column's heading is pressed: up, then down. */
export const sortedBy = (query: ShelfQuery, sort: ShelfSort): Pick<ShelfQuery, 'sort' | 'descending'> => ({
  sort,
  descending: query.sort === sort && !query.descending,
});
