import { isTypicaError } from '@/core/errors';
import type { ListingForm } from '@/core/listing/form';
import { compare, type Choose } from '@/core/sync/merge';
import { asRulesSay } from '@/core/sync/standing-rules';
import type { NotTaken } from '@/core/sync/take';
import { treeOf } from '@/core/sync/tree';
import type { Context } from '../context';
import { log } from '../log';
import { actorOfPerson, type Actor } from '../people/people';
import { loadBundle } from '../products/bundle';
import type { Store } from '../stores/stores';
import { findListing } from './listings';
import { settle, type Settles } from './settle';

/** How the log says that nobody was asked. */
export const BY_RULES = 'by the store’s rules';

/** Tries: each looks at the listing as it is then, and leaves out the fields that could not be taken; those wait for a person. */
const TRIES = 4;

/** Errors that mean: there is nothing to do here, or not now. */
const LEFT = ['nothing-differs', 'listing-busy'] as const;
/** Errors that mean: somebody else was quicker, with this or with another field. */
const MOVED = ['listing-moved-on', 'revision-conflict'] as const;

/** In whose name listings are settled, and how each field. */
export interface Wanted {
  readonly by: Actor;
  readonly choose: Choose;
  /** In whose words the log tells of it. */
  readonly how: string;
}

/**
 * Settles of a listing what was changed in its shop, as far as it is wanted and the product can take it: the rest waits for a person. Gives whether anything
 * was settled.
 */
export async function settleWhatCan(
  ctx: Context,
  store: Store,
  listingId: string,
  { by, choose, how }: Wanted,
): Promise<boolean> {
  const left = new Set<string>();
  for (let i = 0; i < TRIES; i += 1)
    try {
      const row = await findListing(ctx.db, store.workspaceId, listingId);
      if (!row?.thereHash || row.thereHash === row.agreedHash) return false;
      const bundle = await loadBundle(ctx, store.workspaceId, row.productId);
      const settles: Settles = (difference) => {
        const choice = left.has(difference.field) ? 'ask' : choose(difference);
        return choice === 'ask' ? null : choice;
      };
      await settle(ctx, by, bundle, store, row, { settles, where: 'store', thereHash: row.thereHash, how });
      return true;
    } catch (error) {
      if (LEFT.some((code) => isTypicaError(error, code))) return false;
      if (MOVED.some((code) => isTypicaError(error, code))) continue;
      if (!isTypicaError(error, 'not-takable')) {
        // The listing waits for a person, as it would otherwise.
        log.warn({ err: error, listingId }, 'a listing could not be settled');
        return false;
      }
      for (const { field } of error.fields.fields as readonly NotTaken[]) left.add(field);
    }
  return false;
}

/** Settles what the shop changed of a listing as its store's standing rules say. */
export async function settleByRules(ctx: Context, store: Store, listingId: string): Promise<void> {
  const { standing, standingBy } = store.settings;
  if (!standing || !standingBy || Object.keys(standing).length === 0) return;
  try {
    const by = await actorOfPerson(ctx, standingBy, store.workspaceId);
    await settleWhatCan(ctx, store, listingId, { by, choose: asRulesSay(standing), how: BY_RULES });
  } catch (error) {
    // Who made the rules is no longer there: they hold no more until somebody else makes some.
    if (!isTypicaError(error, 'not-found')) throw error;
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
