import crypto from 'node:crypto';
import { variantKey } from '@/core/catalog/blank';
import { combinations, costOf, type PartnerCatalog } from '@/core/catalog/partner-catalog';
import { canonicalJson } from '@/core/listing/canonical';
import type { Database } from '../db/pool';

/** Writes the prices as a dated list, unless the newest shared list of that date says the same already. */
export async function importPrices(
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
