import { notFound } from '@/core/errors';
import { withStock, type Blank, type PriceList, type ShippingLine, type StockUpdate } from '@/core/catalog/blank';
import { groupBy } from '@/core/group';
import type { ShotDocument } from '@/core/shot/shot';
import type { Context } from '../context';
import { keptBlanks } from './kept-blanks';
import type { Database } from '../db/pool';
import {
  blankRows,
  type AreaGeometryRow,
  type AreaRow,
  type BlankRow,
  type OptionRow,
  type OptionValueRow,
} from './blank-rows';

/** A shot as stored. */
export interface StoredShot {
  readonly id: string;
  readonly blankId: string;
  readonly code: string;
  readonly document: ShotDocument;
  readonly contentHash: string;
  /** The workspace whose own it is; null for the catalog's. */
  readonly workspaceId: string | null;
  readonly photographId: string | null;
}

/** Blanks with everything of them; those that are kept in memory are not read anew while the catalog's version stays. */
export async function loadBlanks(ctx: Context, ids: readonly string[]): Promise<Blank[]> {
  if (ids.length === 0) return [];
  const kept = await keptBlanks(ctx);
  const have = new Map(ids.map((id) => [id, kept.get(id)]));
  const missing = ids.filter((id) => !have.get(id));
  if (missing.length > 0) {
    const reading = readBlanks(ctx, missing);
    for (const id of missing) {
      const one = reading.then((blanks) => blanks.find((blank) => blank.id === id) ?? null);
      have.set(id, one);
      kept.set(id, one);
      // What could not be read is tried again by whoever asks next.
      one.catch(() => kept.delete(id));
    }
  }
  const blanks = await Promise.all([...have.values()]);
  return blanks.filter((blank) => blank != null);
}

/** Blanks as the database has them, in a fixed number of queries whatever their number. */
async function readBlanks(ctx: Context, ids: readonly string[]): Promise<Blank[]> {
  const rows = await blankRows(ctx, ids);
  const of = <T extends { blankId: string }>(some: T[]) => {
    const groups = groupBy(some, (row) => row.blankId);
    return (id: string): readonly T[] => groups.get(id) ?? [];
  };
  const piecesOf = of(rows.pieces);
  const areasOf = of(rows.areas);
  const geometriesOf = of(rows.areaGeometries);
  const optionsOf = of(rows.options);
  const valuesOf = of(rows.optionValues);
  const variantsOf = of(rows.variants);
  const variantValuesOf = of(rows.variantValues);
  return rows.blanks.map((b): Blank => {
    const geometries = geometriesOf(b.id);
    const chosen = groupBy(variantValuesOf(b.id), (row) => row.key);
    return {
      ...plainBlank(b),
      pieces: piecesOf(b.id).map(({ code, name }) => ({ code, name })),
      areas: areasOf(b.id).map((area) => areaOf(area, geometries)),
      geometries: Object.fromEntries(geometries.map((g) => [g.geometryId, g.document])),
      options: optionsOf(b.id).map((option) => optionOf(option, valuesOf(b.id))),
      variants: variantsOf(b.id).map(({ key, partnerSku, packWeightG, stock, endedAt }) => ({
        key,
        partnerSku: partnerSku ?? '',
        packWeightG,
        stock,
        inStock: stock > 0,
        ended: endedAt !== null,
        values: Object.fromEntries((chosen.get(key) ?? []).map((v) => [v.optionCode, v.valueCode])),
      })),
    };
  });
}

/** What stands in a blank's own row. */
const plainBlank = (b: BlankRow): Omit<Blank, 'pieces' | 'areas' | 'geometries' | 'options' | 'variants'> => ({
  id: b.id,
  code: b.code,
  name: b.name,
  kind: b.kind,
  description: b.description,
  facts: b.facts,
  partner: {
    id: b.partnerId,
    code: b.partnerCode,
    name: b.partnerName,
    country: b.partnerCountry,
    currency: b.partnerCurrency,
  },
  material: b.material,
  shipsFrom: b.shipsFrom || b.partnerCountry,
  sizeGuide: b.sizeGuide,
  parcelClass: b.parcelClass,
  makingDays: { min: b.makingDaysMin, max: b.makingDaysMax },
});

const areaOf = (
  { key, pieceCode, name, technique, edges }: AreaRow,
  geometries: readonly AreaGeometryRow[],
): Blank['areas'][number] => ({
  key,
  pieceCode,
  name,
  technique,
  ...(edges ? { edges } : {}),
  geometries: geometries.filter((g) => g.areaKey === key).map(({ geometryId, applies }) => ({ geometryId, applies })),
});

