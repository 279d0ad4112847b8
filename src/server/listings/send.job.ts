import { formHash, formJson } from '@/core/listing/form-text';
import type { ListingForm } from '@/core/listing/form';
import type { PicturePlan } from '@/core/listing/pictures';
import { changedKinds } from '@/core/sync/changed';
import { syncState } from '@/core/sync/state';
import { brokenRules } from '@/core/rules/evaluate';
import { isTypicaError, TypicaError } from '@/core/errors';
import { ownEntry } from '@/core/own-entry';
import type { SentSkus } from '@/core/variants/sku';
import type { ChannelClient, RemoteListing } from '@/ports/channel';
import type { Context } from '../context';
import type { Database } from '../db/pool';
import { emit } from '../events/events';
import type { JobRow } from '../jobs/job-row';
import type { JobControl } from '../jobs/worker';
import { log } from '../log';
import { noteSettled } from '../outcomes/settle';
import { loadBundle } from '../products/bundle';
import { saveSentSkus } from '../products/sent-skus';
import { openStore } from '../stores/keys';
import { demandsOf, findStore, markLapsed, type Store } from '../stores/stores';
import { findListing, prepareListed, recordHistory, type ListingRow, type ShopRefusal } from './listings';
import { saveAgreement } from './agreement';
import { fileWaiting, sendByFile } from './by-file';
import { lookFirst } from './look-first';
import { sendPictures } from './send-pictures';
import { sentFrom } from './shown-prices';

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
  const { form, hash, pictures, rules } = prepareListed(ctx, bundle, store, row);
  const broken = brokenRules(rules);
  if (!form || !hash || broken.length > 0)
    throw new TypicaError('invalid', 'rules-broken', `${store.name} would refuse this: ${broken[0]!.says}`, {
      rules: broken,
    });

  try {
    const client = await openStore(ctx, store, control);
    // A worker whose lease was lost, or a job that was stopped, ends at what is written down before anything is made (`recordSent`).
    await control.progress(0, 2 * pictures.length + 3, 'Begins');
    const seenHash = typeof job.payload.seenHash === 'string' ? job.payload.seenHash : null;
    await lookFirst(ctx, control, client, row, store, { form, hash, seenHash });
    const unseen = unseenOf(form, bundle.sentSkus);
    const sending: Sending = { ctx, control, client, row, store, form, hash, unseen, pictures, visibility };
    const sent = client.batch ? await sendInFile(sending) : await sendDirectly(sending);
    const from = sentFrom(ctx, bundle, store);
    await saveAgreement(ctx, control, client, sent.row, form, sent.pictureIds, from, async (db, there) => {
      const says = visibility === 'live' ? 'Sent, and shown to buyers.' : 'Sent as a draft.';
      await recordHistory(db, row, 'sent', says, { by: askedBy(job), fields: sentKinds(row, form) });
      await noteSent(db, sending, there);
    });
    return { externalId: sent.row.externalId, url: sent.row.url };
  } catch (error) {
    // That it came too soon is nothing to tell: it goes on by itself.
    if (isTypicaError(error) && error.fields.costsNoTry === true) throw error;
    await control
      .write((db) => noteTrouble(ctx, db, row, store, hash, error, askedBy(job)))
      .catch((trouble: unknown) => log.warn({ err: trouble }, 'what a shop answered could not be written down'));
    throw error;
  }
}

/** Where the listing stands after it was sent. A picture that the shop refused breaks a rule: then it is judged anew. */
function noteSent(db: Database, { row, hash }: Sending, there: RemoteListing): Promise<void> {
  const { workspaceId, productId, storeId, number } = row;
  if (there.refusedPictures.length > 0 || row.refusedPictures !== null)
    return emit(db, workspaceId, 'listing', { productId, storeId });
  const standing = { hereHash: hash, agreedHash: hash, thereHash: formHash(there.form), refusedHash: null };
  return noteSettled(db, { workspaceId, productId, storeId, number, hash, state: syncState(standing) });
}

const askedBy = ({ payload }: JobRow): string | null => (typeof payload.by === 'string' ? payload.by : null);

/** Kinds of fields that a send brought; null for a listing that is new. */
const sentKinds = (row: ListingRow, form: ListingForm) =>
  row.agreedForm ? changedKinds(JSON.parse(row.agreedForm) as ListingForm, form) : null;

/** One listing on its way. */
interface Sending {
  readonly ctx: Context;
  readonly control: JobControl;
  readonly client: ChannelClient;
  readonly row: ListingRow;
  readonly store: Store;
  readonly form: ListingForm;
  readonly hash: string;
  /** Variants whose SKUs no shop has seen yet. */
  readonly unseen: ListingForm['variants'];
  readonly pictures: readonly PicturePlan[];
  readonly visibility: 'draft' | 'live';
}

const unseenOf = ({ variants }: ListingForm, sent: SentSkus): ListingForm['variants'] =>
  Object.fromEntries(Object.entries(variants).filter(([key]) => ownEntry(sent, key) === undefined));

interface Sent {
  readonly row: ListingRow;
  readonly pictureIds: Record<string, string>;
}

