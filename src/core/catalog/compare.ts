import { printSizePx, TECHNIQUE_NAMES } from '../geometry/area';
import { leastPrintMinor, parcelCost } from '../pricing/landed';
import { formatAmount, formatMoney, money } from '../pricing/money';
import type { RateTable } from '../pricing/rates';
import { groupBy } from '../group';
import {
  colorOption,
  geometryIdFor,
  shippingTo,
  variantKey,
  type Blank,
  type BlankVariant,
  type PriceList,
  sizeOption,
} from './blank';
import { colorDifference, labOf } from './families';
import { compareSizes } from './size-order';
import { ownEntry } from '../own-entry';

export interface ComparedBlank {
  readonly blank: Blank;
  readonly list: PriceList;
}

/** One value of one blank. `amountMinor` is set where less is better. */
export interface ComparedCell {
  readonly text: string;
  readonly note: string | null;
  /** The least of its row, where the row has amounts that differ. */
  readonly least: boolean;
}

export interface ComparedRow {
  readonly label: string;
  /** One for each blank; null where the blank has no such thing. */
  readonly cells: readonly (ComparedCell | null)[];
  readonly differs: boolean;
}

export interface ComparedColor {
  readonly name: string;
  readonly hex: string;
}

export interface ComparedSection {
  readonly title: string;
  readonly rows: readonly ComparedRow[];
}

export interface Comparison {
  /** The size that costs to the door are counted for: one that all have, else null and each blank's cheapest variant counts. */
  readonly size: string | null;
  readonly sections: readonly { readonly title: string; readonly rows: readonly ComparedRow[] }[];
  /** Colors that all have, and for each blank those that not all have. */
  readonly colors: { readonly common: readonly ComparedColor[]; readonly apart: readonly (readonly ComparedColor[])[] };
}

/** Colors closer than this (CIEDE2000) are told apart only side by side; chosen by eye, no source. */
const SAME_COLOR = 3;

interface Value {
  readonly text: string;
  readonly note?: string | null;
  readonly amountMinor?: number;
}

function row(label: string, values: readonly (Value | null)[]): ComparedRow {
  const amounts = values.flatMap((value) => (value?.amountMinor === undefined ? [] : [value.amountMinor]));
  const least = amounts.length > 1 && Math.max(...amounts) > Math.min(...amounts) ? Math.min(...amounts) : null;
  const cells = values.map(
    (value) =>
      value && { text: value.text, note: value.note ?? null, least: least !== null && value.amountMinor === least },
  );
  return { label, cells, differs: new Set(cells.map((cell) => cell?.text ?? '')).size > 1 };
}

const sizeNames = (blank: Blank): string[] => sizeOption(blank)?.values.map((value) => value.name) ?? [];

function variantsOfSize(blank: Blank, size: string | null): BlankVariant[] {
  const able = blank.variants.filter((variant) => !variant.ended);
  if (size === null) return able;
  const code = sizeOption(blank)?.values.find((value) => value.name === size)?.code;
  return code === undefined ? [] : able.filter((variant) => variant.values.size === code);
}

const costsOf = (entry: ComparedBlank, size: string | null): number[] =>
  variantsOfSize(entry.blank, size).flatMap((variant) => ownEntry(entry.list.baseCostMinor, variant.key) ?? []);

/** Names of the choices that a cost hangs on beside the size: those in which two variants, alike in all else, cost different. */
function costChoices(entry: ComparedBlank, size: string | null): string[] {
  const variants = variantsOfSize(entry.blank, size);
  const costOf = (variant: BlankVariant) => ownEntry(entry.list.baseCostMinor, variant.key);
  return entry.blank.options
    .filter(({ code }) =>
      [...groupBy(variants, ({ values }) => variantKey({ ...values, [code]: '' })).values()].some(
        (alike) => new Set(alike.map(costOf).filter((cost) => cost !== undefined)).size > 1,
      ),
    )
    .map((option) => option.name.toLowerCase());
}

/**
 * Blanks side by side, in the asking currency: costs by size, charges, shipping and landed cost to each destination for `items` in a
 * parcel, areas, facts and colors. Throws `rate-missing`.
 */
