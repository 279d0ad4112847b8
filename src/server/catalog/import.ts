import crypto from 'node:crypto';
import { filterHolds, variantKey, type OptionFilter, type OptionValues, type SizeGuide } from '@/core/catalog/blank';
import { partnerSku } from '@/core/variants/sku';
import { checkGeometry, geometryId, type Geometry } from '@/core/geometry/area';
import { canonicalJson } from '@/core/listing/canonical';
import { checkShotDocument } from '@/core/shot/shot';
import { TypicaError } from '@/core/errors';
import { putBlob } from '../blobs/blobs';
import type { Context } from '../context';
import { newId } from '../db/ids';
import type { Database } from '../db/pool';

/** A partner's catalog as it is read in; see docs/catalog.md. Amounts in minor units of the partner's currency, lengths in mm. */
export interface PartnerCatalog {
  readonly partner: {
    readonly code: string;
    readonly name: string;
    readonly country: string;
    readonly currency: string;
    /** What the partner's SKUs begin with. */
    readonly skuPrefix: string;
  };
  readonly validFrom: string;
  readonly inserts?: readonly { readonly code: string; readonly name: string; readonly costMinor: number }[];
  readonly shipping: readonly {
    readonly parcelClass: string;
    readonly region: string;
    readonly countries: readonly string[];
    readonly firstMinor: number;
    readonly furtherMinor: number;
    readonly daysMin: number;
    readonly daysMax: number;
  }[];
  readonly blanks: readonly CatalogBlank[];
}

export interface CatalogBlank {
  readonly good: { readonly code: string; readonly name: string; readonly kind: string };
  readonly code: string;
  readonly name: string;
  readonly description: string;
  readonly facts: { readonly [name: string]: string };
  readonly material: string;
  /** Where it is made and sent from, when not in the partner's own country. */
  readonly shipsFrom?: string;
  readonly parcelClass: string;
  readonly makingDays: readonly [number, number];
  readonly options: readonly {
    readonly code: string;
    readonly name: string;
    /** The piece of a gift set that this is a choice of. */
    readonly piece?: string;
    readonly values: readonly { readonly code: string; readonly name: string; readonly hex?: string }[];
  }[];
  readonly sizeGuide?: SizeGuide;
  /** Geometries by a name that areas refer to. */
  readonly geometries: { readonly [name: string]: Geometry };
  readonly pieces: readonly {
    readonly code: string;
    readonly name: string;
    readonly areas: readonly {
      readonly code: string;
      readonly name: string;
      /** Charge when it is printed beside another area. */
      readonly extraMinor: number;
      /** Charge whenever it is printed: embroidery, for example. */
      readonly techniqueMinor?: number;
      readonly geometries: readonly { readonly applies: OptionFilter; readonly geometry: string }[];
    }[];
  }[];
  /** Tried in order: the first that holds gives a variant its cost and its weight as packed. */
  readonly costs: readonly {
    readonly applies: OptionFilter;
    readonly costMinor: number;
    readonly packWeightG: number;
  }[];
  /** Tried in order: the first that holds says how many there are; where none does, there is none. */
  readonly stock: readonly { readonly applies: OptionFilter; readonly count: number }[];
  /** Variants that the partner no longer makes. */
  readonly ended?: readonly OptionFilter[];
  /** Shots in order of choice, by code. */
  readonly shots: readonly string[];
}

/** Where the files of a shot come from. */
export type ReadShotFile = (shotCode: string, file: string) => Promise<Buffer>;

/** All option values combined, in the options' order. */
function combinations(options: CatalogBlank['options']): OptionValues[] {
  return options.reduce<OptionValues[]>(
    (all, option) => all.flatMap((values) => option.values.map((value) => ({ ...values, [option.code]: value.code }))),
    [{}],
  );
}

/** Reads a partner's catalog into the database: new blanks are made, known ones brought up to date, prices become a new dated list when they differ. */
export async function importCatalog(
  ctx: Context,
  catalog: PartnerCatalog,
  readShotFile: ReadShotFile,
): Promise<{ blanks: number }> {
  for (const blank of catalog.blanks) checkBlank(blank);
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
  }
  // Again after the shots, which come in transactions of their own: who read in between did not see them all.
  await ctx.db.run('UPDATE catalog_version SET version = version + 1 WHERE id = 1');
  return { blanks: blankIds.length };
}

