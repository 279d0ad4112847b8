import { formHash, formJson } from '@/core/listing/form-text';
import type { ListingForm } from '@/core/listing/form';
import type { SeenHow } from '@/core/sync/sightings';
import { TypicaError } from '@/core/errors';
import { ownEntry } from '@/core/own-entry';
import type { ChannelClient, RemoteListing } from '@/ports/channel';
import type { Context } from '../context';
import type { Database } from '../db/pool';
import { emit } from '../events/events';
import type { JobControl } from '../jobs/worker';
import { channelOf, type Store } from '../stores/stores';
import { recordHistory, refuseBusy, type ListingRow } from './listings';
import { waitsForWord } from './missing';
import { readThere } from './read-there';
import { forgetRefused } from './send-pictures';
import { keepSighting, SEEN_COLUMNS, seenValues } from './sightings';
import { recordShownNoLonger, recordShownPrices, type SentFrom } from './shown-prices';

/** A shop that does not show what it has just taken is asked again after this time, ms. */
const SETTLE_MS = 5_000;

/**
 * Reads the listing back and keeps what both sides agree on. The agreed form is what we sent, since the shop took it; where the shop
 * shows something else, that is kept beside it and comes out as `behind`. `also` is written in the same transaction. Throws `shop-unsettled` when
 * the shop does not show it at all.
 */
export async function saveAgreement(
  ctx: Context,
  control: JobControl,
  client: ChannelClient,
  row: ListingRow,
  sent: ListingForm,
  pictureIds: Record<string, string>,
  from: SentFrom,
  also: (db: Database, there: RemoteListing) => Promise<unknown>,
): Promise<void> {
  const there = await client.read(row.externalId!, sent, pictureIds);
  if (!there)
    throw new TypicaError(
      'unavailable',
      'shop-unsettled',
      'The shop took the listing and does not show it yet; it is checked again.',
      { retryAfterMs: SETTLE_MS },
    );
  const thereHash = formHash(there.form);
  await control.write(async (db) => {
    await recordShownPrices(db, row, sent, from);
    await forgetRefused(db, row.storeId, there);
    await db.run(
      `UPDATE listing SET agreed_form = ?, agreed_hash = ?, there_form = ?, there_hash = ?, settled_hash = ?, visibility = ?, url = ?, ends_at = ?, refused_pictures = ?, refusal = NULL, refused_hash = NULL,
       answered_at = UTC_TIMESTAMP(3), picture_ids = ?, sent_picture_ids = NULL, wanted_visibility = ?, ${SEEN_COLUMNS} WHERE id = ? AND external_id = ?`,
      [
        formJson(sent),
        formHash(sent),
        formJson(there.form),
        thereHash,
        thereHash,
        there.visibility,
        there.url,
        there.endsAt,
        refusedOf(there),
        JSON.stringify(onlyWanted(pictureIds, sent)),
        there.visibility,
        ...seenValues(ctx, row, there, 'sent'),
        row.id,
        row.externalId,
      ],
    );
    if (thereHash !== formHash(sent)) await keepSighting(db, row, there, 'sent');
    await also(db, there);
  });
}

const refusedOf = ({ refusedPictures }: RemoteListing): string | null =>
  refusedPictures.length > 0 ? JSON.stringify(refusedPictures) : null;

/** Forgets pictures that the form no longer shows, so that the list does not grow for ever. */
const onlyWanted = (pictureIds: Record<string, string>, form: ListingForm): Record<string, string> =>
  Object.fromEntries(
    form.pictures.flatMap(({ key }): [string, string][] => {
      const id = ownEntry(pictureIds, key);
      return id ? [[key, id]] : [];
    }),
  );

const GONE_AFTER_SECONDS = 60;

/** Time between two looks that find nothing, after which a listing is believed to be gone, s: a minute at least, and as long as its shop may fail to find it. */
export function goneAfterSeconds(ctx: Context, { channel }: Pick<Store, 'channel'>): number {
  const { foundAfterMs, rate } = channelOf(ctx, channel).about;
  return Math.max(GONE_AFTER_SECONDS, foundAfterMs / 1000 / (rate.pace ?? 1));
}

export type Found = 'same' | 'changed' | 'missing' | 'gone';

/**
 * Notes what the shop shows now, without sending anything. A listing that is not there is `missing` at first: a shop can fail to find what it has.
 * One that is missing a while later (`goneAfterSeconds`) is `gone`, and no longer listed.
 */
