import { ownEntry } from '../own-entry';
import { CHANGED_KINDS, kindOfField, type ChangedKind } from './changed';
import type { Choose } from './merge';

/** What holds in a store where both sides changed a field of a kind, or the shop alone did: ours, theirs, or (absent) somebody is asked. */
export type StandingRules = { readonly [kind in ChangedKind]?: 'ours' | 'theirs' };

/** Settles what the rules of a store say, and leaves all else to a person. */
export const asRulesSay =
  (rules: StandingRules): Choose =>
  ({ field, change }) =>
    // What we changed alone goes there: a rule is about what the shop did.
    change === 'here' ? 'ask' : (ownEntry(rules, kindOfField(field)) ?? 'ask');

/** Faults of standing rules as sentences; none means that they can be kept. */
export function checkStandingRules(value: unknown): string[] {
  if (typeof value !== 'object' || value === null || Array.isArray(value)) return ['standing is an object.'];
  return Object.entries(value).flatMap(([kind, holds]) => {
    if (!CHANGED_KINDS.some((known) => known === kind))
      return [`standing has “${kind.slice(0, 40)}”; its kinds are ${CHANGED_KINDS.join(', ')}.`];
    return holds === 'ours' || holds === 'theirs' ? [] : [`standing.${kind} is ours or theirs.`];
  });
}
