import { isTypicaError } from '@/core/errors';
import type { Context } from '../context';
import { emit } from '../events/events';
import type { JobControl } from '../jobs/worker';
import { findStore, markLapsed, openStore } from '../stores/stores';
import { keepWhatIsThere } from './agreement';
import { findListing } from './listings';

/** Looks at a listing in its shop and notes what it shows now. */
export async function checkListing(ctx: Context, { job }: JobControl): Promise<unknown> {
  const row = await findListing(ctx.db, job.workspaceId, String(job.payload.listingId));
  if (!row?.externalId || !row.agreedForm) return { found: 'nothing' };
  const store = await findStore(ctx, job.workspaceId, row.storeId);
  try {
    const found = await keepWhatIsThere(ctx, await openStore(ctx, store), row);
    await emit(ctx.db, job.workspaceId, 'listing', { productId: row.productId, storeId: row.storeId });
    return { found };
  } catch (error) {
    if (isTypicaError(error, 'shop-token')) await markLapsed(ctx, store);
    throw error;
  }
}
