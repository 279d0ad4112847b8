import { canonicalJson } from '@/core/canonical/canonical';
import type { ListingForm } from '@/core/listing/form';
import type { PicturePlan } from '@/core/listing/pictures';
import type { ChannelDemands } from '@/core/rules/demands';
import { brokenRules } from '@/core/rules/evaluate';
import { isTypicaError, TypicaError } from '@/core/errors';
import type { ChannelClient } from '@/ports/channel';
import type { Context } from '../context';
import type { Database } from '../db/pool';
import { emit } from '../events/events';
import type { JobControl } from '../jobs/worker';
import { log } from '../log';
import { derivePicture } from '../pictures/pictures';
import { loadBundle } from '../products/bundle';
import { saveSentSkus } from '../products/sent-skus';
import { channelOf, findStore, markLapsed, openStore, type Store } from '../stores/stores';
import { findListing, recordHistory, type ListingRow, type ShopRefusal } from './listings';
import { saveAgreement } from './agreement';
import { prepareListing } from './prepare';
import { sentFrom } from './shown-prices';
import { ownEntry, putEntry } from '@/core/own-entry';

/**
 * Brings a listing in a shop to the product's form. Every step can be repeated: what was done is written down before the next begins, and
 * a creation is written down before it is tried, so that a worker killed anywhere, or an answer lost on the way, makes no second listing.
 */
export async function sendListing(ctx: Context, control: JobControl): Promise<unknown> {
  const { job } = control;
  const row = await findListing(ctx.db, job.workspaceId, String(job.payload.listingId));
  if (!row) throw new TypicaError('invalid', 'listing-gone', 'This listing was deleted before it was sent.');
  const visibility = job.payload.visibility === 'live' ? 'live' : 'draft';
  const [bundle, store] = await Promise.all([
    loadBundle(ctx, job.workspaceId, row.productId),
    findStore(ctx, job.workspaceId, row.storeId),
  ]);
  const { form, hash, pictures, rules } = prepareListing(ctx, bundle, store);
  const broken = brokenRules(rules);
  if (!form || !hash || broken.length > 0)
    throw new TypicaError('invalid', 'rules-broken', `${store.name} would refuse this: ${broken[0]!.says}`, {
      rules: broken,
    });

  const steps = 2 * pictures.length + 3;
  try {
    const client = await openStore(ctx, store, control);
    // Before anything is made: a worker whose lease was lost, or a job that was stopped, ends here.
    await control.progress(0, steps, 'Begins');
    await control.write((db) => saveSentSkus(db, row.productId, form.variants));
    const made = row.externalId ? row : await makeOnce(ctx, control, client, row, form, hash);
    await control.progress(1, steps, 'Listing created');
    const { demands } = channelOf(ctx, store.channel).about;
    const pictureIds = await sendPictures(ctx, control, client, made, pictures, demands, steps);
    await control.write((db) => recordSent(db, row.id, form, hash, new Date(ctx.clock.now())));
    await client.update(made.externalId!, form, pictureIds);
    await control.progress(steps - 1, steps, 'Text, variants and prices sent');
    await client.show(made.externalId!, visibility);
    await saveAgreement(control, client, made, form, pictureIds, sentFrom(ctx, bundle, store));
    await control.write(async (db) => {
      await recordHistory(db, row, 'sent', visibility === 'live' ? 'Sent, and shown to buyers.' : 'Sent as a draft.');
      await emit(db, job.workspaceId, 'listing', { productId: row.productId, storeId: store.id });
    });
    return { externalId: made.externalId, url: made.url };
  } catch (error) {
    await control
      .write((db) => noteTrouble(ctx, db, row, store, hash, error))
      .catch((trouble: unknown) => log.warn({ err: trouble }, 'what a shop answered could not be written down'));
    throw error;
  }
}

/** Writes down what is being sent, before it is. */
const recordSent = (db: Database, id: string, form: ListingForm, hash: string, sentAt: Date) =>
  db.run('UPDATE listing SET sent_form = ?, sent_hash = ?, sent_at = ? WHERE id = ?', [
    canonicalJson(form),
    hash,
    sentAt,
    id,
  ]);

/** The key of an attempt: the same for whoever makes it, and another one only after the listing was deleted in the shop. */
const attemptKey = (row: ListingRow): string => `${row.id}-${row.generation}`;

