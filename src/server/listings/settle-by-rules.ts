import { isTypicaError } from '@/core/errors';
import type { ListingForm } from '@/core/listing/form';
import { compare } from '@/core/sync/merge';
import { asRulesSay } from '@/core/sync/standing-rules';
import type { NotTaken } from '@/core/sync/take';
import { treeOf } from '@/core/sync/tree';
import type { Context } from '../context';
import { log } from '../log';
import { actorOfPerson } from '../people/people';
import { loadBundle } from '../products/bundle';
import type { Store } from '../stores/stores';
import { findListing } from './listings';
import { settle } from './settle';

/** How the log says that nobody was asked. */
export const BY_RULES = 'by the store’s rules';

/** Tries, each without the fields that could not be taken: those wait for a person. */
const TRIES = 4;

/** Errors that mean: there is nothing for a rule to do, or not now. */
const LEFT = ['nothing-differs', 'listing-busy', 'listing-moved-on', 'revision-conflict'] as const;

/** Settles what the shop changed of a listing as its store's standing rules say; what they do not say, or cannot do, waits for a person. */
export async function settleByRules(ctx: Context, store: Store, listingId: string): Promise<void> {
  const { standing, standingBy } = store.settings;
  if (!standing || !standingBy || Object.keys(standing).length === 0) return;
  const choose = asRulesSay(standing);
  const left = new Set<string>();
  for (let i = 0; i < TRIES; i += 1)
    try {
      const row = await findListing(ctx.db, store.workspaceId, listingId);
      if (!row?.thereHash || row.thereHash === row.agreedHash) return;
      const [actor, bundle] = [
        await actorOfPerson(ctx, standingBy, store.workspaceId),
        await loadBundle(ctx, store.workspaceId, row.productId),
      ];
      await settle(ctx, actor, bundle, store, row, {
        settles: (difference) => {
          const choice = left.has(difference.field) ? 'ask' : choose(difference);
          return choice === 'ask' ? null : choice;
        },
        where: 'store',
        thereHash: row.thereHash,
        how: BY_RULES,
      });
      return;
    } catch (error) {
      if (LEFT.some((code) => isTypicaError(error, code))) return;
      if (!isTypicaError(error, 'not-takable')) {
        // The listing waits for a person, as it would without rules.
        log.warn({ err: error, listingId }, 'a store’s rules could not settle a listing');
        return;
      }
      for (const { field } of error.fields.fields as readonly NotTaken[]) left.add(field);
    }
}

/** Whether a store's rules say of everything that its shop changed that ours holds: then a send may write over it. */
export function rulesKeepOurs(
  { settings: { standing } }: Store,
  { agreed, here, there }: { readonly agreed: ListingForm; readonly here: ListingForm; readonly there: ListingForm },
): boolean {
  if (!standing) return false;
  const choose = asRulesSay(standing);
  const theirs = compare({ agreed: treeOf(agreed), here: treeOf(here), there: treeOf(there) }).filter(
    ({ change }) => change !== 'here',
  );
  return theirs.every((difference) => difference.change === 'both-alike' || choose(difference) === 'ours');
}
