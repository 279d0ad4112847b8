import { companionIdsOf } from '@/core/document/document';
import { isTypicaError, TypicaError } from '@/core/errors';
import { formHash, formJson } from '@/core/listing/form-text';
import { FORM_FORMAT } from '@/core/listing/form';
import { upcast } from '@/core/listing/upcast';

import type { ChangedKind } from '@/core/sync/changed';
import type { SeenHow } from '@/core/sync/sightings';
import { syncState, type SyncState } from '@/core/sync/state';
import { note } from '../activity/note';
import type { Context } from '../context';
import type { Database } from '../db/pool';
import { tell } from '../events/events';
import { refuseStops } from '../findings/findings';
import type { JobState } from '../jobs/job-row';
import { enqueue } from '../jobs/jobs';
import { loadBundles, type ProductBundle } from '../products/bundle';
import { productsById } from '../products/products';
import type { Store } from '../stores/stores';
import { prepareListing, type PreparedListing } from './prepare';

export interface ListingRow {
  readonly id: string;
  readonly workspaceId: string;
  readonly productId: string;
  readonly storeId: string;
  /** Of the listings of its product in its store. */
  readonly number: number;
  readonly externalId: string | null;
  readonly url: string | null;
  readonly visibility: 'draft' | 'live';
  readonly agreedForm: string | null;
  readonly agreedHash: string | null;
  readonly thereForm: string | null;
  readonly thereHash: string | null;
  readonly sentHash: string | null;
  readonly sendKey: string | null;
  readonly sentAt: Date | null;
  readonly answer: string | null;
  readonly answeredAt: Date | null;
  readonly refusal: string | null;
  readonly refusedHash: string | null;
  /** JSON: the shop's ids of pictures by our keys, as agreed, and as sent last. */
  readonly pictureIds: string | null;
  readonly sentPictureIds: string | null;
  /** What the shop showed right after it took what was sent last. */
  readonly settledHash: string | null;
  readonly endsAt: Date | null;
  /** JSON: pictures that the shop took and then refused. */
  readonly refusedPictures: string | null;
  /** A pause of its store took it off sale. */
  readonly hiddenByPause: number;
  /** When and how it was learnt what the shop shows. */
  readonly seenAt: Date | null;
  readonly seenHow: SeenHow | null;
  /** The shop's own sign of what it showed then. */
  readonly thereStamp: string | null;
  /** Whether it was on sale when both sides last agreed on that. */
  readonly wantedVisibility: 'draft' | 'live' | null;
  /** Since when the shop does not find it; when it was taken to be deleted there. */
  readonly missingSince: Date | null;
  readonly goneAt: Date | null;
  /** How rarely it is read without being asked. */
  readonly readLevel: number;
  readonly readHow: 'since' | 'reading';
  /** How often it was made in the shop: one that was deleted there is made anew. */
  readonly generation: number;
  readonly jobId: string | null;
  readonly jobState: JobState | null;
}

const COLUMNS = `l.id, l.workspace_id AS workspaceId, l.product_id AS productId, l.store_id AS storeId, l.number, l.external_id AS externalId, l.url, l.visibility,
  l.agreed_form AS agreedForm, l.agreed_hash AS agreedHash, l.there_form AS thereForm, l.there_hash AS thereHash, l.sent_hash AS sentHash, l.send_key AS sendKey,
  l.sent_at AS sentAt, l.answer, l.answered_at AS answeredAt, l.refusal, l.refused_hash AS refusedHash, l.picture_ids AS pictureIds, l.sent_picture_ids AS sentPictureIds, l.settled_hash AS settledHash, l.ends_at AS endsAt, l.refused_pictures AS refusedPictures, l.hidden_by_pause AS hiddenByPause, l.generation, l.seen_at AS seenAt, l.seen_how AS seenHow, l.there_stamp AS thereStamp, l.wanted_visibility AS wantedVisibility, l.missing_since AS missingSince,
  l.gone_at AS goneAt, l.read_level AS readLevel, l.read_how AS readHow, l.job_id AS jobId, j.state AS jobState`;
const FROM = 'FROM listing l LEFT JOIN job j ON j.id = l.job_id';

