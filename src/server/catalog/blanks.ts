import { notFound } from '@/core/errors';
import { type Area, type Blank, type PriceList, type ShippingLine } from '@/core/catalog/blank';
import type { Geometry, Technique } from '@/core/geometry/area';
import type { ShotDocument } from '@/core/shot/shot';
import type { Context } from '../context';

interface BlankRow {
  id: string;
  code: string;
  name: string;
  kind: string;
  description: string;
  facts: Record<string, string>;
  partnerId: string;
  partnerCode: string;
  partnerName: string;
  partnerCountry: string;
  partnerCurrency: string;
  parcelClass: string;
  makingDaysMin: number;
  makingDaysMax: number;
}

/** A shot as stored: its document, and the blobs of its passes by file name. */
export interface StoredShot {
  readonly id: string;
  readonly blankId: string;
  readonly code: string;
  readonly document: ShotDocument;
  readonly contentHash: string;
}

function groupBy<T>(rows: readonly T[], keyOf: (row: T) => string): Map<string, T[]> {
  const groups = new Map<string, T[]>();
  for (const row of rows) {
    const group = groups.get(keyOf(row));
    if (group) group.push(row);
    else groups.set(keyOf(row), [row]);
  }
  return groups;
}

/** Blanks with everything of them, all or the named ones, in a fixed number of queries whatever their number. */
export async function loadBlanks(ctx: Context, ids?: readonly string[]): Promise<Blank[]> {
  if (ids && ids.length === 0) return [];
  const where = (column: string) => (ids ? ` WHERE ${column} IN (${ids.map(() => '?').join(',')})` : '');
  const values = ids ?? [];
  const [blanks, pieces, areas, areaGeometries, options, optionValues, variants, variantValues] = await Promise.all([
    ctx.db.rows<BlankRow>(
      `SELECT b.id, b.code, b.name, g.kind, b.description, b.facts, b.parcel_class AS parcelClass, b.making_days_min AS makingDaysMin, b.making_days_max AS makingDaysMax,
       p.id AS partnerId, p.code AS partnerCode, p.name AS partnerName, p.country AS partnerCountry, p.currency AS partnerCurrency
       FROM blank b JOIN good g ON g.id = b.good_id JOIN partner p ON p.id = b.partner_id${where('b.id')} ORDER BY g.kind, b.name, p.name`,
      values,
    ),
    ctx.db.rows<{ blankId: string; code: string; name: string }>(
      `SELECT blank_id AS blankId, code, name FROM piece${where('blank_id')} ORDER BY blank_id, position`,
      values,
    ),
    ctx.db.rows<{ blankId: string; key: string; pieceCode: string; name: string; technique: Technique }>(
      `SELECT blank_id AS blankId, area_key AS \`key\`, piece_code AS pieceCode, name, technique FROM area${where('blank_id')} ORDER BY blank_id, position`,
      values,
    ),
    ctx.db.rows<{
      blankId: string;
      areaKey: string;
      geometryId: string;
      applies: Area['geometries'][number]['applies'];
      document: Geometry;
    }>(
      `SELECT a.blank_id AS blankId, a.area_key AS areaKey, a.geometry_id AS geometryId, a.applies, g.document FROM area_geometry a JOIN geometry g ON g.id = a.geometry_id${where('a.blank_id')} ORDER BY a.blank_id, a.area_key, a.position`,
      values,
    ),
    ctx.db.rows<{ blankId: string; code: string; name: string }>(
      `SELECT blank_id AS blankId, option_code AS code, name FROM blank_option${where('blank_id')} ORDER BY blank_id, position`,
      values,
    ),
    ctx.db.rows<{ blankId: string; optionCode: string; code: string; name: string; hex: string | null }>(
      `SELECT blank_id AS blankId, option_code AS optionCode, value_code AS code, name, hex FROM blank_option_value${where('blank_id')} ORDER BY blank_id, option_code, position`,
      values,
    ),
    ctx.db.rows<{ blankId: string; key: string; weightG: number; stock: number; endedAt: Date | null }>(
      `SELECT blank_id AS blankId, variant_key AS \`key\`, weight_g AS weightG, stock, ended_at AS endedAt FROM blank_variant${where('blank_id')} ORDER BY blank_id, position`,
      values,
    ),
    ctx.db.rows<{ blankId: string; key: string; optionCode: string; valueCode: string }>(
      `SELECT blank_id AS blankId, variant_key AS \`key\`, option_code AS optionCode, value_code AS valueCode FROM blank_variant_value${where('blank_id')}`,
      values,
    ),
  ]);
  const of = <T extends { blankId: string }>(rows: T[]) => groupBy(rows, (row) => row.blankId);
  const [piecesOf, areasOf, geometriesOf, optionsOf, valuesOf, variantsOf, variantValuesOf] = [
    of(pieces),
    of(areas),
    of(areaGeometries),
    of(options),
    of(optionValues),
    of(variants),
    of(variantValues),
  ];
  return blanks.map((b) => {
    const geometries = geometriesOf.get(b.id) ?? [];
    const chosen = groupBy(variantValuesOf.get(b.id) ?? [], (row) => row.key);
    return {
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
      parcelClass: b.parcelClass,
      makingDays: { min: b.makingDaysMin, max: b.makingDaysMax },
      pieces: (piecesOf.get(b.id) ?? []).map(({ code, name }) => ({ code, name })),
      areas: (areasOf.get(b.id) ?? []).map(({ key, pieceCode, name, technique }) => ({
        key,
        pieceCode,
        name,
        technique,
        geometries: geometries
          .filter((g) => g.areaKey === key)
          .map(({ geometryId, applies }) => ({ geometryId, applies })),
      })),
      geometries: Object.fromEntries(geometries.map((g) => [g.geometryId, g.document])),
      options: (optionsOf.get(b.id) ?? []).map(({ code, name }) => ({
        code,
        name,
        values: (valuesOf.get(b.id) ?? [])
          .filter((v) => v.optionCode === code)
          .map(({ code: valueCode, name: valueName, hex }) => ({ code: valueCode, name: valueName, hex })),
      })),
      variants: (variantsOf.get(b.id) ?? []).map(({ key, weightG, stock, endedAt }) => ({
        key,
        weightG,
        inStock: stock > 0,
        ended: endedAt !== null,
        values: Object.fromEntries((chosen.get(key) ?? []).map((v) => [v.optionCode, v.valueCode])),
      })),
    };
  });
}