export async function keepWhatIsThere(
  ctx: Context,
  control: JobControl,
  client: ChannelClient,
  row: ListingRow,
  store: Store,
  how: SeenHow,
): Promise<Found> {
  const known = JSON.parse(row.agreedForm!) as ListingForm;
  const there = await readThere(client, row, known);
  if (!there) return noteMissing(control, row, goneAfterSeconds(ctx, store));
  const hash = formHash(there.form);
  return control.write(async (db) => {
    const { affectedRows } = await db.run(
      `UPDATE listing SET there_form = ?, there_hash = ?, visibility = ?, url = ?, ends_at = ?, refused_pictures = ?, ${SEEN_COLUMNS}
       WHERE id = ? AND external_id = ? AND sent_at <=> ? AND agreed_hash <=> ?`,
      [
        ...[formJson(there.form), hash, there.visibility, there.url, there.endsAt, refusedOf(there)],
        ...seenValues(ctx, row, there, how),
        ...[row.id, row.externalId, row.sentAt, row.agreedHash],
      ],
    );
    // Something was sent or settled since the row was read: what was seen is of before that.
    if (affectedRows === 0) return 'same';
    await forgetRefused(db, row.storeId, there);
    await noteVisibility(db, row, there);
    if (hash === row.agreedHash) return 'same';
    await keepSighting(db, row, there, how);
    if (hash !== row.thereHash)
      await recordHistory(db, row, 'changed-there', 'Someone changed the listing in the shop.');
    return 'changed';
  });
}

/** Tells when a listing was put on sale or taken off in the shop, the first time that it is seen. */
async function noteVisibility(db: Database, row: ListingRow, { visibility }: RemoteListing): Promise<void> {
  if (visibility === row.visibility || row.hiddenByPause === 1) return;
  const says = visibility === 'live' ? 'Put on sale in the shop.' : 'Taken off sale in the shop, or it ended there.';
  await recordHistory(db, row, 'changed-there', says);
}

/** What a listing is again that is in no shop: its history stays. */
const FORGOTTEN = `external_id = NULL, url = NULL, send_key = NULL, sent_at = NULL, agreed_form = NULL, agreed_hash = NULL, there_form = NULL,
  there_hash = NULL, settled_hash = NULL, picture_ids = NULL, sent_picture_ids = NULL, refused_pictures = NULL, refusal = NULL, refused_hash = NULL, ends_at = NULL, hidden_by_pause = FALSE,
  missing_since = NULL, there_stamp = NULL, seen_at = NULL, seen_how = NULL, wanted_visibility = NULL, read_due_at = NULL, generation = generation + 1`;

/** Forgets that a listing is in a shop: it is not listed any more, and sent as a new one if it is sent again. */
export async function forgetListing(db: Database, row: ListingRow, says: string): Promise<void> {
  await db.run(`UPDATE listing SET ${FORGOTTEN} WHERE id = ?`, [row.id]);
  await recordShownNoLonger(db, row);
  await recordHistory(db, row, 'deleted', says);
}

/** Forgets a listing here alone. Throws `listing-busy` while it is on its way. */
export async function forgetHere(ctx: Context, row: ListingRow, storeName: string): Promise<void> {
  await ctx.pools.transaction(async (db) => {
    await refuseBusy(db, row.id);
    await forgetListing(db, row, `Deleted here; it stays in ${storeName}.`);
    await emit(db, row.workspaceId, 'listing', { productId: row.productId, storeId: row.storeId });
  });
}

/** Keeps that a listing was not found; where that is so for the second time, it is believed, unless it is so much at once that a person has to say so. */
const noteMissing = (control: JobControl, row: ListingRow, afterSeconds: number): Promise<Found> =>
  control.write(async (db) => {
    // Only what is still the listing that was looked for, and was not sent since; and not where a shop finds hardly anything any more.
    const waits = await waitsForWord(db, row.storeId);
    const { affectedRows } = waits
      ? { affectedRows: 0 }
      : await db.run(
          `UPDATE listing SET ${FORGOTTEN}, gone_at = UTC_TIMESTAMP(3) WHERE id = ? AND external_id = ? AND sent_at <=> ? AND missing_since < UTC_TIMESTAMP(3) - INTERVAL ? SECOND`,
          [row.id, row.externalId, row.sentAt, afterSeconds],
        );
    if (affectedRows > 0) {
      await recordShownNoLonger(db, row);
      await recordHistory(db, row, 'gone', 'The listing is no longer in the shop; someone deleted it there.');
      return 'gone';
    }
    await db.run(
      'UPDATE listing SET missing_since = COALESCE(missing_since, UTC_TIMESTAMP(3)) WHERE id = ? AND external_id = ?',
      [row.id, row.externalId],
    );
    return 'missing';
  });
