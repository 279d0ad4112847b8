import { isTypicaError } from '@/core/errors';
import type { ListingForm } from '@/core/listing/form';
import type { Context } from '../context';
import { emit } from '../events/events';
import type { JobControl } from '../jobs/worker';
import { openStore } from '../stores/keys';
import { findStore, markLapsed, type Store } from '../stores/stores';
import { fileWaiting, sendByFile } from './by-file';
import { findListing, recordHistory, type ListingRow } from './listings';
import { lookFirst } from './look-first';

/** What a pause wants of a listing now: null where it stands as it should. */
function wantedBy({ pausedAt }: Store, row: ListingRow): 'draft' | 'live' | null {
  if (pausedAt) return row.visibility === 'live' ? 'draft' : null;
  return row.hiddenByPause === 1 ? 'live' : null;
}

/** Takes a listing off sale while its store is paused, or shows it again; nothing else of it is changed in the shop. */
export async function showListing(ctx: Context, control: JobControl): Promise<unknown> {
  const { job } = control;
  const row = await findListing(ctx.db, job.workspaceId, String(job.payload.listingId));
  if (!row?.externalId || !row.agreedForm) return { shown: null };
  const store = await findStore(ctx, job.workspaceId, row.storeId);
  const wanted = wantedBy(store, row);
  if (wanted === null) return { shown: null };
  try {
    const client = await openStore(ctx, store, control);
    if (client.batch) {
      // A row of a file brings the whole listing: as both sides agreed on it, and only over that.
      await lookFirst(ctx, control, client, row, store, { form: null, hash: row.agreedHash!, seenHash: null });
      const form = JSON.parse(row.agreedForm) as ListingForm;
      const pictureIds = JSON.parse(row.pictureIds ?? '{}') as Record<string, string>;
      const { externalId, id: reference } = row;
      const { current } = await sendByFile(ctx, control, client, row, store, {
        ...{ kind: 'put', externalId, reference, form, pictureIds },
        visibility: wanted,
      });
      if (!current) throw fileWaiting('An earlier row of it was answered; this one goes with the next file.', 50);
    } else await client.show(row.externalId, wanted);
  } catch (error) {
    if (isTypicaError(error, 'shop-token')) await markLapsed(ctx, store, error.message);
    throw error;
  }
  await control.write(async (db) => {
    await db.run('UPDATE listing SET visibility = ?, wanted_visibility = ?, hidden_by_pause = ? WHERE id = ?', [
      wanted,
      wanted,
      wanted === 'draft',
      row.id,
    ]);
    const says = wanted === 'draft' ? `Taken off sale: ${store.name} is paused.` : 'Shown again after the pause.';
    await recordHistory(db, row, 'shown', says);
    await emit(db, job.workspaceId, 'listing', { productId: row.productId, storeId: store.id });
  });
  return { shown: wanted };
}
