import type { BenchListing } from '../desk';

/** What can be asked of a listing as it stands: nothing while it is on its way, and no sending while a rule is broken or nothing is new. */
export function sendable({
  state,
  visibility,
  rules,
}: Pick<BenchListing, 'state' | 'visibility'> & { readonly rules: readonly { readonly kept: boolean }[] }): {
  readonly check: boolean;
  readonly draft: boolean;
  readonly live: boolean;
} {
  const still = state !== 'on-its-way';
  const whole = still && rules.every(({ kept }) => kept);
  const nothingNew = state === 'in-step';
  return {
    check: still,
    draft: whole && !(nothingNew && visibility === 'draft'),
    live: whole && !(nothingNew && visibility === 'live'),
  };
}