const optionOf = (
  { code, name, pieceCode }: OptionRow,
  values: readonly OptionValueRow[],
): Blank['options'][number] => ({
  code,
  name,
  pieceCode,
  values: values
    .filter((v) => v.optionCode === code)
    .map(({ code: valueCode, name: valueName, hex, heather }) => ({
      code: valueCode,
      name: valueName,
      hex,
      ...(heather ? { heather: true } : {}),
    })),
});

export async function loadBlank(ctx: Context, id: string): Promise<Blank> {
  const [blank] = await loadBlanks(ctx, [id]);
  if (!blank) throw notFound('blank', id);
  return blank;
}

interface ListInForce {
  readonly id: string;
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
    `SELECT id, partner_id AS partnerId, currency, DATE_FORMAT(valid_from, '%Y-%m-%d') AS validFrom FROM price_list
     WHERE ${partnerIds ? `partner_id IN (${partnerIds.map(() => '?').join(',')}) AND ` : ''}(workspace_id IS NULL OR workspace_id = ?) AND valid_from <= COALESCE(?, UTC_DATE()) AND state = 'taken'
     ORDER BY workspace_id IS NULL, valid_from DESC, COALESCE(taken_at, created_at) DESC, id`,
    [...(partnerIds ?? []), workspaceId, day],
  );
  const inForce = new Map<string, ListInForce>();
  for (const list of lists) if (!inForce.has(list.partnerId)) inForce.set(list.partnerId, list);
  return inForce;
}

const SHIPPING_COLUMNS = `price_list_id AS listId, parcel_class AS parcelClass, region, countries, first_minor AS firstMinor, further_minor AS furtherMinor, days_min AS daysMin, days_max AS daysMax`;

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

/** Blanks with prices, stock and ended variants as they are in force for a workspace. */
export async function loadOffers(ctx: Context, workspaceId: string, ids: readonly string[]): Promise<Offer[]> {
  const blanks = await loadBlanks(ctx, ids);
  const inForce = await listsInForce(ctx.db, workspaceId, [...new Set(blanks.map((blank) => blank.partner.id))]);
  return offersUnder(ctx, blanks, inForce);
}

export async function loadOffer(ctx: Context, workspaceId: string, id: string): Promise<Offer> {
  const [offer] = await loadOffers(ctx, workspaceId, [id]);
  if (!offer) throw notFound('blank', id);
  return offer;
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
        .map(({ region, countries, firstMinor, furtherMinor, daysMin, daysMax }) => ({
          region,
          countries,
          firstMinor: Number(firstMinor),
          furtherMinor: Number(furtherMinor),
          daysMin,
          daysMax,
        })),
    };
    return { blank: withStock(blank, news), list };
  });
}

const SHOT_COLUMNS =
  'id, blank_id AS blankId, code, document, content_hash AS contentHash, workspace_id AS workspaceId, photograph_id AS photographId';

/** Shots of blanks: the catalog's in their order, then the workspace's own, the oldest first. */
export async function loadShots(ctx: Context, blankIds: readonly string[], workspaceId: string): Promise<StoredShot[]> {
  if (blankIds.length === 0) return [];
  return ctx.db.rows<StoredShot>(
    `SELECT ${SHOT_COLUMNS} FROM shot WHERE blank_id IN (${blankIds.map(() => '?').join(',')}) AND (workspace_id IS NULL OR workspace_id = ?)
     ORDER BY blank_id, workspace_id IS NOT NULL, position, id`,
    [...blankIds, workspaceId],
  );
}

/** One shot that a workspace may use. */
export async function findShot(ctx: Context, workspaceId: string, id: string): Promise<StoredShot> {
  const shot = await ctx.db.row<StoredShot>(
    `SELECT ${SHOT_COLUMNS} FROM shot WHERE id = ? AND (workspace_id IS NULL OR workspace_id = ?)`,
    [id, workspaceId],
  );
  if (!shot) throw notFound('shot', id);
  return shot;
}

/** The blobs of a shot's files, by file name. */
export async function passesOfShot(ctx: Context, shotId: string): Promise<Record<string, string>> {
  const rows = await ctx.db.rows<{ file: string; sha256: string }>(
    'SELECT file, sha256 FROM shot_pass WHERE shot_id = ?',
    [shotId],
  );
  return Object.fromEntries(rows.map((row) => [row.file, row.sha256]));
}
