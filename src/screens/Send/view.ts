import type { SendStep } from '@/core/sync/send-step';
import type { SendData, SendItemView, SendProgress } from './load';

/** How each wish for many is named, on its button and in lists. */
export const VISIBILITY_WORDS = {
  'as-is': 'as each stands, new ones as their store says',
  draft: 'all as drafts',
  live: 'all live',
} as const;

const STEP_WORDS: Record<SendStep, string> = {
  new: 'new',
  changed: 'changed',
  shown: 'only shown or hidden',
  unchanged: 'unchanged',
  stopped: 'not sent',
  busy: 'on its way already',
};

/** Jobs of all stores together. */
export const sumOfProgress = (all: readonly SendProgress[]): SendProgress =>
  all.reduce(
    (sum, one) => ({
      done: sum.done + one.done,
      failed: sum.failed + one.failed,
      cancelled: sum.cancelled + one.cancelled,
      open: sum.open + one.open,
      lastMinute: sum.lastMinute + one.lastMinute,
    }),
    { done: 0, failed: 0, cancelled: 0, open: 0, lastMinute: 0 },
  );

/** Where a send as a whole is, in a few words. */
export function sendState(
  { state, paused, startsAt }: Pick<SendData['send'], 'state' | 'paused' | 'startsAt'>,
  open: number,
  now: number,
): string {
  if (state === 'planned') return 'planned';
  if (state === 'stopped') return 'stopped';
  if (paused) return 'paused';
  if (state === 'begun' && startsAt !== null && Date.parse(startsAt) > now) return 'put off';
  return state === 'begun' || open > 0 ? 'being sent' : 'ended';
}

/** What becomes of one listing: its job where it has one, else what the plan says. */
export function itemWords({ what, changed, jobState }: Pick<SendItemView, 'what' | 'changed' | 'jobState'>): string {
  if (jobState === 'done') return 'sent';
  if (jobState === 'failed') return 'failed';
  if (jobState === 'cancelled') return 'stopped';
  if (jobState === 'running') return 'being sent';
  const plan = what === null ? 'not looked at yet' : STEP_WORDS[what];
  const kinds = changed.length > 0 ? `${plan}: ${changed.join(', ')}` : plan;
  return jobState === null ? kinds : `queued (${kinds})`;
}
