/**
 * How what a shop shows was learnt: `sent` read back after a send, `told` the shop told that something changed, `since` it was asked what changed,
 * `reading` read when its turn came, `asked` somebody wanted it checked.
 */
export const SEEN_HOW = ['sent', 'told', 'since', 'reading', 'asked'] as const;
export type SeenHow = (typeof SEEN_HOW)[number];

/** How often a listing is read without being asked: the higher, the rarer. */
export const LEVELS = 8;
/** Of one that nothing is known of yet. */
export const FIRST_LEVEL = 4;
const SHORTEST_MS = 15 * 60_000;

/** The level of a listing after it was looked at: what changes is read more often, what does not more rarely. */
export const nextLevel = (level: number, changed: boolean): number =>
  Math.min(LEVELS - 1, Math.max(0, changed ? level - 2 : level + 1));

/**
 * After how long a listing of a level is read again, ms: a quarter of an hour at 0, twice as long with each level, a day and a third at the highest. `fraction`, 0 to 1,
 * spreads it by a fifth, so that what was sent together is not read together.
 */
export const readAgainMs = (level: number, fraction: number): number =>
  Math.round(SHORTEST_MS * 2 ** level * (0.9 + fraction / 5));
