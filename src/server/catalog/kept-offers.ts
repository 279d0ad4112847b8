import { LRUCache } from 'lru-cache';
import type { Blank } from '@/core/catalog/blank';
import type { Context } from '../context';
import { notFound } from '@/core/errors';
import { loadBlanks } from './blanks';
import { listsInForce, offersUnder, type ListInForce, type Offer } from './offers';

/** Price lists of which a blank's costs are kept in memory, the least recently used first to go. */
const MAX_LISTS = 20;

/**
 * Offers by blank, and by price list with the count of how often its rows were written. A blank that changed is another object (kept-blanks.ts):
 * nothing that is kept here grows old, and it goes with its blank.
 */
const keeps = new WeakMap<Blank, LRUCache<string, Promise<Offer>>>();

function keepOf(blank: Blank): LRUCache<string, Promise<Offer>> {
  const have = keeps.get(blank) ?? new LRUCache<string, Promise<Offer>>({ max: MAX_LISTS });
  keeps.set(blank, have);
  return have;
}

/** The blanks with the lists that are in force, by partner id; costs that this process has read are not read again. */
async function keptOffers(
  ctx: Context,
  blanks: readonly Blank[],
  inForce: ReadonlyMap<string, ListInForce>,
): Promise<Offer[]> {
  const listOf = ({ partner }: Blank) => {
    const list = inForce.get(partner.id);
    return list ? `${list.id} ${list.written}` : '';
  };
  const missing = blanks.filter((blank) => !keepOf(blank).has(listOf(blank)));
  if (missing.length > 0) {
    const reading = offersUnder(ctx, missing, inForce);
    missing.forEach((blank, i) => {
      const one = reading.then((offers) => offers[i]!);
      keepOf(blank).set(listOf(blank), one);
      // What could not be read is tried again by whoever asks next.
      one.catch(() => keepOf(blank).delete(listOf(blank)));
    });
  }
  return Promise.all(blanks.map((blank) => keepOf(blank).get(listOf(blank))!));
}

/** Blanks with prices, stock and ended variants as they are in force for a workspace. */
export async function loadOffers(ctx: Context, workspaceId: string, ids: readonly string[]): Promise<Offer[]> {
  const blanks = await loadBlanks(ctx, ids);
  const inForce = await listsInForce(ctx.db, workspaceId, [...new Set(blanks.map((blank) => blank.partner.id))]);
  return keptOffers(ctx, blanks, inForce);
}

export async function loadOffer(ctx: Context, workspaceId: string, id: string): Promise<Offer> {
  const [offer] = await loadOffers(ctx, workspaceId, [id]);
  if (!offer) throw notFound('blank', id);
  return offer;
}
