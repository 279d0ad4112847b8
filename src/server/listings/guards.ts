import type { ListingForm } from '@/core/listing/form';
import { guardsOf, wholeGuards, type Guard } from '@/core/sync/guards';
import type { Difference } from '@/core/sync/merge';
import type { Context } from '../context';
import type { ProductBundle } from '../products/bundle';
import type { Store } from '../stores/stores';
import type { ListingRow } from './listings';
import { losingThere, type PreparedListing } from './prepare';

/** What was done in the shop and reaches further than a field: to the listing as a whole, and to parts of it. */
export function listingGuards(
  ctx: Context,
  bundle: ProductBundle,
  store: Store,
  row: ListingRow,
  { form }: PreparedListing,
  differences: readonly Difference[],
): Guard[] {
  const there = row.thereForm === null ? null : (JSON.parse(row.thereForm) as ListingForm);
  const losing =
    form && there && row.thereHash !== row.agreedHash
      ? losingThere(ctx, bundle, store, { here: form, there, number: row.number })
      : [];
  const whole = wholeGuards({
    missing: row.missingSince !== null,
    gone: row.goneAt !== null && row.externalId === null,
    visibility: row.visibility,
    // A pause of the store takes listings off sale, and shows them again.
    wanted: row.hiddenByPause === 1 ? null : row.wantedVisibility,
    losing,
    currency: store.currency,
  });
  return [...whole, ...guardsOf(differences)];
}