const catalogInvalid = (says: string) => new TypicaError('invalid', 'catalog-invalid', says);

/** Throws `catalog-invalid` or `geometry-invalid` with the first thing that does not hold together. */
function checkBlank(blank: CatalogBlank): void {
  for (const geometry of Object.values(blank.geometries)) checkGeometry(geometry);
  const pieces = new Set(blank.pieces.map((piece) => piece.code));
  for (const piece of blank.pieces)
    for (const area of piece.areas)
      for (const { geometry } of area.geometries)
        if (!blank.geometries[geometry])
          throw catalogInvalid(
            `${blank.name}: the area ${area.name} names the geometry "${geometry}", which is not there.`,
          );
  for (const option of blank.options)
    if (option.piece !== undefined && !pieces.has(option.piece))
      throw catalogInvalid(
        `${blank.name}: the option ${option.name} is of the piece "${option.piece}", which is not there.`,
      );
  for (const values of combinations(blank.options)) costOf(blank, values);
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
  for (const [position, piece] of blank.pieces.entries()) {
    await db.run(
      'INSERT INTO piece (blank_id, code, name, position) VALUES (?, ?, ?, ?) ON DUPLICATE KEY UPDATE name = VALUE(name), position = VALUE(position)',
      [id, piece.code, piece.name, position],
    );
    for (const [areaPosition, area] of piece.areas.entries()) {
      const key = `${piece.code}.${area.code}`;
      await db.run(
        'INSERT INTO area (blank_id, area_key, piece_code, name, technique, position) VALUES (?, ?, ?, ?, ?, ?) ON DUPLICATE KEY UPDATE name = VALUE(name), technique = VALUE(technique), position = VALUE(position)',
        [
          id,
          key,
          piece.code,
          area.name,
          blank.geometries[area.geometries[0]!.geometry]!.technique,
          position * 100 + areaPosition,
        ],
      );
      await db.run('DELETE FROM area_geometry WHERE blank_id = ? AND area_key = ?', [id, key]);
      for (const [i, { applies, geometry: name }] of area.geometries.entries()) {
        const geometry = blank.geometries[name]!;
        const geometryKey = geometryId(geometry);
        await db.run('INSERT IGNORE INTO geometry (id, document) VALUES (?, ?)', [
          geometryKey,
          canonicalJson(geometry),
        ]);
        await db.run(
          'INSERT INTO area_geometry (blank_id, area_key, position, geometry_id, applies) VALUES (?, ?, ?, ?, ?)',
          [id, key, i, geometryKey, JSON.stringify(applies)],
        );
      }
    }
  }
  for (const [position, option] of blank.options.entries()) {
    await db.run(
      'INSERT INTO blank_option (blank_id, option_code, name, piece_code, position) VALUES (?, ?, ?, ?, ?) ON DUPLICATE KEY UPDATE name = VALUE(name), piece_code = VALUE(piece_code), position = VALUE(position)',
      [id, option.code, option.name, option.piece ?? null, position],
    );
    await db.insertMany(
      'blank_option_value',
      ['blank_id', 'option_code', 'value_code', 'name', 'hex', 'position'],
      option.values.map((value, i) => [id, option.code, value.code, value.name, value.hex ?? null, i]),
      'ON DUPLICATE KEY UPDATE name = VALUE(name), hex = VALUE(hex), position = VALUE(position)',
    );
  }
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
  return id;
}

function costOf(blank: CatalogBlank, values: OptionValues) {
  const cost = blank.costs.find((entry) => filterHolds(entry.applies, values));
  if (!cost)
    throw new TypicaError('invalid', 'catalog-invalid', `${blank.name} has no cost for ${variantKey(values)}.`);
  return cost;
}

