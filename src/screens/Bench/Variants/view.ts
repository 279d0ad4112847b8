import {
  colorOption,
  type Blank,
  type BlankVariant,
  type Option,
  type OptionValue,
  type PriceList,
} from '@/core/catalog/blank';
import type { ProductDocument } from '@/core/document/document';
import { leftOutOf } from '@/core/document/offered';
import { formatAmount, money } from '@/core/pricing/money';
import { orderedValues } from '@/core/variants/order';
import { ownEntry } from '@/core/own-entry';

/** One cell of the grid: a variant, or a place where the blank has none. */
export interface GridCellView {
  readonly variant: BlankVariant | null;
  readonly name: string;
  readonly chosen: boolean;
  /** Base cost, in the list's currency. */
  readonly cost: string;
  /** A, B, C … from the cheapest: variants of one letter cost the same. */
  readonly tier: string;
  /** `ended`, `out`, or how many are there. */
  readonly stock: string;
  readonly state: 'there' | 'out' | 'ended' | 'none';
  /** It is not for this store to choose: the product does not have it. */
  readonly closed?: boolean;
}

export interface GridView {
  readonly rowOption: Option | null;
  readonly columnOption: Option | null;
  /** Further options: one value of each is in view at a time. */
  readonly tabs: readonly Option[];
  readonly rows: readonly (OptionValue | null)[];
  readonly columns: readonly (OptionValue | null)[];
  readonly cells: readonly (readonly GridCellView[])[];
}

/** Letters of tiers by cost, from the cheapest. */
export function tierLetters(blank: Blank, list: PriceList): ReadonlyMap<number, string> {
  const costs = [
    ...new Set(blank.variants.flatMap(({ key, ended }) => (ended ? [] : (ownEntry(list.baseCostMinor, key) ?? [])))),
  ];
  return new Map(
    costs.sort((a, b) => a - b).map((cost, i) => [cost, i < 26 ? String.fromCharCode(65 + i) : `${i + 1}`]),
  );
}

/** The grid of a blank's variants: colors down where it has them, the next option across, the others as tabs. `across`: the value in view of each tab. */
export function gridView(
  doc: ProductDocument,
  blank: Blank,
  list: PriceList,
  across: { readonly [optionCode: string]: string },
): GridView {
  const color = colorOption(blank);
  const others = blank.options.filter((option) => option !== color);
  const rowOption = color ?? (others.length > 1 ? others[0]! : null);
  const columnOption = others.find((option) => option !== rowOption) ?? null;
  const tabs = others.filter((option) => option !== rowOption && option !== columnOption);
  const fixed = Object.fromEntries(
    tabs.map((tab) => [tab.code, ownEntry(across, tab.code) ?? orderedValues(doc, tab)[0]!.code]),
  );
  const rows = rowOption ? orderedValues(doc, rowOption) : [null];
  const columns = columnOption ? orderedValues(doc, columnOption) : [null];
  const letters = tierLetters(blank, list);
  const cells = rows.map((row) =>
    columns.map((column): GridCellView => {
      const values = {
        ...fixed,
        ...(rowOption && row ? { [rowOption.code]: row.code } : {}),
        ...(columnOption && column ? { [columnOption.code]: column.code } : {}),
      };
      const variant =
        blank.variants.find((v) =>
          Object.entries(values).every(([code, value]) => ownEntry(v.values, code) === value),
        ) ?? null;
      const name = [row?.name, column?.name].filter(Boolean).join(', ');
      if (!variant) return { variant, name, chosen: false, cost: '', tier: '', stock: '', state: 'none' };
      const costMinor = ownEntry(list.baseCostMinor, variant.key);
      return {
        variant,
        name,
        chosen: Object.hasOwn(doc.variants, variant.key),
        cost: costMinor === undefined ? '' : formatAmount(money(costMinor, list.currency)),
        tier: costMinor === undefined ? '' : (letters.get(costMinor) ?? ''),
        stock: variant.ended
          ? 'ended'
          : variant.inStock
            ? variant.stock > 999
              ? '999+'
              : String(variant.stock)
            : 'out',
        state: variant.ended ? 'ended' : variant.inStock ? 'there' : 'out',
      };
    }),
  );
  return { rowOption, columnOption, tabs, rows, columns, cells };
}

/** The grid as one store sells it: what the product does not have cannot be sold there. */
export function storeGridView(view: GridView, doc: ProductDocument, storeId: string): GridView {
  const without = new Set(leftOutOf(doc, storeId));
  const cell = (one: GridCellView): GridCellView => ({
    ...one,
    chosen: one.chosen && !without.has(one.variant!.key),
    closed: !one.chosen,
  });
  return { ...view, cells: view.cells.map((line) => line.map(cell)) };
}

/** Whether a cell can be changed: an ended variant can only be dropped, and a store sells only what the product has. */
export const canChoose = ({ variant, chosen, closed = false }: GridCellView): boolean =>
  variant !== null && !closed && (!variant.ended || chosen);
