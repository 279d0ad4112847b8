import type { Geometry, Technique } from '@/core/geometry/area';
import type { Context } from '../context';

export interface BlankRow {
  id: string;
  code: string;
  name: string;
  kind: string;
  description: string;
  facts: Record<string, string>;
  material: string;
  shipsFrom: string;
  parcelClass: string;
  makingDaysMin: number;
  makingDaysMax: number;
  partnerId: string;
  partnerName: string;
}

export interface AreaRow {
  blankId: string;
  key: string;
  name: string;
  pieceCode: string;
  technique: Technique;
  document: Geometry;
}

export interface ValueRow {
  blankId: string;
  optionCode: string;
  option: string;
  optionPiece: string | null;
  code: string;
  name: string;
  hex: string | null;
}

/** A variant as columns, since there are hundreds of thousands. */
export type VariantRow = [blankId: string, key: string, stock: number, ended: number];

/** All that the catalog holds of its blanks, one query for each table, in the order in which it is shown. */
export async function shelfRows({ db }: Context) {
  const [blanks, areas, values, pieces, shots, variants] = await Promise.all([
    db.rows<BlankRow>(
      `SELECT b.id, b.code, b.name, g.kind, b.description, b.facts, b.material, b.ships_from AS shipsFrom, b.parcel_class AS parcelClass,
       b.making_days_min AS makingDaysMin, b.making_days_max AS makingDaysMax, p.id AS partnerId, p.name AS partnerName
       FROM blank b JOIN good g ON g.id = b.good_id JOIN partner p ON p.id = b.partner_id ORDER BY b.name, p.name, b.id`,
    ),
    db.rows<AreaRow>(
      `SELECT a.blank_id AS blankId, a.area_key AS \`key\`, a.name, a.piece_code AS pieceCode, a.technique, g.document
       FROM area a JOIN area_geometry ag ON ag.blank_id = a.blank_id AND ag.area_key = a.area_key AND ag.position = 0 JOIN geometry g ON g.id = ag.geometry_id
       ORDER BY a.blank_id, a.position`,
    ),
    db.rows<ValueRow>(
      `SELECT v.blank_id AS blankId, v.option_code AS optionCode, o.name AS \`option\`, o.piece_code AS optionPiece, v.value_code AS code, v.name, v.hex
       FROM blank_option_value v JOIN blank_option o ON o.blank_id = v.blank_id AND o.option_code = v.option_code
       ORDER BY v.blank_id, o.position, v.position`,
    ),
    db.rows<{ blankId: string; code: string; name: string }>(
      'SELECT blank_id AS blankId, code, name FROM piece ORDER BY blank_id, position',
    ),
    db.rows<{ blankId: string; hash: string }>(
      'SELECT blank_id AS blankId, LEFT(content_hash, 16) AS hash FROM shot WHERE workspace_id IS NULL ORDER BY blank_id, position DESC, id DESC',
    ),
    db.arrays<VariantRow>(
      'SELECT blank_id, variant_key, stock, ended_at IS NOT NULL FROM blank_variant ORDER BY blank_id, position',
    ),
  ]);
  return { blanks, areas, values, pieces, shots, variants };
}
