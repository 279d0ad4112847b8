import { SYNC_STATES, type SyncState } from './sync/state';

/**
 * What is looked for in the range: a product is found where all of it holds. What is said of listings (`states`, `stores`, `rules`, `marginBelowPpm`,
 * `underFloor`) has to hold of one and the same listing. An empty list: whatever it is.
 */
export interface RangeFilter {
  /** Words of titles, or beginnings of SKUs. */
  readonly words: string;
  readonly states: readonly SyncState[];
  /** Ids of stores. */
  readonly stores: readonly string[];
  /** Ids of rules that are broken. */
  readonly rules: readonly string[];
  /** Ids of what the checks say of designs. */
  readonly findings: readonly string[];
  /** Ids of print partners. */
  readonly partners: readonly string[];
  /** Kinds of goods. */
  readonly kinds: readonly string[];
  /** Tags of artwork. */
  readonly tags: readonly string[];
  /** Less than this part of the price is left of the worst variant, parts per million. */
  readonly marginBelowPpm: number | null;
  /** Some variant is sold at a loss to some destination. */
  readonly underFloor: boolean;
  /** Changed on this day (UTC) or later, as 2026-11-30. */
  readonly changedSince: string | null;
}

export const WHOLE_RANGE: RangeFilter = {
  words: '',
  states: [],
  stores: [],
  rules: [],
  findings: [],
  partners: [],
  kinds: [],
  tags: [],
  marginBelowPpm: null,
  underFloor: false,
  changedSince: null,
};

/** Lists of a filter, each with its parameter in an address. */
export const LISTS = {
  states: 'state',
  stores: 'store',
  rules: 'rule',
  findings: 'finding',
  partners: 'partner',
  kinds: 'kind',
  tags: 'tag',
} as const;
export type RangeList = keyof typeof LISTS;

/** Values of one list at most, and letters of one. */
const MAX_VALUES = 40;
const MAX_LETTERS = 80;
export const MAX_WORDS_LETTERS = 200;

const lists = Object.entries(LISTS) as [RangeList, string][];

const isState = (text: string): text is SyncState => (SYNC_STATES as readonly string[]).includes(text);

/** A day that there is; null for what is none. */
function dayOf(text: string | null): string | null {
  if (text === null || !/^\d{4}-\d\d-\d\d$/.test(text)) return null;
  const at = new Date(`${text}T00:00:00Z`);
  return !Number.isNaN(at.getTime()) && at.toISOString().startsWith(text) ? text : null;
}

/** Percent with up to two places (`12.5`, below 100, also below 0) as parts per million; null for what is none. */
export function ppmOfPercent(text: string | null): number | null {
  if (text === null || !/^-?\d{1,3}(\.\d{1,2})?$/.test(text)) return null;
  return Math.round(Number(text) * 10_000);
}

/** A filter from the parameters of an address; what they say wrongly is passed over. */
export function readRangeFilter(query: URLSearchParams): RangeFilter {
  const listed = Object.fromEntries(
    lists.map(([key, name]) => [
      key,
      [...new Set(query.getAll(name))]
        .filter((value) => value !== '' && value.length <= MAX_LETTERS && (key !== 'states' || isState(value)))
        .slice(0, MAX_VALUES),
    ]),
  ) as unknown as Pick<RangeFilter, RangeList>;
  return {
    ...listed,
    words: (query.get('q') ?? '').slice(0, MAX_WORDS_LETTERS).toWellFormed().trim(),
    marginBelowPpm: ppmOfPercent(query.get('margin')),
    underFloor: query.get('floor') === 'under',
    changedSince: dayOf(query.get('since')),
  };
}

/** The parameters of an address for a filter: what is as usual is left out. */
export function rangeParameters(filter: RangeFilter): URLSearchParams {
  const query = new URLSearchParams();
  if (filter.words !== '') query.set('q', filter.words);
  for (const [key, name] of lists) for (const value of filter[key]) query.append(name, value);
  if (filter.marginBelowPpm !== null) query.set('margin', String(filter.marginBelowPpm / 10_000));
  if (filter.underFloor) query.set('floor', 'under');
  if (filter.changedSince !== null) query.set('since', filter.changedSince);
  return query;
}

/** Whether anything is left out by it. */
export const isWhole = (filter: RangeFilter): boolean => rangeParameters(filter).size === 0;

/** What of an address says nothing that can be looked for, in words; null where all of it does. A script is told; a page passes over it. */
export function filterFault(query: URLSearchParams): string | null {
  const filter = readRangeFilter(query);
  for (const [key, name] of lists) {
    const asked = new Set(query.getAll(name).filter((value) => value !== ''));
    if (asked.size > MAX_VALUES) return `${name} can be given ${MAX_VALUES} times at most.`;
    const wrong = [...asked].find((value) => !(filter[key] as readonly string[]).includes(value));
    if (wrong === undefined) continue;
    const says = key === 'states' ? `one of ${SYNC_STATES.join(', ')}` : `up to ${MAX_LETTERS} characters`;
    return `${name} is ${says}; “${wrong.slice(0, 40)}” is not.`;
  }
  if (query.has('margin') && filter.marginBelowPpm === null) return 'margin is percent with up to two places, as 12.5.';
  if (query.has('floor') && !filter.underFloor) return 'floor is under, or is left out.';
  if (query.has('since') && filter.changedSince === null) return 'since is a day, as 2026-11-30.';
  return null;
}
