import type { Context } from '../context';

/**
 * Every variant of a partner as it stands before a price list is read, in columns: a partner can have hundreds of thousands. Rows are in
 * the order of price_list_variant's key, so that writing them back goes in order.
 */
export interface KnownVariants {
  readonly count: number;
  readonly blankIds: readonly string[];
  readonly keys: readonly string[];
  /** -1: no cost. */
  readonly costMinor: Int32Array;
  /** As in force: the list's, else the catalog's. */
  readonly stock: Int32Array;
  /** Whether the list itself says a stock. */
  readonly listStock: Uint8Array;
  readonly ended: Uint8Array;
  /** Whether the catalog itself says that it ended: no price list brings such a variant back. */
  readonly endedInCatalog: Uint8Array;
  readonly indexOf: ReadonlyMap<string, number>;
}

type Row = [
  sku: string,
  blankId: string,
  key: string,
  cost: number | null,
  listStock: number | null,
  stock: number,
  ended: number,
  gone: number,
];

/** Blanks whose variants are fetched at once: what the driver holds is this many, not the whole partner. */
const BLANKS_AT_ONCE = 100;

export async function loadKnownVariants(
  ctx: Context,
  partnerId: string,
  baseListId: string | null,
): Promise<KnownVariants> {
  const blanks = await ctx.db.arrays<[id: string]>('SELECT id FROM blank WHERE partner_id = ? ORDER BY id', [
    partnerId,
  ]);
  const [{ n }] = (await ctx.db.rows<{ n: number }>('SELECT COUNT(*) AS n FROM blank_variant WHERE partner_id = ?', [
    partnerId,
  ])) as [{ n: number }];
  let count = 0;
  const blankIds: string[] = [];
  const keys: string[] = [];
  const indexOf = new Map<string, number>();
  const costMinor = new Int32Array(n).fill(-1);
  const stock = new Int32Array(n);
  const [listStock, ended, endedInCatalog] = [new Uint8Array(n), new Uint8Array(n), new Uint8Array(n)];
  // Texts that repeat are kept once: blank ids, and the keys that blanks of one shape share.
  const texts = new Map<string, string>();
  const once = (text: string) => {
    const have = texts.get(text);
    if (have !== undefined) return have;
    texts.set(text, text);
    return text;
  };
  for (let from = 0; from < blanks.length; from += BLANKS_AT_ONCE) {
    const ids = blanks.slice(from, from + BLANKS_AT_ONCE).map(([id]) => id);
    const rows = await ctx.db.arrays<Row>(
      `SELECT v.sku, v.blank_id, v.variant_key, p.base_cost_minor, p.stock, v.stock, COALESCE(p.ended, 0), v.ended_at IS NOT NULL
       FROM blank_variant v LEFT JOIN price_list_variant p ON p.price_list_id = ? AND p.blank_id = v.blank_id AND p.variant_key = v.variant_key
       WHERE v.blank_id IN (${ids.map(() => '?').join(',')}) AND v.sku IS NOT NULL ORDER BY v.blank_id, v.variant_key`,
      [baseListId ?? '', ...ids],
    );
    for (const [sku, blankId, key, cost, ownStock, catalogStock, ownEnded, gone] of rows) {
      const at = count;
      // A variant that came in between the count and here is left for the next list.
      if (at >= n) break;
      count += 1;
      blankIds.push(once(blankId));
      keys.push(once(key));
      indexOf.set(sku, at);
      if (cost !== null) costMinor[at] = cost;
      stock[at] = ownStock ?? catalogStock;
      listStock[at] = ownStock === null ? 0 : 1;
      ended[at] = ownEnded || gone ? 1 : 0;
      endedInCatalog[at] = gone;
    }
  }
  return { count, blankIds, keys, costMinor, stock, listStock, ended, endedInCatalog, indexOf };
}
