import { SYNC_MARKS, SYNC_STATES } from '@/core/sync/state';
import { calendarDay } from '@/ui/when';
import type { StoreLine, StoreSummary } from './load';

/** Keys that end within so many days are told of. */
const SOON_DAYS = 14;
const DAY_MS = 86_400_000;

/** How a store's connection is, in a few words: what is not well says why. */
export function stateWords(
  { state, trouble, keysEndAt, pausedAt }: Pick<StoreSummary, 'state' | 'trouble' | 'keysEndAt' | 'pausedAt'>,
  now: Date,
): { readonly well: boolean; readonly says: string } {
  if (state !== 'connected')
    return { well: false, says: `✕ ${trouble ?? 'The connection has lapsed: connect it again.'}` };
  if (pausedAt !== null)
    return { well: false, says: `Paused since ${calendarDay(pausedAt)}: nothing of it is on sale.` };
  if (keysEndAt === null) return { well: true, says: '✓ connected' };
  const days = Math.ceil((Date.parse(keysEndAt) - now.getTime()) / DAY_MS);
  if (days <= 0) return { well: false, says: `✕ The key ended on ${calendarDay(keysEndAt)}: paste a new one.` };
  if (days <= SOON_DAYS) return { well: false, says: `The key ends on ${calendarDay(keysEndAt)}: paste a new one.` };
  return { well: true, says: `✓ connected until ${calendarDay(keysEndAt)}` };
}

/** Where its listings stand, with the marks that stand beside these words everywhere; states that none is in are left out. */
export function standingWords({ states }: Pick<StoreLine, 'states'>): string {
  const told = SYNC_STATES.flatMap((state) => {
    const n = state === 'not-listed' ? 0 : (states[state] ?? 0);
    return n > 0 ? [`${SYNC_MARKS[state].mark} ${n} ${SYNC_MARKS[state].word}`] : [];
  });
  return told.length > 0 ? told.join(', ') : 'none yet';
}
