import { notFound } from '@/core/errors';
import type { Blank } from '@/core/catalog/blank';
import { groupBy } from '@/core/group';
import type { ShotDocument } from '@/core/shot/shot';
import type { Context } from '../context';
import { keptBlanks } from './kept-blanks';
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