/** A form that was stored in an older format, as of today: with its hash, so that what was agreed reads as agreed. */
function asOfToday(form: string | null, hash: string | null): { form: string | null; hash: string | null } {
  if (form === null || form.includes(`"format":${FORM_FORMAT},`)) return { form, hash };
  const now = upcast(JSON.parse(form));
  return { form: formJson(now), hash: formHash(now) };
}

function ofToday(row: ListingRow): ListingRow {
  const [agreed, there] = [asOfToday(row.agreedForm, row.agreedHash), asOfToday(row.thereForm, row.thereHash)];
  return {
    ...row,
    agreedForm: agreed.form,
    agreedHash: agreed.hash,
    thereForm: there.form,
    thereHash: there.hash,
  };
}

export async function findListing(db: Database, workspaceId: string, id: string): Promise<ListingRow | null> {
  const row = await db.row<ListingRow>(`SELECT ${COLUMNS} ${FROM} WHERE l.id = ? AND l.workspace_id = ?`, [
    id,
    workspaceId,
  ]);
  return row && ofToday(row);
}

export async function listingsOf(
  db: Database,
  workspaceId: string,
  productIds: readonly string[],
): Promise<ListingRow[]> {
  if (productIds.length === 0) return [];
  const rows = await db.rows<ListingRow>(
    `SELECT ${COLUMNS} ${FROM} WHERE l.workspace_id = ? AND l.product_id IN (${productIds.map(() => '?').join(',')})`,
    [workspaceId, ...productIds],
  );
  return rows.map(ofToday);
}

export const isOpen = (state: JobState | null): boolean =>
  state === 'queued' || state === 'running' || state === 'waiting';

/** A product made ready for a store in which it may be listed already: what the shop said of its pictures counts. */
export const prepareListed = (
  ctx: Context,
  bundle: ProductBundle,
  store: Store,
  row: Pick<ListingRow, 'refusedPictures' | 'number'> | null | undefined,
  number = row?.number,
): PreparedListing =>
  prepareListing(
    ctx,
    bundle,
    store,
    row?.refusedPictures ? (JSON.parse(row.refusedPictures) as { key: string; words: string }[]) : [],
    number,
  );

type Hashed = Pick<PreparedListing, 'hash'>;

/** Where a product stands in a store when nothing is on its way. `row` is null when it was never sent there. */
export const standingOf = (row: ListingRow | null, { hash }: Hashed): Exclude<SyncState, 'on-its-way'> =>
  syncState({
    hereHash: hash,
    agreedHash: row?.agreedHash ?? null,
    thereHash: row?.thereHash ?? null,
    refusedHash: row?.refusedHash ?? null,
  });

/** Where a product stands in a store now. */
export const stateOf = (row: ListingRow | null, prepared: Hashed): SyncState =>
  isOpen(row?.jobState ?? null) ? 'on-its-way' : standingOf(row, prepared);

export interface ShopRefusal {
  readonly words: string;
  readonly says: string;
  readonly fields: readonly string[];
}

/** A listing as the API tells it. */
export interface ListingView {
  readonly storeId: string;
  /** Of the listings of the product in the store. */
  readonly number: number;
  readonly state: SyncState;
  readonly listingId: string | null;
  readonly externalId: string | null;
  readonly url: string | null;
  readonly visibility: 'draft' | 'live' | null;
  readonly jobId: string | null;
  readonly sentAt: Date | null;
  readonly refusal: ShopRefusal | null;
  /** Of what the shop shows where that is not what both agreed on: to be named by who sends over it. */
  readonly thereHash: string | null;
  /** When a live one ends by the shop's clock. */
  readonly endsAt: Date | null;
  readonly rules: PreparedListing['rules'];
}

export function listingView(
  store: Store,
  { number, row }: { readonly number: number; readonly row: ListingRow | null },
  prepared: PreparedListing,
): ListingView {
  const state = stateOf(row, prepared);
  return {
    storeId: store.id,
    number,
    state,
    listingId: row?.id ?? null,
    externalId: row?.externalId ?? null,
    url: row?.url ?? null,
    visibility: row?.externalId ? row.visibility : null,
    jobId: row?.jobId ?? null,
    sentAt: row?.sentAt ?? null,
    refusal: row?.refusal && state === 'refused' ? (JSON.parse(row.refusal) as ShopRefusal) : null,
    thereHash: row && row.thereHash !== row.agreedHash ? row.thereHash : null,
    endsAt: row?.visibility === 'live' ? row.endsAt : null,
    rules: prepared.rules,
  };
}

