import { formatAmount, formatMoney, money } from '../pricing/money';
import { CHANGED_KINDS, type ChangedKind } from '../sync/changed';
import type { SendStep, WantedVisibility } from '../sync/send-step';
import { count } from './count';

export interface CountedSteps {
  readonly steps: { readonly [step in SendStep]?: number };
  readonly changed: { readonly [kind in ChangedKind]?: number };
}

/** Counts of several stores as one. */
export function sumOfSteps(all: readonly CountedSteps[]): CountedSteps {
  const [steps, changed] = [new Map<SendStep, number>(), new Map<ChangedKind, number>()];
  const add = <K>(to: Map<K, number>, from: object) => {
    for (const [key, n] of Object.entries(from)) to.set(key as K, (to.get(key as K) ?? 0) + (n as number));
  };
  for (const one of all) {
    add(steps, one.steps);
    add(changed, one.changed);
  }
  return { steps: Object.fromEntries(steps), changed: Object.fromEntries(changed) };
}

const shownWord = (wanted: WantedVisibility) => (wanted === 'live' ? 'made live' : 'taken off sale');

/** What changed of the listings that changed: `price 3, pictures 1`. */
export const changedWords = ({ changed }: Pick<CountedSteps, 'changed'>): string =>
  CHANGED_KINDS.flatMap((kind) => (changed[kind] ? [`${kind} ${changed[kind]}`] : [])).join(', ');

/** What a send does, in a sentence with its counts. */
export function planWords(counted: CountedSteps, wanted: WantedVisibility): string {
  const { steps } = counted;
  const what = changedWords(counted);
  const parts: (readonly [number | undefined, string])[] = [
    [steps.new, 'new'],
    [steps.changed, what ? `changed (${what})` : 'changed'],
    [steps.shown, shownWord(wanted)],
    [steps.unchanged, 'unchanged'],
    [steps.busy, 'on its way already'],
    [steps.stopped, 'not sent'],
  ];
  const total = Object.values(steps).reduce((sum, n) => sum + n, 0);
  return `${count(total, 'listing')}: ${parts.flatMap(([n, word]) => (n ? [`${n} ${word}`] : [])).join(', ') || 'none'}.`;
}

/** How many listings a send brings to the shops. */
export const sentCount = ({ steps }: Pick<CountedSteps, 'steps'>): number =>
  (steps.new ?? 0) + (steps.changed ?? 0) + (steps.shown ?? 0);

/** What a store takes for the listings that go on sale there, as it is reckoned; null where it takes nothing. */
export function feeWords(goLive: number, feeMinor: number, currency: string): string | null {
  if (goLive === 0 || feeMinor === 0) return null;
  const each = formatAmount(money(feeMinor, currency));
  return `${goLive} × ${each} = ${formatMoney(money(goLive * feeMinor, currency))}`;
}

const MINUTE_SECONDS = 60;

/** How long what is left takes at the rate of the last minute; null while nothing was done in it. */
export function timeLeftWords(open: number, lastMinute: number): string | null {
  if (open === 0 || lastMinute === 0) return null;
  const seconds = Math.ceil((open / lastMinute) * MINUTE_SECONDS);
  if (seconds < MINUTE_SECONDS) return 'less than a minute left';
  const minutes = Math.ceil(seconds / MINUTE_SECONDS);
  if (minutes < 60) return `about ${count(minutes, 'minute')} left`;
  return `about ${count(Math.ceil(minutes / 60), 'hour')} left`;
}