/** Writes the prices as a dated list, unless the newest shared list of that date says the same already. */
async function importPrices(
  db: Database,
  partnerId: string,
  catalog: PartnerCatalog,
  blankIds: readonly string[],
): Promise<void> {
  const costs = catalog.blanks.flatMap((blank, i) =>
    combinations(blank.options).map(
      (values) => [blankIds[i]!, variantKey(values), costOf(blank, values).costMinor] as const,
    ),
  );
  const areas = catalog.blanks.flatMap((blank, i) =>
    blank.pieces.flatMap((piece) =>
      piece.areas.map(
        (area) => [blankIds[i]!, `${piece.code}.${area.code}`, area.extraMinor, area.techniqueMinor ?? 0] as const,
      ),
    ),
  );
  const id = `x${crypto
    .createHash('sha256')
    .update(
      canonicalJson([
        partnerId,
        catalog.validFrom,
        catalog.partner.currency,
        costs,
        areas,
        catalog.shipping,
        catalog.inserts ?? [],
      ]),
    )
    .digest('hex')
    .slice(0, 20)}`;
  const { affectedRows } = await db.run(
    'INSERT IGNORE INTO price_list (id, partner_id, workspace_id, currency, valid_from) VALUES (?, ?, NULL, ?, ?)',
    [id, partnerId, catalog.partner.currency, catalog.validFrom],
  );
  if (affectedRows === 0) return;
  await db.insertMany(
    'price_list_variant',
    ['price_list_id', 'blank_id', 'variant_key', 'base_cost_minor'],
    costs.map((row) => [id, ...row]),
  );
  await db.insertMany(
    'price_list_area',
    ['price_list_id', 'blank_id', 'area_key', 'extra_minor', 'technique_minor'],
    areas.map((row) => [id, ...row]),
  );
  await db.insertMany(
    'price_list_insert',
    ['price_list_id', 'code', 'name', 'cost_minor', 'position'],
    (catalog.inserts ?? []).map((insert, i) => [id, insert.code, insert.name, insert.costMinor, i]),
  );
  await db.insertMany(
    'price_list_shipping',
    [
      'price_list_id',
      'parcel_class',
      'region',
      'countries',
      'first_minor',
      'further_minor',
      'days_min',
      'days_max',
      'position',
    ],
    catalog.shipping.map((line, i) => [
      id,
      line.parcelClass,
      line.region,
      JSON.stringify(line.countries),
      line.firstMinor,
      line.furtherMinor,
      line.daysMin,
      line.daysMax,
      i,
    ]),
  );
}

/** Reads a shot's document and passes; one that is there with the same content is left alone. */
async function importShot(
  ctx: Context,
  blankId: string,
  code: string,
  position: number,
  readShotFile: ReadShotFile,
): Promise<void> {
  const document = checkShotDocument(JSON.parse((await readShotFile(code, 'shot.json')).toString('utf8')));
  const files = [
    ...Object.values(document.passes),
    ...Object.values(document.areas).flatMap((area) => [area.coverage, area.map]),
  ].map((pass) => pass.file);
  const bytes = await Promise.all(files.map((file) => readShotFile(code, file)));
  const hash = crypto.createHash('sha256').update(canonicalJson(document));
  for (const part of bytes) hash.update(crypto.createHash('sha256').update(part).digest());
  const contentHash = hash.digest('hex');
  const have = await ctx.db.row<{ id: string; contentHash: string }>(
    'SELECT id, content_hash AS contentHash FROM shot WHERE blank_id = ? AND code = ?',
    [blankId, code],
  );
  if (have?.contentHash === contentHash) return;
  const hashes: string[] = [];
  for (const part of bytes) hashes.push(await putBlob(ctx, part, 'image/png'));
  await ctx.pools.transaction(async (db) => {
    const id = have?.id ?? newId('h');
    await db.run(
      'INSERT INTO shot (id, blank_id, code, position, document, content_hash) VALUES (?, ?, ?, ?, ?, ?) ON DUPLICATE KEY UPDATE position = VALUE(position), document = VALUE(document), content_hash = VALUE(content_hash)',
      [id, blankId, code, position, JSON.stringify(document), contentHash],
    );
    await db.run('DELETE FROM shot_pass WHERE shot_id = ?', [id]);
    await db.insertMany(
      'shot_pass',
      ['shot_id', 'file', 'sha256'],
      files.map((file, i) => [id, file, hashes[i]!]),
    );
  });
}
