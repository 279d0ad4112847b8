import { TypicaError } from '@/core/errors';
import type { ShopRate } from '@/ports/channel';
import type { Context } from '../context';
import { newId } from '../db/ids';
import { log } from '../log';
import { Gate, type Turn } from './gate';
import { giveUpShare, renewShare, slowStore } from './shares';

/** The window in which a shop counts, ms. */
const WINDOW_MS = 1000;

/** Gates of this process, by the database that they share through and by store. */
const gates = new WeakMap<object, Map<string, Gate>>();

function gateOf(ctx: Context, storeId: string, { perSecond, pace = 1 }: ShopRate): Gate {
  const own = gates.get(ctx.pools) ?? new Map<string, Gate>();
  gates.set(ctx.pools, own);
  const known = own.get(storeId);
  if (known) return known;
  const holder = newId('g');
  const made = new Gate(WINDOW_MS / pace, {
    now: () => performance.now(),
    renew: (share) => renewShare(ctx, storeId, perSecond, { ...share, holder }),
    giveUp: () =>
      giveUpShare(ctx, storeId, holder).catch((error: unknown) =>
        log.warn({ err: error }, 'a share of a limit could not be given back'),
      ),
    busy: shopBusy,
  });
  own.set(storeId, made);
  return made;
}

/**
 * Waits until the shop allows one more request of a store, whichever process makes it: each has a share of what the shop takes in a second, and no
 * second of the shop's has more than that. Throws `shop-busy` when it would wait for long.
 */
export const takeTurn = (ctx: Context, storeId: string, rate: ShopRate, signal?: AbortSignal): Promise<Turn> =>
  gateOf(ctx, storeId, rate).take(signal);

/** The shop cannot take it now; nothing is wrong with it, so that it costs no try. */
const shopBusy = (retryAfterMs: number): TypicaError =>
  new TypicaError('unavailable', 'shop-busy', 'The shop asks to wait; it continues automatically.', {
    retryAfterMs: Math.ceil(retryAfterMs),
    costsNoTry: true,
  });

/** The shop asked to wait: nobody asks it before that, and then fewer at once than before. */
export async function slowDown(ctx: Context, storeId: string, rate: ShopRate, retryAfterMs: number): Promise<void> {
  const ms = retryAfterMs / (rate.pace ?? 1);
  gateOf(ctx, storeId, rate).pause(ms);
  await slowStore(ctx, storeId, rate.perSecond, ms);
}
