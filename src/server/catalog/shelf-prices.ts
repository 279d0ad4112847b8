import type { ShelfBlank, ShelfPrices } from '@/core/shelf/shelf';
import { groupBy } from '@/core/group';
import type { Context } from '../context';
import { loadShipping, shippingLine } from './offers';

type Columns = ShelfPrices['blanks'] extends ReadonlyMap<string, infer C> ? C : never;
type CostRow = [blankId: string, key: string, minor: number, stock: number | null, ended: number];

/** A price list laid beside the shelf's variants. */
export async function loadShelfPrices(
  { db, ...ctx }: Context,
  shelf: ReadonlyMap<string, ShelfBlank>,
  list: { readonly id: string; readonly currency: string; readonly validFrom: string },
): Promise<ShelfPrices> {
  const [rows, charges, lines] = await Promise.all([
    db.arrays<CostRow>(
      'SELECT blank_id, variant_key, base_cost_minor, stock, ended FROM price_list_variant WHERE price_list_id = ? ORDER BY blank_id',
      [list.id],
    ),
    db.rows<{ blankId: string; least: number }>(
      'SELECT blank_id AS blankId, MIN(technique_minor) AS least FROM price_list_area WHERE price_list_id = ? GROUP BY blank_id',
      [list.id],
    ),
    loadShipping({ db, ...ctx }, [list.id]),
  ]);
  const printing = new Map(charges.map(({ blankId, least }) => [blankId, Number(least)]));
  const blanks = new Map<string, Columns>();
  for (const [blankId, own] of groupBy(rows, ([id]) => id)) {
    const blank = shelf.get(blankId);
    if (blank) blanks.set(blankId, columnsOf(blank, own, printing.get(blankId) ?? 0));
  }
  const shipping = groupBy(lines, ({ parcelClass }) => parcelClass);
  return {
    currency: list.currency,
    validFrom: list.validFrom,
    blanks,
    shipping: new Map([...shipping].map(([parcelClass, some]) => [parcelClass, some.map(shippingLine)])),
  };
}

function columnsOf({ variants: { keys } }: ShelfBlank, rows: readonly CostRow[], printMinor: number): Columns {
  const index = new Map(keys.map((variantKey, i) => [variantKey, i]));
  const columns = {
    costMinor: new Int32Array(keys.length).fill(-1),
    printMinor,
    stock: new Int32Array(keys.length).fill(-1),
    ended: new Uint8Array(keys.length),
  };
  for (const [, key, minor, stock, ended] of rows) {
    const at = index.get(key);
    if (at === undefined) continue;
    columns.costMinor[at] = minor;
    if (stock !== null) columns.stock[at] = stock;
    columns.ended[at] = ended;
  }
  return columns;
}
