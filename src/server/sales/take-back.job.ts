import { isTypicaError, TypicaError } from '@/core/errors';
import { contentHash } from '@/core/canonical/canonical';
import { outOfSale, type ListingForm } from '@/core/listing/form';
import type { Context } from '../context';
import { emit } from '../events/events';
import type { JobControl } from '../jobs/worker';
import { saveAgreement } from '../listings/agreement';
import { findListing, recordHistory } from '../listings/listings';
import { findProduct } from '../products/products';
import { openStore } from '../stores/keys';
import { findStore, markLapsed } from '../stores/stores';

/**
 * Brings the prices of a listing back to what they were before a sale, and nothing else: the product was changed meanwhile, and what was not sent stays
 * unsent. Repeating it is harmless.
 */
export async function takeBackPrices(ctx: Context, control: JobControl): Promise<unknown> {
  const { job } = control;
  const row = await findListing(ctx.db, job.workspaceId, String(job.payload.listingId));
  if (!row?.externalId || !row.agreedForm) return { found: 'nothing' };
  const agreed = JSON.parse(row.agreedForm) as ListingForm;
  const form = outOfSale(agreed);
  if (contentHash(form) === row.agreedHash) return { found: 'nothing' };
  if (row.thereHash !== row.agreedHash)
    throw new TypicaError(
      'invalid',
      'listing-changed-there',
      'This listing was changed in the shop; its prices stay as they are there.',
    );
  const store = await findStore(ctx, job.workspaceId, row.storeId);
  const pictureIds = JSON.parse(row.pictureIds ?? '{}') as Record<string, string>;
  try {
    const client = await openStore(ctx, store, control);
    await control.progress(0, 2, 'Begins');
    await client.update(row.externalId, form, pictureIds);
    await control.progress(1, 2, 'Prices are as before the sale');
    const { document } = await findProduct(ctx, job.workspaceId, row.productId);
    await saveAgreement(ctx, control, client, row, form, pictureIds, { document, terms: null }, async (db) => {
      await recordHistory(
        db,
        row,
        'sent',
        'The sale is over: prices are as they were before it, and nothing else was sent.',
      );
      await emit(db, job.workspaceId, 'listing', { productId: row.productId, storeId: row.storeId });
    });
    return { externalId: row.externalId };
  } catch (error) {
    if (isTypicaError(error, 'shop-token')) await markLapsed(ctx, store, error.message);
    throw error;
  }
}
