import { isTypicaError } from '@/core/errors';
import { readAgainMs } from '@/core/sync/sightings';
import type { ChannelClient } from '@/ports/channel';
import type { Context } from '../context';
import { emit } from '../events/events';
import type { JobControl } from '../jobs/worker';
import { openStore } from '../stores/keys';
import { findStore, markLapsed, type Store } from '../stores/stores';
import { keepWhatIsThere } from './agreement';
import { findListing, isOpen, requestCheck } from './listings';
import { dueIds, readingsAtOnce } from './readings';
import { settleByRules } from './settle-by-rules';

/** Reads listings of a store whose turn it is, as many as its shop has room for, and notes what each shows now. */
export async function readListings(ctx: Context, control: JobControl): Promise<unknown> {
  const { workspaceId, payload } = control.job;
  const store = await findStore(ctx, workspaceId, String(payload.storeId));
  if (store.state !== 'connected') return { read: 0 };
  const ids = await dueIds(ctx.db, store.id, readingsAtOnce(ctx, store.channel));
  try {
    const client = await openStore(ctx, store, control);
    let changed = 0;
    for (const [i, id] of ids.entries()) {
      await control.progress(i, ids.length, `${i} of ${ids.length} listings`);
      if (await readOne(ctx, control, client, store, id)) changed += 1;
    }
    return { read: ids.length, changed };
  } catch (error) {
    if (isTypicaError(error, 'shop-token')) await markLapsed(ctx, store, error.message);
    throw error;
  }
}

/** Whether it was changed there. */
async function readOne(
  ctx: Context,
  control: JobControl,
  client: ChannelClient,
  store: Store,
  id: string,
): Promise<boolean> {
  const row = await findListing(ctx.db, store.workspaceId, id);
  // What is on its way is read when it is there.
  if (!row?.externalId || !row.agreedForm || isOpen(row.jobState)) {
    await ctx.db.run('UPDATE listing SET read_due_at = UTC_TIMESTAMP(3) + INTERVAL ? SECOND WHERE id = ?', [
      Math.round(readAgainMs(row?.readLevel ?? 0, ctx.chance.fraction()) / 1000),
      id,
    ]);
    return false;
  }
  const found = await keepWhatIsThere(ctx, control, client, row, store, row.readHow);
  if (found === 'changed') await settleByRules(ctx, store, row.id);
  // A second look, before it is believed.
  if (found === 'missing') await requestCheck(ctx, row, store.name, row.readHow);
  if (found !== 'same')
    await emit(ctx.db, store.workspaceId, 'listing', { productId: row.productId, storeId: store.id });
  return found === 'changed';
}