/** What must be put right in a design stops it, also in that of a product that is sold together with it. Throws `design-stopped`. */
export async function refuseDesign(ctx: Context, design: ProductBundle): Promise<void> {
  await refuseStops(ctx, design);
  const { product } = design;
  const companions = await productsById(ctx.db, product.workspaceId, companionIdsOf(product.document));
  for (const bundle of await loadBundles(ctx, product.workspaceId, companions))
    try {
      await refuseStops(ctx, bundle);
    } catch (error) {
      if (!isTypicaError(error, 'design-stopped')) throw error;
      const says = `A bundle holds ${bundle.product.title}. ${error.message}`;
      throw new TypicaError('invalid', 'design-stopped', says, { ...error.fields, productId: bundle.product.id });
    }
}

/** Holds a listing's row, and throws `listing-busy` while the listing is on its way. */
export async function refuseBusy(db: Database, listingId: string): Promise<void> {
  const now = await db.row<{ jobState: JobState | null }>(
    'SELECT j.state AS jobState FROM listing l LEFT JOIN job j ON j.id = l.job_id WHERE l.id = ? FOR UPDATE',
    [listingId],
  );
  if (isOpen(now?.jobState ?? null))
    throw new TypicaError('conflict', 'listing-busy', 'It is on its way just now; wait until it is there, or stop it.');
}

/** Asks for a listing to be deleted in its shop and then here. Throws `listing-busy` while it is on its way. */
export async function requestRemoval(ctx: Context, row: ListingRow, storeName: string): Promise<{ jobId: string }> {
  return ctx.pools.transaction(async (db) => {
    await refuseBusy(db, row.id);
    const jobId = await enqueue(db, {
      workspaceId: row.workspaceId,
      kind: 'remove-listing',
      title: `Delete the listing in ${storeName}`,
      payload: { listingId: row.id },
      subject: `listing:${row.id}`,
      storeId: row.storeId,
      priority: 5,
      maxAttempts: 8,
    });
    await db.run('UPDATE listing SET job_id = ? WHERE id = ?', [jobId, row.id]);
    await tell(db, row.workspaceId, 'listing', { productId: row.productId, storeId: row.storeId });
    return { jobId };
  });
}

/** Asks for a listing to be read in its shop, to see whether it was changed there. */
export async function requestCheck(
  ctx: Context,
  row: Pick<ListingRow, 'id' | 'workspaceId' | 'storeId'>,
  storeName: string,
  how: SeenHow = 'asked',
): Promise<{ jobId: string }> {
  const jobId = await enqueue(ctx.db, {
    workspaceId: row.workspaceId,
    kind: 'check-listing',
    title: `Check the listing in ${storeName}`,
    payload: { listingId: row.id, how },
    subject: `listing:${row.id}`,
    storeId: row.storeId,
    priority: 3,
  });
  return { jobId };
}

export const recordHistory = (
  db: Database,
  row: Pick<ListingRow, 'id' | 'workspaceId' | 'externalId' | 'productId' | 'storeId'>,
  what: string,
  says: string,
  { by = null, fields = null }: { readonly by?: string | null; readonly fields?: readonly string[] | null } = {},
): Promise<void> =>
  note(
    db,
    { workspaceId: row.workspaceId, personName: by },
    { about: 'listing', what, says, fields, listing: row, productId: row.productId, storeId: row.storeId },
  );

/** One line of a listing's log. */
export interface HistoryLine {
  readonly what: string;
  /** What happened, with what the shop answered. */
  readonly says: string;
  readonly at: Date;
  /** Who asked for it; null for what happened by itself. */
  readonly by: string | null;
  /** Kinds of fields that went; null where none did. */
  readonly fields: readonly ChangedKind[] | null;
}

export async function listingHistory(ctx: Context, workspaceId: string, listingId: string): Promise<HistoryLine[]> {
  const rows = await ctx.db.rows<Omit<HistoryLine, 'fields'> & { fields: string | null }>(
    'SELECT what, says, at, by_name AS `by`, fields FROM activity WHERE workspace_id = ? AND listing_id = ? ORDER BY id DESC LIMIT 100',
    [workspaceId, listingId],
  );
  return rows.map(({ fields, ...line }) => ({
    ...line,
    fields: fields === null ? null : (JSON.parse(fields) as ChangedKind[]),
  }));
}
