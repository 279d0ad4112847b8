import { isTypicaError, TypicaError } from '@/core/errors';
import { SEEN_HOW, type SeenHow } from '@/core/sync/sightings';
import type { Context } from '../context';
import { emit } from '../events/events';
import type { JobRow } from '../jobs/job-row';
import type { JobControl } from '../jobs/worker';
import { openStore } from '../stores/keys';
import { findStore, markLapsed } from '../stores/stores';
import { goneAfterSeconds, keepWhatIsThere } from './agreement';
import { findListing } from './listings';
import { settleByRules } from './settle-by-rules';

const howOf = ({ payload }: JobRow): SeenHow => SEEN_HOW.find((how) => how === payload.how) ?? 'asked';

/** Looks at a listing in its shop and notes what it shows now. What is not found is looked for a second time before it is believed. */
export async function checkListing(ctx: Context, control: JobControl): Promise<unknown> {
  const { job } = control;
  const row = await findListing(ctx.db, job.workspaceId, String(job.payload.listingId));
  if (!row?.externalId || !row.agreedForm) return { found: 'nothing' };
  const store = await findStore(ctx, job.workspaceId, row.storeId);
  try {
    const found = await keepWhatIsThere(ctx, control, await openStore(ctx, store, control), row, store, howOf(job));
    if (found === 'changed') await settleByRules(ctx, store, row.id);
    await emit(ctx.db, job.workspaceId, 'listing', { productId: row.productId, storeId: row.storeId });
    if (found === 'missing')
      throw new TypicaError(
        'unavailable',
        'listing-missing',
        `${store.name} does not find this listing just now; it is looked for once more before it is taken to be gone.`,
        { retryAfterMs: (goneAfterSeconds(ctx, store) + 5) * 1000, costsNoTry: true },
      );
    return { found };
  } catch (error) {
    if (isTypicaError(error, 'shop-token')) await markLapsed(ctx, store, error.message);
    throw error;
  }
}
