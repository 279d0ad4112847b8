import { isTypicaError } from '@/core/errors';
import type { Context } from '../context';
import { emit } from '../events/events';
import type { JobControl } from '../jobs/worker';
import { openStore } from '../stores/keys';
import { findStore, markLapsed } from '../stores/stores';
import { forgetListing } from './agreement';
import { sendByFile } from './by-file';
import { findListing } from './listings';

/** Deletes a listing in its shop, and then here. Each step can be repeated. */
export async function removeListing(ctx: Context, control: JobControl): Promise<unknown> {
  const { job } = control;
  const row = await findListing(ctx.db, job.workspaceId, String(job.payload.listingId));
  if (!row?.externalId) return { removed: false };
  const store = await findStore(ctx, job.workspaceId, row.storeId);
  try {
    const client = await openStore(ctx, store, control);
    if (client.batch)
      await sendByFile(ctx, control, client, row, store, { kind: 'remove', externalId: row.externalId });
    else await client.remove(row.externalId);
  } catch (error) {
    if (isTypicaError(error, 'shop-token')) await markLapsed(ctx, store, error.message);
    // One that a shop no longer knows is deleted there already.
    if (!isTypicaError(error, 'shop-refused')) throw error;
  }
  await control.write(async (db) => {
    await forgetListing(db, row, `Deleted here and in ${store.name}.`);
    await emit(db, job.workspaceId, 'listing', { productId: row.productId, storeId: store.id });
  });
  return { removed: true };
}
