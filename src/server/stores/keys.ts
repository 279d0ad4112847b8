import { TypicaError } from '@/core/errors';
import { sameJson } from '@/core/json/bounds';
import type { ChannelClient, ChannelSecrets, Counted, ShopRate } from '@/ports/channel';
import type { Context } from '../context';
import { open, seal } from '../people/secrets';
import { slowDown, takeTurn } from './rate';
import { channelOf, markWorking, type Store } from './stores';

export const readSecrets = (ctx: Context, storeId: string, sealed: Buffer): ChannelSecrets =>
  JSON.parse(open(ctx.masterKey, sealed, storeId)) as ChannelSecrets;

const noKey = (store: Store) =>
  new TypicaError(
    'conflict',
    'store-disconnected',
    `${store.name} has no key any more. Connect it again on the Stores page.`,
  );

/**
 * Trades keys that ran out for new ones, once for all workers: a key to renew with is good for one use. The row is held meanwhile; who comes
 * second finds what the first was given.
 */
async function renewSecrets(
  ctx: Context,
  store: Store,
  stale: ChannelSecrets,
  ask: (stale: ChannelSecrets) => Promise<ChannelSecrets>,
): Promise<ChannelSecrets> {
  return ctx.pools.transaction(async (db) => {
    const row = await db.row<{ sealed: Buffer }>('SELECT sealed FROM store_secret WHERE store_id = ? FOR UPDATE', [
      store.id,
    ]);
    if (!row) throw noKey(store);
    const now = readSecrets(ctx, store.id, row.sealed);
    if (!sameJson(now, stale)) return now;
    const fresh = await ask(stale);
    await db.run('UPDATE store_secret SET sealed = ? WHERE store_id = ?', [
      seal(ctx.masterKey, JSON.stringify(fresh), store.id),
      store.id,
    ]);
    return fresh;
  });
}

/** Who makes requests: ends them, and is asked before each whether it still may. */
export interface Caller {
  readonly signal: AbortSignal;
  mayGoOn(): Promise<void>;
}

/**
 * A client for a store's shop: tokens are opened here and renewed for all, each request waits for the store's rate, and a job's requests end with
 * its lease.
 */
/** Times of a shop whose clock runs faster, as ours has them. */
const atPace = ({ forMs, untilMs }: Counted, { pace = 1 }: ShopRate): Counted => ({
  forMs: forMs / pace,
  ...(untilMs === undefined ? {} : { untilMs: untilMs / pace }),
});

export async function openStore(ctx: Context, store: Store, by?: Caller): Promise<ChannelClient> {
  if (store.state === 'disconnected')
    throw new TypicaError(
      'conflict',
      'store-disconnected',
      `${store.name} is no longer connected. Connect it again on the Stores page.`,
    );
  const row = await ctx.db.row<{ sealed: Buffer }>('SELECT sealed FROM store_secret WHERE store_id = ?', [store.id]);
  if (!row) throw noKey(store);
  const channel = channelOf(ctx, store.channel);
  const { rate } = channel.about;
  let lapsed = store.state === 'lapsed';
  return channel.open(readSecrets(ctx, store.id, row.sealed), {
    signal: by?.signal,
    renew: (stale, ask) => renewSecrets(ctx, store, stale, ask),
    slowDown: (retryAfterMs) => slowDown(ctx, store.id, rate, retryAfterMs),
    takeTurn: async () => {
      const turn = await takeTurn(ctx, store.id, rate, by?.signal);
      try {
        // As late as can be: whoever slept since it took its turn must not make the request.
        await by?.mayGoOn();
      } catch (error) {
        turn.answered({ forMs: 0 });
        throw error;
      }
      return {
        answered: async (taken, counted) => {
          turn.answered(counted && atPace(counted, rate));
          if (taken && lapsed) {
            lapsed = false;
            await markWorking(ctx, store);
          }
        },
      };
    },
  });
}