export function compareBlanks(
  entries: readonly ComparedBlank[],
  currency: string,
  rates: RateTable,
  destinations: readonly { readonly country: string; readonly name: string }[],
  items: number,
  discounts: { readonly [partnerId: string]: number } = {},
): Comparison {
  const convert = (amountMinor: number, list: PriceList) =>
    rates.convert(money(amountMinor, list.currency), currency).amountMinor;
  const amount = (amountMinor: number, list: PriceList, note: string | null = null): Value => {
    const converted = convert(amountMinor, list);
    return { text: formatMoney(money(converted, currency)), note, amountMinor: converted };
  };
  const sizes = [...new Set(entries.flatMap(({ blank }) => sizeNames(blank)))].sort(compareSizes);
  const sized = entries.filter(({ blank }) => sizeNames(blank).length > 0);
  const common = sizes.filter((size) => sized.every((entry) => costsOf(entry, size).length > 0));
  // The middle of what all have: neither the smallest, which some do not sell, nor the dear large ones.
  const size = common[Math.floor((common.length - 1) / 2)] ?? null;
  /** The size that a blank is compared in; null for one of a single size. */
  const sizeOf = ({ blank }: ComparedBlank) => (sizeNames(blank).length > 0 ? size : null);

  const costRow = (label: string, of: string | null) =>
    row(
      label,
      entries.map((entry) => {
        // A blank with sizes has no cost without one.
        const costs = of === null && sizeNames(entry.blank).length > 0 ? [] : costsOf(entry, of);
        if (costs.length === 0) return null;
        const [least, most] = [Math.min(...costs), Math.max(...costs)];
        const dear = formatMoney(money(most, entry.list.currency));
        const own = entry.list.currency === currency ? null : formatMoney(money(least, entry.list.currency));
        const by = costChoices(entry, of).join(' and ');
        const range = own
          ? `${formatAmount(money(least, entry.list.currency))}–${dear} by ${by}`
          : `to ${dear} by ${by}`;
        return amount(least, entry.list, most > least ? range : own);
      }),
    );
  const costs = sizes.map((name) => costRow(name, name));
  // A blank without sizes beside others that have them still has its cost.
  if (sized.length < entries.length) costs.push(costRow(sizes.length > 0 ? 'One size' : 'Base cost', null));

  const areaNames = [...new Set(entries.flatMap(({ blank }) => blank.areas.map((area) => area.name)))];
  const areaOf = (entry: ComparedBlank, name: string) => entry.blank.areas.find((area) => area.name === name) ?? null;
  const charges = areaNames
    .map((name) =>
      row(
        name,
        entries.map((entry) => {
          const area = areaOf(entry, name);
          if (!area) return null;
          const extra = ownEntry(entry.list.extraAreaMinor, area.key) ?? 0;
          const technique = ownEntry(entry.list.techniqueMinor, area.key) ?? 0;
          return amount(
            extra,
            entry.list,
            technique > 0
              ? `and ${formatMoney(money(convert(technique, entry.list), currency))} for ${TECHNIQUE_NAMES[area.technique]}`
              : null,
          );
        }),
      ),
    )
    .filter((r) => entries.some(({ blank }) => blank.areas.length > 1) || r.cells.some((cell) => cell?.note));

  const delivery = destinations.map(({ country, name }) =>
    row(
      name,
      entries.map((entry) => {
        const line = shippingTo(entry.list, country);
        const making = Math.min(...costsOf(entry, sizeOf(entry)));
        if (!Number.isFinite(making)) return { text: 'not made' };
        if (!line) return { text: 'not sent there' };
        const discountPpm = ownEntry(discounts, entry.blank.partner.id) ?? 0;
        const least = {
          currency: entry.list.currency,
          baseMinor: making,
          printMinor: leastPrintMinor(
            entry.blank.areas.map((area) => area.key),
            entry.list.techniqueMinor,
          ),
          discountPpm,
        };
        const cost = parcelCost(least, line, items, currency, rates);
        return {
          text: formatMoney(money(cost.totalMinor, currency)),
          note: `shipping ${formatMoney(money(cost.shippingMinor, currency))}, ${line.daysMin}–${line.daysMax} days`,
          amountMinor: cost.totalMinor,
        };
      }),
    ),
  );

  const areas = areaNames.map((name) =>
    row(
      name,
      entries.map((entry) => {
        const area = areaOf(entry, name);
        const variant = variantsOfSize(entry.blank, sizeOf(entry))[0];
        const id = area && variant ? geometryIdFor(area, variant.values) : null;
        const g = id ? ownEntry(entry.blank.geometries, id) : null;
        if (!g) return null;
        const { widthPx, heightPx } = printSizePx(g);
        return {
          text: `${g.widthMm} × ${g.heightMm} mm`,
          note: `${widthPx} × ${heightPx} px at ${g.dpi} DPI${g.bleedMm > 0 ? `, bleed ${g.bleedMm} mm` : ''}`,
        };
      }),
    ),
  );

  const fact = (label: string, text: (blank: Blank) => string) =>
    row(
      label,
      entries.map(({ blank }) => ({ text: text(blank) })),
    );
  const facts = [
    row(
      'Making',
      entries.map(({ blank: { makingDays } }) => ({
        text: `${makingDays.min}–${makingDays.max} days`,
        amountMinor: makingDays.max,
      })),
    ),
    fact('Technique', (blank) => [...new Set(blank.areas.map((area) => TECHNIQUE_NAMES[area.technique]))].join(', ')),
    fact('Material', (blank) => blank.facts.Material ?? blank.material),
    fact('Sizes', (blank) => sizeNames(blank).join(', ') || 'one'),
    fact('In stock', (blank) => {
      const able = blank.variants.filter((variant) => !variant.ended);
      return `${able.filter((variant) => variant.inStock).length} of ${able.length} variants`;
    }),
  ];

  return {
    size,
    sections: [
      { title: 'Base cost by size', rows: costs },
      { title: 'Charge for an area beside the first', rows: charges },
      {
        title: `Landed cost of ${items === 1 ? 'one' : `${items} in a parcel`}${size ? `, ${size}` : ', cheapest variant'}`,
        rows: delivery,
      },
      { title: `Print areas${size ? `, ${size}` : sized.length > 0 ? ', first size of each' : ''}`, rows: areas },
      { title: 'Facts', rows: facts },
    ].filter((section) => section.rows.length > 0),
    colors: compareColors(entries.map(({ blank }) => blank)),
  };
}

function compareColors(blanks: readonly Blank[]): Comparison['colors'] {
  const colors = blanks.map((blank) =>
    (colorOption(blank)?.values ?? []).flatMap(({ name, hex }) => (hex ? [{ name, hex, lab: labOf(hex) }] : [])),
  );
  const isIn = (color: (typeof colors)[number][number], list: (typeof colors)[number]) =>
    list.some((other) => colorDifference(color.lab, other.lab) <= SAME_COLOR);
  const inAll = (color: (typeof colors)[number][number]) => colors.every((list) => isIn(color, list));
  const plain = ({ name, hex }: ComparedColor): ComparedColor => ({ name, hex });
  return {
    common: (colors[0] ?? []).filter(inAll).map(plain),
    apart: colors.map((list) => list.filter((color) => !inAll(color)).map(plain)),
  };
}
