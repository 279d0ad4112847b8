import { PRICE_COLUMNS } from '@/core/partner-file/price-csv';
import { safeLine } from '@/core/csv/safe';
import { formatAmount, money } from '@/core/pricing/money';
import { parseVariantKey } from '@/core/catalog/blank';
import { listsInForce } from '../catalog/offers';
import type { Context } from '../context';
import { findPartner } from './price-lists';

/** Rows that are fetched at once. */
const PAGE = 5000;

/** A partner's price list as it is in force for a workspace, in the form that is read in: see docs/price-lists.md. */
export async function* exportPriceList(ctx: Context, workspaceId: string, partnerId: string): AsyncGenerator<string> {
  const partner = await findPartner(ctx, partnerId);
  const list = (await listsInForce(ctx.db, workspaceId, [partnerId])).get(partnerId);
  yield safeLine(PRICE_COLUMNS);
  if (!list) return;
  let after = '';
  for (;;) {
    const rows = await ctx.db.rows<{
      sku: string;
      blank: string;
      key: string;
      minor: number;
      stock: number;
      ended: number;
    }>(
      `SELECT v.sku, b.name AS blank, v.variant_key AS \`key\`, p.base_cost_minor AS minor, COALESCE(p.stock, v.stock) AS stock, (p.ended OR v.ended_at IS NOT NULL) AS ended
       FROM blank_variant v JOIN blank b ON b.id = v.blank_id JOIN price_list_variant p ON p.price_list_id = ? AND p.blank_id = v.blank_id AND p.variant_key = v.variant_key
       WHERE v.partner_id = ? AND v.sku > ? ORDER BY v.sku LIMIT ?`,
      [list.id, partner.id, after, PAGE],
    );
    if (rows.length === 0) return;
    after = rows.at(-1)!.sku;
    yield rows
      .map((row) =>
        safeLine([
          row.sku,
          row.blank,
          Object.values(parseVariantKey(row.key)).join(', '),
          formatAmount(money(Number(row.minor), list.currency)),
          list.currency,
          String(row.stock),
          row.ended ? 'yes' : 'no',
        ]),
      )
      .join('');
  }
}