export async function loadBlank(ctx: Context, id: string): Promise<Blank> {
  const [blank] = await loadBlanks(ctx, [id]);
  if (!blank) throw notFound('blank', id);
  return blank;
}

/** The price list in force for each blank in a workspace: the newest that is valid, the workspace's own before a shared one. Blanks without one are left out. */
export async function loadPriceLists(
  ctx: Context,
  workspaceId: string,
  blanks: readonly Blank[],
): Promise<Map<string, PriceList>> {
  if (blanks.length === 0) return new Map();
  const partnerIds = [...new Set(blanks.map((blank) => blank.partner.id))];
  const lists = await ctx.db.rows<{ id: string; partnerId: string; currency: string; validFrom: string }>(
    `SELECT id, partner_id AS partnerId, currency, DATE_FORMAT(valid_from, '%Y-%m-%d') AS validFrom FROM price_list
     WHERE partner_id IN (${partnerIds.map(() => '?').join(',')}) AND (workspace_id IS NULL OR workspace_id = ?) AND valid_from <= UTC_DATE()
     ORDER BY workspace_id IS NULL, valid_from DESC, created_at DESC, id`,
    [...partnerIds, workspaceId],
  );
  const inForce = new Map<string, (typeof lists)[number]>();
  for (const list of lists) if (!inForce.has(list.partnerId)) inForce.set(list.partnerId, list);
  const listIds = [...inForce.values()].map((list) => list.id);
  if (listIds.length === 0) return new Map();
  const marks = listIds.map(() => '?').join(',');
  const blankIds = blanks.map((blank) => blank.id);
  const blankMarks = blankIds.map(() => '?').join(',');
  const [costs, extras, shipping] = await Promise.all([
    ctx.db.rows<{ blankId: string; key: string; minor: number }>(
      `SELECT blank_id AS blankId, variant_key AS \`key\`, base_cost_minor AS minor FROM price_list_variant WHERE price_list_id IN (${marks}) AND blank_id IN (${blankMarks})`,
      [...listIds, ...blankIds],
    ),
    ctx.db.rows<{ blankId: string; key: string; minor: number }>(
      `SELECT blank_id AS blankId, area_key AS \`key\`, extra_minor AS minor FROM price_list_area WHERE price_list_id IN (${marks}) AND blank_id IN (${blankMarks})`,
      [...listIds, ...blankIds],
    ),
    ctx.db.rows<ShippingLine & { listId: string; parcelClass: string }>(
      `SELECT price_list_id AS listId, parcel_class AS parcelClass, region, countries, first_minor AS firstMinor, further_minor AS furtherMinor, days_min AS daysMin, days_max AS daysMax
       FROM price_list_shipping WHERE price_list_id IN (${marks}) ORDER BY position`,
      listIds,
    ),
  ]);
  const table = (rows: { blankId: string; key: string; minor: number }[], blankId: string) =>
    Object.fromEntries(rows.filter((row) => row.blankId === blankId).map((row) => [row.key, Number(row.minor)]));
  const result = new Map<string, PriceList>();
  for (const blank of blanks) {
    const list = inForce.get(blank.partner.id);
    if (!list) continue;
    result.set(blank.id, {
      id: list.id,
      currency: list.currency,
      validFrom: list.validFrom,
      baseCostMinor: table(costs, blank.id),
      extraAreaMinor: table(extras, blank.id),
      shipping: shipping
        .filter((line) => line.listId === list.id && line.parcelClass === blank.parcelClass)
        .map(({ region, countries, firstMinor, furtherMinor, daysMin, daysMax }) => ({
          region,
          countries,
          firstMinor: Number(firstMinor),
          furtherMinor: Number(furtherMinor),
          daysMin,
          daysMax,
        })),
    });
  }
  return result;
}

export async function loadShots(ctx: Context, blankIds: readonly string[]): Promise<StoredShot[]> {
  if (blankIds.length === 0) return [];
  return ctx.db.rows<StoredShot>(
    `SELECT id, blank_id AS blankId, code, document, content_hash AS contentHash FROM shot WHERE blank_id IN (${blankIds.map(() => '?').join(',')}) ORDER BY blank_id, position`,
    [...blankIds],
  );
}
