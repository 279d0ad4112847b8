import type { SyncState } from './state';

/** What a send of many does about one listing; the first three send it. */
export const SEND_STEPS = ['new', 'changed', 'shown', 'unchanged', 'stopped', 'busy'] as const;
export type SendStep = (typeof SEND_STEPS)[number];

/** How listings are to stand in the shops: `as-is` leaves each as it is, and sends new ones as their store says. */
export type WantedVisibility = 'draft' | 'live' | 'as-is';

export interface SendFacts {
  readonly state: SyncState;
  /** What the first broken rule says; null where all are kept. */
  readonly broken: string | null;
  /** How it stands in the shop; null while it is not there. */
  readonly visibility: 'draft' | 'live' | null;
  /** How what is new there is sent where nobody says otherwise. */
  readonly newAs: 'draft' | 'live';
}

export interface SendDecision {
  readonly what: SendStep;
  readonly visibility: 'draft' | 'live';
  /** It goes on sale that was not: some shops take a fee for that. */
  readonly goesLive: boolean;
  /** Why it is not sent; null where it is, or need not be. */
  readonly reason: string | null;
}

const STOPPED: ReadonlyMap<SyncState, string> = new Map([
  ['behind', 'It was changed in the shop: look at what differs first.'],
  ['split', 'It was changed here and in the shop: look at what differs first.'],
  ['refused', 'The shop refused it as it is: change what it objected to first.'],
]);

/** Decides what a send does about a listing. What nobody changed is not sent; what somebody changed in the shop is not written over. */
export function sendStep({ state, broken, visibility, newAs }: SendFacts, wanted: WantedVisibility): SendDecision {
  const then = wanted === 'as-is' ? (visibility ?? newAs) : wanted;
  const goesLive = then === 'live' && visibility !== 'live';
  const decide = (what: SendStep, reason: string | null = null): SendDecision => ({
    what,
    visibility: then,
    goesLive: goesLive && (what === 'new' || what === 'changed' || what === 'shown'),
    reason,
  });
  if (state === 'on-its-way')
    return decide('busy', 'It is on its way already: it is looked at again when it is there.');
  if (broken !== null) return decide('stopped', broken);
  const stopped = STOPPED.get(state);
  if (stopped !== undefined) return decide('stopped', stopped);
  if (visibility === null) return decide('new');
  if (state === 'ahead') return decide('changed');
  return then === visibility ? decide('unchanged') : decide('shown');
}
