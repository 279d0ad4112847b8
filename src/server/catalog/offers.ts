import { withStock, type Blank, type PriceList, type ShippingLine, type StockUpdate } from '@/core/catalog/blank';
import { groupBy } from '@/core/group';
import type { Context } from '../context';
import type { Database } from '../db/pool';

export interface ListInForce {
  readonly id: string;
  /** How often its rows were written whole. */
  readonly written: number;
  readonly partnerId: string;
  readonly currency: string;
  readonly validFrom: string;
}

/** The list in force of each partner for a workspace: the newest that is valid, the workspace's own before a shared one. By partner id. */
export async function listsInForce(
  db: Database,
  workspaceId: string,
  partnerIds?: readonly string[],
  /** The day, YYYY-MM-DD; today when absent. */
  day: string | null = null,
): Promise<Map<string, ListInForce>> {
  if (partnerIds && partnerIds.length === 0) return new Map();
  const lists = await db.rows<ListInForce>(
    `SELECT id, written, partner_id AS partnerId, currency, DATE_FORMAT(valid_from, '%Y-%m-%d') AS validFrom FROM price_list
     WHERE ${partnerIds ? `partner_id IN (${partnerIds.map(() => '?').join(',')}) AND ` : ''}(workspace_id IS NULL OR workspace_id = ?) AND valid_from <= COALESCE(?, UTC_DATE()) AND state = 'taken'
     ORDER BY workspace_id IS NULL, valid_from DESC, COALESCE(taken_at, created_at) DESC, id`,
    [...(partnerIds ?? []), workspaceId, day],
  );
  const inForce = new Map<string, ListInForce>();
  for (const list of lists) if (!inForce.has(list.partnerId)) inForce.set(list.partnerId, list);
  return inForce;
}

const SHIPPING_COLUMNS = `price_list_id AS listId, parcel_class AS parcelClass, region, countries, first_minor AS firstMinor, further_minor AS furtherMinor, days_min AS daysMin, days_max AS daysMax`;

/** A line without the list and parcel class that it stands in. */
export const shippingLine = ({
  region,
  countries,
  firstMinor,
  furtherMinor,
  daysMin,
  daysMax,
}: ShippingLine): ShippingLine => ({
  region,
  countries,
  firstMinor: Number(firstMinor),
  furtherMinor: Number(furtherMinor),
  daysMin,
  daysMax,
});

/** Shipping lines of price lists, in their order. */
export const loadShipping = (
  ctx: Context,
  listIds: readonly string[],
): Promise<(ShippingLine & { listId: string; parcelClass: string })[]> =>
  listIds.length === 0
    ? Promise.resolve([])
    : ctx.db.rows(
        `SELECT ${SHIPPING_COLUMNS} FROM price_list_shipping WHERE price_list_id IN (${listIds.map(() => '?').join(',')}) ORDER BY price_list_id, position`,
        [...listIds],
      );

/** A blank as a workspace sees it, with the price list in force there; null when its partner has none. */
export interface Offer {
  readonly blank: Blank;
  readonly list: PriceList | null;
}

/** The blanks with the price lists given by partner id, in force or not. */
export async function offersUnder(
  ctx: Context,
  blanks: readonly Blank[],
  lists: ReadonlyMap<string, ListInForce>,
): Promise<Offer[]> {
  const listIds = [...lists.values()].map((list) => list.id);
  if (blanks.length === 0 || listIds.length === 0) return blanks.map((blank) => ({ blank, list: null }));
  const values = [...listIds, ...blanks.map((blank) => blank.id)];
  const where = `price_list_id IN (${listIds.map(() => '?').join(',')}) AND blank_id IN (${blanks.map(() => '?').join(',')})`;
  const [variants, areas, shipping, inserts] = await Promise.all([
    ctx.db.rows<{ blankId: string; key: string; minor: number; stock: number | null; ended: number }>(
      `SELECT blank_id AS blankId, variant_key AS \`key\`, base_cost_minor AS minor, stock, ended FROM price_list_variant WHERE ${where}`,
      values,
    ),
    ctx.db.rows<{ blankId: string; key: string; minor: number; techniqueMinor: number }>(
      `SELECT blank_id AS blankId, area_key AS \`key\`, extra_minor AS minor, technique_minor AS techniqueMinor FROM price_list_area WHERE ${where}`,
      values,
    ),
    loadShipping(ctx, listIds),
    ctx.db.rows<{ listId: string; code: string; name: string; costMinor: number }>(
      `SELECT price_list_id AS listId, code, name, cost_minor AS costMinor FROM price_list_insert WHERE price_list_id IN (${listIds.map(() => '?').join(',')}) ORDER BY price_list_id, position`,
      listIds,
    ),
  ]);
  const variantsOf = groupBy(variants, (row) => row.blankId);
  const areasOf = groupBy(areas, (row) => row.blankId);
  return blanks.map((blank) => {
    const inForce = lists.get(blank.partner.id);
    if (!inForce) return { blank, list: null };
    const own = variantsOf.get(blank.id) ?? [];
    const charges = areasOf.get(blank.id) ?? [];
    const news: StockUpdate = {
      stock: Object.fromEntries(own.flatMap((row) => (row.stock === null ? [] : [[row.key, row.stock]]))),
      ended: new Set(own.filter((row) => row.ended).map((row) => row.key)),
    };
    const list: PriceList = {
      id: inForce.id,
      currency: inForce.currency,
      validFrom: inForce.validFrom,
      baseCostMinor: Object.fromEntries(own.map((row) => [row.key, Number(row.minor)])),
      extraAreaMinor: Object.fromEntries(charges.map((row) => [row.key, Number(row.minor)])),
      techniqueMinor: Object.fromEntries(
        charges.filter((row) => Number(row.techniqueMinor) > 0).map((row) => [row.key, Number(row.techniqueMinor)]),
      ),
      inserts: inserts
        .filter((row) => row.listId === inForce.id)
        .map(({ code, name, costMinor }) => ({ code, name, costMinor: Number(costMinor) })),
      shipping: shipping
        .filter((line) => line.listId === inForce.id && line.parcelClass === blank.parcelClass)
        .map(shippingLine),
    };
    return { blank: withStock(blank, news), list };
  });
}
