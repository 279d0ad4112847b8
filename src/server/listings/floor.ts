import { invalid } from '@/core/errors';
import { soldListings } from '@/core/document/split';
import { acceptedLosses } from '@/core/rules/accepted-losses';
import type { Context } from '../context';
import { emit } from '../events/events';
import type { Actor } from '../people/people';
import type { ProductBundle } from '../products/bundle';
import type { Store } from '../stores/stores';
import { prepareListing } from './prepare';

/** Letters of a sentence that is kept. */
const SAYS_MAX = 1000;

const idOf = (storeId: string) => `floor:${storeId}`;

/**
 * Accepts the losses of a product in a store as they stand now, variant by variant and destination by destination: one that is new or gets deeper
 * is open again. Throws `floor-kept`.
 */
export async function acceptFloor(ctx: Context, actor: Actor, bundle: ProductBundle, store: Store): Promise<void> {
  const listings = soldListings(bundle.product.document, store.id).map((number) =>
    prepareListing(ctx, bundle, store, [], number),
  );
  const losing = listings.flatMap((listing) => listing.losing);
  const says = listings.flatMap(({ rules }) =>
    rules.flatMap((one) => (one.id === 'floor' && !one.kept ? one.says : [])),
  );
  if (says.length === 0)
    throw invalid(
      'floor-kept',
      `No price of this product is below its floor in ${store.name}; there is nothing to accept.`,
    );
  await ctx.pools.transaction(async (db) => {
    await db.run(
      `INSERT INTO finding_acceptance (workspace_id, product_id, finding_id, says, losses, person_id) VALUES (?, ?, ?, ?, ?, ?)
       ON DUPLICATE KEY UPDATE says = VALUE(says), losses = VALUE(losses), person_id = VALUE(person_id), accepted_at = UTC_TIMESTAMP(3)`,
      [
        actor.workspaceId,
        bundle.product.id,
        idOf(store.id),
        says.join(' ').slice(0, SAYS_MAX),
        JSON.stringify(acceptedLosses(losing)),
        actor.personId,
      ],
    );
    await emit(db, actor.workspaceId, 'listing', { productId: bundle.product.id, storeId: store.id });
  });
}

export async function withdrawFloor(ctx: Context, actor: Actor, productId: string, storeId: string): Promise<void> {
  await ctx.pools.transaction(async (db) => {
    await db.run('DELETE FROM finding_acceptance WHERE workspace_id = ? AND product_id = ? AND finding_id = ?', [
      actor.workspaceId,
      productId,
      idOf(storeId),
    ]);
    await emit(db, actor.workspaceId, 'listing', { productId, storeId });
  });
}