/** To a shop that takes one request after the other. */
async function sendDirectly(sending: Sending): Promise<Sent> {
  const { ctx, control, client, row, store, form, hash, unseen, pictures, visibility } = sending;
  const steps = 2 * pictures.length + 3;
  const made = row.externalId ? row : await makeOnce(sending);
  await control.progress(1, steps, 'Listing created');
  const demands = demandsOf(ctx, store);
  const pictureIds = await sendPictures(ctx, control, client, made, pictures, demands, steps);
  await control.write((db) => recordSent(db, row, { form, hash, unseen, sentAt: ctx.clock.now(), pictureIds }));
  await client.update(made.externalId!, form, pictureIds);
  await control.progress(steps - 1, steps, 'Text, variants and prices sent');
  await client.show(made.externalId!, visibility);
  return { row: made, pictureIds };
}

/** To a shop that takes files of rows and answers later. */
async function sendInFile(sending: Sending): Promise<Sent> {
  const { ctx, control, client, row, store, form, hash, unseen, pictures, visibility } = sending;
  const steps = 2 * pictures.length + 3;
  const demands = demandsOf(ctx, store);
  const pictureIds = await sendPictures(ctx, control, client, row, pictures, demands, steps);
  await control.write((db) => recordSent(db, row, { form, hash, unseen, sentAt: ctx.clock.now(), pictureIds }));
  await control.progress(steps - 2, steps, 'Ready for the next file');
  const { listing, current } = await sendByFile(ctx, control, client, row, store, {
    kind: 'put',
    externalId: row.externalId,
    reference: row.id,
    form,
    pictureIds,
    visibility,
  });
  const made = row.externalId ? row : await keepMade(control, row, listing, 'Made in the shop by a file.');
  if (!current)
    throw fileWaiting('The product changed while its row was away; the newer one goes with the next file.', 50);
  await control.progress(steps - 1, steps, 'The shop took it');
  return { row: made, pictureIds };
}

/** Writes down what the shop made. */
const keepMade = (
  control: JobControl,
  row: ListingRow,
  ref: { externalId: string; url: string },
  says: string,
): Promise<ListingRow> =>
  control.write(async (db) => {
    await db.run(
      'UPDATE listing SET external_id = ?, url = ?, answer = ?, answered_at = UTC_TIMESTAMP(3) WHERE id = ? AND external_id IS NULL',
      [ref.externalId, ref.url, JSON.stringify(ref), row.id],
    );
    await recordHistory(db, { ...row, externalId: ref.externalId }, 'made', says);
    return { ...row, ...ref };
  });

/** What a shop is about to be told. */
interface Outgoing {
  readonly form: ListingForm;
  readonly hash: string;
  readonly unseen: ListingForm['variants'];
  readonly sentAt: Date;
  readonly pictureIds: Readonly<Record<string, string>>;
  /** Of an attempt to make the listing. */
  readonly sendKey?: string;
}

/** Writes down what is being sent, before it is; its SKUs stay from then on. */
async function recordSent(
  db: Database,
  { id, productId }: ListingRow,
  { form, hash, unseen, sentAt, pictureIds, sendKey }: Outgoing,
): Promise<void> {
  await saveSentSkus(db, productId, unseen);
  await db.run(
    'UPDATE listing SET sent_form = ?, sent_hash = ?, sent_at = ?, sent_picture_ids = ?, send_key = COALESCE(?, send_key) WHERE id = ?',
    [formJson(form), hash, sentAt, JSON.stringify(pictureIds), sendKey ?? null, id],
  );
}

/** The key of an attempt: the same for whoever makes it, and another one only after the listing was deleted in the shop. */
const attemptKey = (row: ListingRow): string => `${row.id}-${row.generation}`;

/** Makes the listing in the shop unless an earlier try did. */
async function makeOnce({ ctx, control, client, row, form, hash, unseen }: Sending): Promise<ListingRow> {
  const skus = Object.values(form.variants).map(({ sku }) => sku);
  if (row.sendKey && row.sentAt) {
    const settled = await client.settle({ key: row.sendKey, reference: row.id, sentAt: row.sentAt, skus });
    if (settled.kind === 'made')
      return keepMade(control, row, settled.listing, 'An earlier try had made it; its answer was lost on the way.');
    if (settled.kind === 'wait')
      throw new TypicaError(
        'unavailable',
        'shop-unsettled',
        'The shop cannot say yet whether an earlier try made this listing; it is asked again before anything is made.',
        { retryAfterMs: settled.retryAfterMs, costsNoTry: true },
      );
  }
  // The time of this try: a shop that shows new things late is waited for from the newest one.
  const attempt = { key: row.sendKey ?? attemptKey(row), reference: row.id, sentAt: ctx.clock.now(), skus };
  // Written down first: if the answer is lost, the next try knows that this one was made, and under which key.
  await control.write((db) =>
    recordSent(db, row, { form, hash, unseen, sentAt: attempt.sentAt, pictureIds: {}, sendKey: attempt.key }),
  );
  return keepMade(control, row, await client.create(attempt, form), 'Made in the shop as a draft.');
}

/** Writes down what a shop answered to a try that did not succeed. */
async function noteTrouble(
  ctx: Context,
  db: Database,
  row: ListingRow,
  store: Store,
  hash: string,
  error: unknown,
  by: string | null,
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
    await recordHistory(db, row, 'refused', `${store.name} said: “${refusal.words}”`, { by });
  } else if (isTypicaError(error, 'shop-token') || isTypicaError(error, 'shop-scope'))
    await markLapsed(ctx, store, error.message);
  else if (isTypicaError(error)) await recordHistory(db, row, error.code, error.message, { by });
  await emit(db, row.workspaceId, 'listing', { productId: row.productId, storeId: row.storeId });
}
