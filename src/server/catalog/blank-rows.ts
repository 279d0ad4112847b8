import type { Area, AreaEdges, SizeGuide } from '@/core/catalog/blank';
import type { Geometry, Technique } from '@/core/geometry/area';
import type { Context } from '../context';

export interface BlankRow {
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
  material: string;
  shipsFrom: string;
  sizeGuide: SizeGuide | null;
  parcelClass: string;
  makingDaysMin: number;
  makingDaysMax: number;
}

interface PieceRow {
  blankId: string;
  code: string;
  name: string;
}

export interface AreaRow {
  blankId: string;
  key: string;
  pieceCode: string;
  name: string;
  technique: Technique;
  edges: AreaEdges | null;
}

export interface AreaGeometryRow {
  blankId: string;
  areaKey: string;
  geometryId: string;
  applies: Area['geometries'][number]['applies'];
  document: Geometry;
}

export interface OptionRow {
  blankId: string;
  code: string;
  name: string;
  pieceCode: string | null;
}

export interface OptionValueRow {
  blankId: string;
  optionCode: string;
  code: string;
  name: string;
  hex: string | null;
  heather: number;
}

export interface VariantRow {
  blankId: string;
  key: string;
  partnerSku: string | null;
  packWeightG: number;
  stock: number;
  endedAt: Date | null;
}

interface VariantValueRow {
  blankId: string;
  key: string;
  optionCode: string;
  valueCode: string;
}

/** All that the tables hold of blanks: one query for each table, whatever their number. */
export async function blankRows({ db }: Context, ids: readonly string[]) {
  const where = (column: string) => ` WHERE ${column} IN (${ids.map(() => '?').join(',')})`;
  const values = ids;
  const [blanks, pieces, areas, areaGeometries, options, optionValues, variants, variantValues] = await Promise.all([
    db.rows<BlankRow>(
      `SELECT b.id, b.code, b.name, g.kind, b.description, b.facts, b.material, b.ships_from AS shipsFrom, b.size_guide AS sizeGuide, b.parcel_class AS parcelClass, b.making_days_min AS makingDaysMin, b.making_days_max AS makingDaysMax,
       p.id AS partnerId, p.code AS partnerCode, p.name AS partnerName, p.country AS partnerCountry, p.currency AS partnerCurrency
       FROM blank b JOIN good g ON g.id = b.good_id JOIN partner p ON p.id = b.partner_id${where('b.id')} ORDER BY g.kind, b.name, p.name`,
      values,
    ),
    db.rows<PieceRow>(
      `SELECT blank_id AS blankId, code, name FROM piece${where('blank_id')} ORDER BY blank_id, position`,
      values,
    ),
    db.rows<AreaRow>(
      `SELECT blank_id AS blankId, area_key AS \`key\`, piece_code AS pieceCode, name, technique, edges FROM area${where('blank_id')} ORDER BY blank_id, position`,
      values,
    ),
    db.rows<AreaGeometryRow>(
      `SELECT a.blank_id AS blankId, a.area_key AS areaKey, a.geometry_id AS geometryId, a.applies, g.document FROM area_geometry a JOIN geometry g ON g.id = a.geometry_id${where('a.blank_id')} ORDER BY a.blank_id, a.area_key, a.position`,
      values,
    ),
    db.rows<OptionRow>(
      `SELECT blank_id AS blankId, option_code AS code, name, piece_code AS pieceCode FROM blank_option${where('blank_id')} ORDER BY blank_id, position`,
      values,
    ),
    db.rows<OptionValueRow>(
      `SELECT blank_id AS blankId, option_code AS optionCode, value_code AS code, name, hex, heather FROM blank_option_value${where('blank_id')} ORDER BY blank_id, option_code, position`,
      values,
    ),
    db.rows<VariantRow>(
      `SELECT blank_id AS blankId, variant_key AS \`key\`, sku AS partnerSku, weight_g AS packWeightG, stock, ended_at AS endedAt FROM blank_variant${where('blank_id')} ORDER BY blank_id, position`,
      values,
    ),
    db.rows<VariantValueRow>(
      `SELECT blank_id AS blankId, variant_key AS \`key\`, option_code AS optionCode, value_code AS valueCode FROM blank_variant_value${where('blank_id')}`,
      values,
    ),
  ]);
  return { blanks, pieces, areas, areaGeometries, options, optionValues, variants, variantValues };
}
