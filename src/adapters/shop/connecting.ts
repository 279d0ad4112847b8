import { setTimeout as delay } from 'node:timers/promises';
import type { ChannelHooks } from '@/ports/channel';

/** For the few requests of connecting, which nobody shares. */
export const ALONE: ChannelHooks = {
  takeTurn: async () => ({ answered: async () => {} }),
  slowDown: (retryAfterMs) => delay(retryAfterMs),
  renew: (stale, ask) => ask(stale),
};
