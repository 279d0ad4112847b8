/** Whether a listing is the same here and in the shop, and who changed it. */
export const SYNC_STATES = ['not-listed', 'on-its-way', 'in-step', 'ahead', 'behind', 'split', 'refused'] as const;
export type SyncState = (typeof SYNC_STATES)[number];

/** Mark and word of each state; both are always shown together. */
export const SYNC_MARKS: Record<SyncState, { readonly mark: string; readonly word: string }> = {
  'in-step': { mark: '●', word: 'in step' },
  ahead: { mark: '▲', word: 'ahead' },
  behind: { mark: '▼', word: 'behind' },
  split: { mark: '◆', word: 'split' },
  'on-its-way': { mark: '◔', word: 'on its way' },
  refused: { mark: '✕', word: 'refused' },
  'not-listed': { mark: '○', word: 'not listed' },
};

/** From what asks for a person to what is well. */
const WORST_FIRST: readonly SyncState[] = [
  'refused',
  'split',
  'behind',
  'ahead',
  'not-listed',
  'on-its-way',
  'in-step',
];

/** Which of several states asks most for a person. */
export const worstState = (states: readonly SyncState[]): SyncState =>
  WORST_FIRST.find((state) => states.includes(state)) ?? 'not-listed';

export interface SyncFacts {
  /** Hash of the form as it is here now; null when it cannot be made (nothing chosen, no price). */
  readonly hereHash: string | null;
  /** Hash of the form both sides last agreed on; null when the shop has never taken one. */
  readonly agreedHash: string | null;
  /** Hash of the form as the shop last showed it; null when it has not been looked at since the agreement. */
  readonly thereHash: string | null;
  /** Hash of the form that the shop refused last, when that is newer than the agreement. */
  readonly refusedHash: string | null;
}

/** The sync state that follows from the facts while no job carries it. A refusal stands until something here changes. */
export function syncState({
  hereHash,
  agreedHash,
  thereHash,
  refusedHash,
}: SyncFacts): Exclude<SyncState, 'on-its-way'> {
  if (refusedHash !== null && refusedHash === hereHash) return 'refused';
  if (agreedHash === null) return 'not-listed';
  const movedHere = hereHash !== agreedHash;
  const movedThere = thereHash !== null && thereHash !== agreedHash;
  if (movedHere && movedThere) return hereHash === thereHash ? 'in-step' : 'split';
  if (movedHere) return 'ahead';
  return movedThere ? 'behind' : 'in-step';
}
