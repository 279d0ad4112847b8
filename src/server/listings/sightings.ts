import type { ListingForm } from '@/core/listing/form';
import { formHash, formJson } from '@/core/listing/form-text';
import { FIRST_LEVEL, nextLevel, readAgainMs, type SeenHow } from '@/core/sync/sightings';
import type { RemoteListing } from '@/ports/channel';
import type { Context } from '../context';
import type { Database } from '../db/pool';
import type { ListingRow } from './listings';

/** Columns of a listing that say when and how what its shop shows was learnt; set in the statement that writes down what it shows. */
export const SEEN_COLUMNS =
  "there_stamp = ?, seen_at = UTC_TIMESTAMP(3), seen_how = ?, missing_since = NULL, gone_at = NULL, read_how = 'reading', read_level = ?, read_due_at = UTC_TIMESTAMP(3) + INTERVAL ? SECOND";

type Known = Pick<ListingRow, 'readLevel' | 'thereHash'>;

/** Values of `SEEN_COLUMNS`. What was seen to change is read more often from now on. */
export function seenValues(ctx: Context, known: Known, there: RemoteListing, how: SeenHow): (string | number)[] {
  const changed = known.thereHash !== null && known.thereHash !== formHash(there.form);
  // A send that was read back says nothing of how often others change it.
  const level =
    how === 'sent' ? (known.thereHash === null ? FIRST_LEVEL : known.readLevel) : nextLevel(known.readLevel, changed);
  return [there.stamp.slice(0, 64), how, level, Math.round(readAgainMs(level, ctx.chance.fraction()) / 1000)];
}

/** Keeps a state that a shop was seen to show and that is not what both sides agreed on: once, however often it is seen. */
export async function keepSighting(
  db: Database,
  row: Pick<ListingRow, 'id' | 'externalId'>,
  there: RemoteListing,
  how: SeenHow,
): Promise<void> {
  await db.run(
    `INSERT INTO listing_sighting (listing_id, external_id, form_hash, visibility, form, how) VALUES (?, ?, ?, ?, ?, ?)
     ON DUPLICATE KEY UPDATE last_at = UTC_TIMESTAMP(3), external_id = VALUE(external_id)`,
    [row.id, row.externalId, formHash(there.form), there.visibility, formJson(there.form), how],
  );
}

/** A state in which a shop was seen to show a listing. */
export interface Sighting {
  readonly id: number;
  readonly how: SeenHow;
  readonly seenAt: Date;
  /** When it was seen last. */
  readonly lastAt: Date;
  readonly visibility: 'draft' | 'live';
  readonly form: ListingForm;
}

/** Sightings that are told of one listing, the newest first. */
const MAX_TOLD = 30;

export async function sightingsOf(ctx: Context, listingId: string): Promise<Sighting[]> {
  const rows = await ctx.db.rows<Omit<Sighting, 'form'> & { form: string }>(
    `SELECT id, how, seen_at AS seenAt, last_at AS lastAt, visibility, form FROM listing_sighting WHERE listing_id = ? ORDER BY last_at DESC, id DESC LIMIT ${MAX_TOLD}`,
    [listingId],
  );
  return rows.map(({ form, ...row }) => ({ ...row, form: JSON.parse(form) as ListingForm }));
}
