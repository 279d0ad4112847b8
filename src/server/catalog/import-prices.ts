import crypto from 'node:crypto';
import { variantKey } from '@/core/catalog/blank';
import { combinations, costOf, type PartnerCatalog } from '@/core/partner-file/partner-catalog';
import { canonicalJson } from '@/core/canonical/canonical';
import { newId } from '../db/ids';
import type { Database } from '../db/pool';

/** A new list, or null when the newest shared one of that date says the same: a price that went up and came down again is a list of its own. */
async function newList(
  db: Database,
  partnerId: string,
  { validFrom, partner }: PartnerCatalog,
  content: string,
): Promise<string | null> {
  // Lists from before had the beginning of their content's hash as their id.
  const old = `x${content.slice(0, 20)}`;
  const newest = await db.row<{ id: string; content: string | null }>(
    `SELECT id, content_sha256 AS content FROM price_list WHERE partner_id = ? AND workspace_id IS NULL AND valid_from = ? AND state = 'taken'
     ORDER BY COALESCE(taken_at, created_at) DESC, id LIMIT 1`,
    [partnerId, validFrom],
  );
  if (newest && (newest.content === content || newest.id === old)) return null;
  const id = newId('x');
  await db.run(
    'INSERT INTO price_list (id, partner_id, workspace_id, currency, valid_from, content_sha256) VALUES (?, ?, NULL, ?, ?, ?)',
    [id, partnerId, partner.currency, validFrom, content],
  );
  return id;
}

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
  const content = crypto
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
    .digest('hex');
  const id = await newList(db, partnerId, catalog, content);
  if (id === null) return;
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
