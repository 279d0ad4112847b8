import { filterHolds, variantKey } from '@/core/catalog/blank';
import {
  checkCatalogBlank,
  combinations,
  costOf,
  type CatalogBlank,
  type PartnerCatalog,
} from '@/core/partner-file/partner-catalog';
import { geometryId } from '@/core/geometry/area';
import { canonicalJson } from '@/core/canonical/canonical';
import { partnerSku } from '@/core/variants/sku';
import type { Context } from '../context';
import { newId } from '../db/ids';
import type { Database } from '../db/pool';
import { markAllDue } from '../events/due';
import { importPrices } from './import-prices';
import { dropShots, importShot, type ReadShotFile } from './import-shot';
import { ownEntry } from '@/core/own-entry';

/** Reads a partner's catalog into the database: new blanks are made, known ones brought up to date, prices become a new dated list when they differ. */
export async function importCatalog(
  ctx: Context,
  catalog: PartnerCatalog,
  readShotFile: ReadShotFile,
): Promise<{ blanks: number }> {
  for (const blank of catalog.blanks) checkCatalogBlank(blank);
  const blankIds = await ctx.pools.transaction(async (db) => {
    const partnerId = await upsertByCode(db, 'partner', 'p', catalog.partner.code, {
      name: catalog.partner.name,
      country: catalog.partner.country,
      currency: catalog.partner.currency,
    });
    const ids: string[] = [];
    for (const blank of catalog.blanks)
      ids.push(await importBlank(db, partnerId, catalog.partner, blank, ctx.clock.now()));
    await importPrices(db, partnerId, catalog, ids);
    await db.run('UPDATE catalog_version SET version = version + 1 WHERE id = 1');
    return ids;
  });
  for (const [index, blank] of catalog.blanks.entries()) {
    for (const [position, code] of blank.shots.entries())
      await importShot(ctx, blankIds[index]!, code, position, readShotFile);
    await dropShots(ctx, blankIds[index]!, blank.shots);
  }
  // Again after the shots, which come in transactions of their own: who read in between did not see them all.
  await ctx.db.run('UPDATE catalog_version SET version = version + 1 WHERE id = 1');
  await markAllDue(ctx.db);
  return { blanks: blankIds.length };
}

async function upsertByCode(
  db: Database,
  table: 'partner' | 'good',
  prefix: string,
  code: string,
  columns: Record<string, string>,
): Promise<string> {
  const names = Object.keys(columns);
  const have = await db.row<{ id: string }>(`SELECT id FROM ${table} WHERE code = ?`, [code]);
  if (have) {
    await db.run(`UPDATE ${table} SET ${names.map((name) => `${name} = ?`).join(', ')} WHERE id = ?`, [
      ...Object.values(columns),
      have.id,
    ]);
    return have.id;
  }
  const id = newId(prefix);
  await db.run(
    `INSERT INTO ${table} (id, code, ${names.join(', ')}) VALUES (?, ?, ${names.map(() => '?').join(', ')})`,
    [id, code, ...Object.values(columns)],
  );
  return id;
}

async function importBlank(
  db: Database,
  partnerId: string,
  partner: PartnerCatalog['partner'],
  blank: CatalogBlank,
  now: Date,
): Promise<string> {
  const goodId = await upsertByCode(db, 'good', 'g', blank.good.code, { name: blank.good.name, kind: blank.good.kind });
  const have = await db.row<{ id: string }>('SELECT id FROM blank WHERE partner_id = ? AND code = ?', [
    partnerId,
    blank.code,
  ]);
  const id = have?.id ?? newId('b');
  await db.run(
    `INSERT INTO blank (id, good_id, partner_id, code, name, description, facts, material, ships_from, size_guide, parcel_class, making_days_min, making_days_max) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
     ON DUPLICATE KEY UPDATE good_id = VALUE(good_id), name = VALUE(name), description = VALUE(description), facts = VALUE(facts), material = VALUE(material), ships_from = VALUE(ships_from), size_guide = VALUE(size_guide), parcel_class = VALUE(parcel_class), making_days_min = VALUE(making_days_min), making_days_max = VALUE(making_days_max)`,
    [
      id,
      goodId,
      partnerId,
      blank.code,
      blank.name,
      blank.description,
      JSON.stringify(blank.facts),
      blank.material,
      blank.shipsFrom ?? partner.country,
      blank.sizeGuide ? JSON.stringify(blank.sizeGuide) : null,
      blank.parcelClass,
      ...blank.makingDays,
    ],
  );
  await importAreas(db, id, blank);
  await importOptions(db, id, blank);
  await importVariants(db, id, partnerId, partner, blank, now);
  return id;
}