/** Makes the listing in the shop unless an earlier try did. */
async function makeOnce(
  ctx: Context,
  control: JobControl,
  client: ChannelClient,
  row: ListingRow,
  form: ListingForm,
  hash: string,
): Promise<ListingRow> {
  const keep = (ref: { externalId: string; url: string }, says: string) =>
    control.write(async (db) => {
      await db.run(
        'UPDATE listing SET external_id = ?, url = ?, answer = ?, answered_at = UTC_TIMESTAMP(3) WHERE id = ? AND external_id IS NULL',
        [ref.externalId, ref.url, JSON.stringify(ref), row.id],
      );
      await recordHistory(db, { ...row, externalId: ref.externalId }, 'made', says);
      return { ...row, ...ref };
    });
  if (row.sendKey && row.sentAt) {
    const settled = await client.settle({ key: row.sendKey, reference: row.id, sentAt: row.sentAt });
    if (settled.kind === 'made')
      return keep(settled.listing, 'An earlier try had made it; its answer was lost on the way.');
    if (settled.kind === 'wait')
      throw new TypicaError(
        'unavailable',
        'shop-unsettled',
        'The shop cannot say yet whether an earlier try made this listing; it is asked again before anything is made.',
        { retryAfterMs: settled.retryAfterMs, costsNoTry: true },
      );
  }
  // The time of this try: a shop that shows new things late is waited for from the newest one.
  const attempt = { key: row.sendKey ?? attemptKey(row), reference: row.id, sentAt: ctx.clock.now() };
  // Written down first: if the answer is lost, the next try knows that this one was made, and under which key.
  await control.write(async (db) => {
    await recordSent(db, row.id, form, hash, attempt.sentAt);
    await db.run('UPDATE listing SET send_key = ? WHERE id = ?', [attempt.key, row.id]);
  });
  return keep(await client.create(attempt, form), 'Made in the shop as a draft.');
}

/** Uploads the pictures that the shop does not hold yet; each is written down as soon as it is there. */
async function sendPictures(
  ctx: Context,
  control: JobControl,
  client: ChannelClient,
  row: ListingRow,
  pictures: readonly PicturePlan[],
  demands: ChannelDemands,
  steps: number,
): Promise<Record<string, string>> {
  const held: Record<string, string> = row.pictureIds ? (JSON.parse(row.pictureIds) as Record<string, string>) : {};
  let done = 1;
  for (const [index, picture] of pictures.entries()) {
    if (!ownEntry(held, picture.key)) {
      // In the shop's own form, made for this and not kept.
      const pureWhite = demands.pictureFormat.pureWhite || (demands.firstOnWhite && index === 0);
      const { bytes, mediaType } = await derivePicture(
        ctx,
        control.job.workspaceId,
        picture,
        { ...demands.pictureFormat, pureWhite },
        { signal: control.signal },
      );
      await control.progress((done += 1), steps, `Picture ${index + 1} of ${pictures.length} is made`);
      putEntry(
        held,
        picture.key,
        await client.uploadPicture(row.externalId!, {
          key: picture.key,
          mediaType,
          bytes,
        }),
      );
      await control.write((db) =>
        db.run('UPDATE listing SET picture_ids = ? WHERE id = ?', [JSON.stringify(held), row.id]),
      );
    } else done += 1;
    await control.progress((done += 1), steps, `Picture ${index + 1} of ${pictures.length} is there`);
  }
  return held;
}

/** Writes down what a shop answered to a try that did not succeed. */
async function noteTrouble(
  ctx: Context,
  db: Database,
  row: ListingRow,
  store: Store,
  hash: string,
  error: unknown,
): Promise<void> {
  if (isTypicaError(error, 'shop-refused')) {
    const refusal: ShopRefusal = {
      words: String(error.fields.words ?? ''),
      says: error.message,
      fields: (error.fields.shopFields as string[] | undefined) ?? [],
    };
    await db.run(
      'UPDATE listing SET refusal = ?, refused_hash = ?, answer = ?, answered_at = UTC_TIMESTAMP(3) WHERE id = ?',
      [JSON.stringify(refusal), hash, JSON.stringify(error.fields), row.id],
    );
    await recordHistory(db, row, 'refused', `${store.name} said: “${refusal.words}”`);
  } else if (isTypicaError(error, 'shop-token')) await markLapsed(ctx, store);
  // That it came too soon is nothing to tell: it goes on by itself.
  else if (isTypicaError(error) && error.fields.costsNoTry !== true)
    await recordHistory(db, row, error.code, error.message);
  await emit(db, row.workspaceId, 'listing', { productId: row.productId, storeId: row.storeId });
}
