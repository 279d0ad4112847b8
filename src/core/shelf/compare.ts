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
} from '../catalog/blank';
import { colorDifference, labOf } from '../catalog/families';
import { compareSizes } from '../catalog/size-order';
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
  const table = new ComparedTable(entries, currency, rates, items, discounts);
  const { size, sized } = table;
  return {
    size,
    sections: [
      { title: 'Base cost by size', rows: table.costs() },
      { title: 'Charge for an area beside the first', rows: table.charges() },
      {
        title: `Landed cost of ${items === 1 ? 'one' : `${items} in a parcel`}${size ? `, ${size}` : ', cheapest variant'}`,
        rows: destinations.map(({ country, name }) => table.delivery(country, name)),
      },
      {
        title: `Print areas${size ? `, ${size}` : sized.length > 0 ? ', first size of each' : ''}`,
        rows: table.areas(),
      },
      { title: 'Facts', rows: table.facts() },
    ].filter((section) => section.rows.length > 0),
    colors: compareColors(entries.map(({ blank }) => blank)),
  };
}

/** The rows of a comparison: one cell for each blank. */
class ComparedTable {
  private readonly sizes: readonly string[];
  /** Blanks that have sizes. */
  readonly sized: readonly ComparedBlank[];
  /** The size that blanks are compared in; null where they have none in common. */
  readonly size: string | null;
  private readonly areaNames: readonly string[];

  constructor(
    private readonly entries: readonly ComparedBlank[],
    private readonly currency: string,
    private readonly rates: RateTable,
    private readonly items: number,
    private readonly discounts: { readonly [partnerId: string]: number },
  ) {
    this.sizes = [...new Set(entries.flatMap(({ blank }) => sizeNames(blank)))].sort(compareSizes);
    this.sized = entries.filter(({ blank }) => sizeNames(blank).length > 0);
    const common = this.sizes.filter((size) => this.sized.every((entry) => costsOf(entry, size).length > 0));
    // The middle of what all have: neither the smallest, which some do not sell, nor the dear large ones.
    this.size = common[Math.floor((common.length - 1) / 2)] ?? null;
    this.areaNames = [...new Set(entries.flatMap(({ blank }) => blank.areas.map((area) => area.name)))];
  }

  /** The size that a blank is compared in; null for one of a single size. */
  private sizeOf({ blank }: ComparedBlank): string | null {
    return sizeNames(blank).length > 0 ? this.size : null;
  }

  private row(label: string, cell: (entry: ComparedBlank) => Value | null): ComparedRow {
    return row(label, this.entries.map(cell));
  }

  private told(amountMinor: number, list: PriceList): { text: string; amountMinor: number } {
    const converted = this.rates.convert(money(amountMinor, list.currency), this.currency);
    return { text: formatMoney(converted), amountMinor: converted.amountMinor };
  }

  /** Least costs by size; a blank without sizes beside others that have them still has its cost. */
  costs(): ComparedRow[] {
    const rows = this.sizes.map((name) => this.row(name, (entry) => this.cost(entry, name)));
    if (this.sized.length === this.entries.length) return rows;
    const alone = this.row(this.sizes.length > 0 ? 'One size' : 'Base cost', (entry) => this.cost(entry, null));
    return [...rows, alone];
  }

  private cost(entry: ComparedBlank, size: string | null): Value | null {
    const { list } = entry;
    // A blank with sizes has no cost without one.
    const costs = size === null && sizeNames(entry.blank).length > 0 ? [] : costsOf(entry, size);
    if (costs.length === 0) return null;
    const [least, most] = [Math.min(...costs), Math.max(...costs)];
    const dear = formatMoney(money(most, list.currency));
    const own = list.currency === this.currency ? null : formatMoney(money(least, list.currency));
    const by = costChoices(entry, size).join(' and ');
    const range = own ? `${formatAmount(money(least, list.currency))}–${dear} by ${by}` : `to ${dear} by ${by}`;
    return { ...this.told(least, list), note: most > least ? range : own };
  }

  /** Charges for areas; none where no blank has a second area and nothing is charged for printing. */
  charges(): ComparedRow[] {
    return this.areaNames
      .map((name) => this.row(name, (entry) => this.charge(entry, name)))
      .filter((r) => this.entries.some(({ blank }) => blank.areas.length > 1) || r.cells.some((cell) => cell?.note));
  }

  private charge({ blank, list }: ComparedBlank, name: string): Value | null {
    const area = areaNamed(blank, name);
    if (!area) return null;
    const technique = ownEntry(list.techniqueMinor, area.key) ?? 0;
    const note = technique > 0 ? `and ${this.told(technique, list).text} for ${TECHNIQUE_NAMES[area.technique]}` : null;
    return { ...this.told(ownEntry(list.extraAreaMinor, area.key) ?? 0, list), note };
  }

  /** What a parcel costs at the door in a country. */
  delivery(country: string, name: string): ComparedRow {
    return this.row(name, (entry) => {
      const { blank, list } = entry;
      const line = shippingTo(list, country);
      const baseMinor = Math.min(...costsOf(entry, this.sizeOf(entry)));
      if (!Number.isFinite(baseMinor)) return { text: 'not made' };
      if (!line) return { text: 'not sent there' };
      const least = {
        currency: list.currency,
        baseMinor,
        printMinor: leastPrintMinor(
          blank.areas.map((area) => area.key),
          list.techniqueMinor,
        ),
        discountPpm: ownEntry(this.discounts, blank.partner.id) ?? 0,
      };
      const cost = parcelCost(least, line, this.items, this.currency, this.rates);
      return {
        text: formatMoney(money(cost.totalMinor, this.currency)),
        note: `shipping ${formatMoney(money(cost.shippingMinor, this.currency))}, ${line.daysMin}–${line.daysMax} days`,
        amountMinor: cost.totalMinor,
      };
    });
  }

  areas(): ComparedRow[] {
    return this.areaNames.map((name) =>
      this.row(name, (entry) => {
        const area = areaNamed(entry.blank, name);
        const variant = variantsOfSize(entry.blank, this.sizeOf(entry))[0];
        const id = area && variant ? geometryIdFor(area, variant.values) : null;
        const g = id ? ownEntry(entry.blank.geometries, id) : null;
        if (!g) return null;
        const { widthPx, heightPx } = printSizePx(g);
        return {
          text: `${g.widthMm} × ${g.heightMm} mm`,
          note: `${widthPx} × ${heightPx} px at ${g.dpi} DPI${g.bleedMm > 0 ? `, bleed ${g.bleedMm} mm` : ''}`,
        };
      }),
    );
  }

  facts(): ComparedRow[] {
    const fact = (label: string, text: (blank: Blank) => string) =>
      this.row(label, ({ blank }) => ({ text: text(blank) }));
    return [
      this.row('Making', ({ blank: { makingDays } }) => ({
        text: `${makingDays.min}–${makingDays.max} days`,
        amountMinor: makingDays.max,
      })),
      fact('Technique', (blank) => [...new Set(blank.areas.map((area) => TECHNIQUE_NAMES[area.technique]))].join(', ')),
      fact('Material', (blank) => blank.facts.Material ?? blank.material),
      fact('Sizes', (blank) => sizeNames(blank).join(', ') || 'one'),
      fact('In stock', (blank) => {
        const able = blank.variants.filter((variant) => !variant.ended);
        return `${able.filter((variant) => variant.inStock).length} of ${able.length} variants`;
      }),
    ];
  }
}

const areaNamed = (blank: Blank, name: string) => blank.areas.find((area) => area.name === name) ?? null;

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