async function importAreas(db: Database, id: string, blank: CatalogBlank): Promise<void> {
  for (const [position, piece] of blank.pieces.entries()) {
    await db.run(
      'INSERT INTO piece (blank_id, code, name, position) VALUES (?, ?, ?, ?) ON DUPLICATE KEY UPDATE name = VALUE(name), position = VALUE(position)',
      [id, piece.code, piece.name, position],
    );
    for (const [areaPosition, area] of piece.areas.entries()) {
      const key = `${piece.code}.${area.code}`;
      const { technique } = ownEntry(blank.geometries, area.geometries[0]!.geometry)!;
      await db.run(
        'INSERT INTO area (blank_id, area_key, piece_code, name, technique, edges, position) VALUES (?, ?, ?, ?, ?, ?, ?) ON DUPLICATE KEY UPDATE name = VALUE(name), technique = VALUE(technique), edges = VALUE(edges), position = VALUE(position)',
        [id, key, piece.code, area.name, technique, area.edges ?? null, position * 100 + areaPosition],
      );
      await importShapes(db, id, key, blank, area.geometries);
    }
  }
}

async function importShapes(
  db: Database,
  id: string,
  areaKey: string,
  blank: CatalogBlank,
  shapes: CatalogBlank['pieces'][number]['areas'][number]['geometries'],
): Promise<void> {
  await db.run('DELETE FROM area_geometry WHERE blank_id = ? AND area_key = ?', [id, areaKey]);
  for (const [i, { applies, geometry: name }] of shapes.entries()) {
    const geometry = ownEntry(blank.geometries, name)!;
    const geometryKey = geometryId(geometry);
    await db.run('INSERT IGNORE INTO geometry (id, document) VALUES (?, ?)', [geometryKey, canonicalJson(geometry)]);
    await db.run(
      'INSERT INTO area_geometry (blank_id, area_key, position, geometry_id, applies) VALUES (?, ?, ?, ?, ?)',
      [id, areaKey, i, geometryKey, JSON.stringify(applies)],
    );
  }
}

async function importOptions(db: Database, id: string, blank: CatalogBlank): Promise<void> {
  for (const [position, option] of blank.options.entries()) {
    await db.run(
      'INSERT INTO blank_option (blank_id, option_code, name, piece_code, position) VALUES (?, ?, ?, ?, ?) ON DUPLICATE KEY UPDATE name = VALUE(name), piece_code = VALUE(piece_code), position = VALUE(position)',
      [id, option.code, option.name, option.piece ?? null, position],
    );
    await db.insertMany(
      'blank_option_value',
      ['blank_id', 'option_code', 'value_code', 'name', 'hex', 'heather', 'position'],
      option.values.map((value, i) => [
        id,
        option.code,
        value.code,
        value.name,
        value.hex ?? null,
        value.heather ? 1 : 0,
        i,
      ]),
      'ON DUPLICATE KEY UPDATE name = VALUE(name), hex = VALUE(hex), heather = VALUE(heather), position = VALUE(position)',
    );
  }
}

async function importVariants(
  db: Database,
  id: string,
  partnerId: string,
  partner: PartnerCatalog['partner'],
  blank: CatalogBlank,
  now: Date,
): Promise<void> {
  const variants = combinations(blank.options);
  await db.insertMany(
    'blank_variant',
    ['blank_id', 'variant_key', 'position', 'partner_id', 'sku', 'weight_g', 'stock', 'ended_at'],
    variants.map((values, i) => [
      id,
      variantKey(values),
      i,
      partnerId,
      partnerSku(partner.skuPrefix, blank, values),
      costOf(blank, values).packWeightG,
      blank.stock.find((entry) => filterHolds(entry.applies, values))?.count ?? 0,
      blank.ended?.some((filter) => filterHolds(filter, values)) ? now : null,
    ]),
    // A variant that has ended keeps the day on which it did.
    'ON DUPLICATE KEY UPDATE position = VALUE(position), partner_id = VALUE(partner_id), sku = VALUE(sku), weight_g = VALUE(weight_g), stock = VALUE(stock), ended_at = IF(VALUE(ended_at) IS NULL, NULL, COALESCE(ended_at, VALUE(ended_at)))',
  );
  // What the file no longer names has ended; it is kept, since products and price lists refer to it.
  await db.run(
    `UPDATE blank_variant SET ended_at = ?, stock = 0 WHERE blank_id = ? AND ended_at IS NULL AND variant_key NOT IN (${variants.map(() => '?').join(',')})`,
    [now, id, ...variants.map(variantKey)],
  );
  await db.insertMany(
    'blank_variant_value',
    ['blank_id', 'variant_key', 'option_code', 'value_code'],
    variants.flatMap((values) =>
      Object.entries(values).map(([option, value]) => [id, variantKey(values), option, value]),
    ),
    'ON DUPLICATE KEY UPDATE value_code = VALUE(value_code)',
  );
}
