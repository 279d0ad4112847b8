import { sameJson } from '../json/bounds';
import { ownEntry, putEntry } from '../own-entry';
import { setChosen } from './choosing';
import type { ProductDocument } from './document';
import type { PatchConflict } from './patch';

/** Whose value is taken where both changed the same. */
export type Side = 'theirs' | 'yours';

export interface Merged<T> {
  readonly document: T;
  /** Where both changed the same to different values, the first fifty places. */
  readonly conflicts: readonly PatchConflict[];
}

/** Places at which a conflict is told singly. */
const MAX_CONFLICTS = 50;

type Members = { readonly [key: string]: unknown };
const isMembers = (value: unknown): value is Members =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
const escape = (key: string): string => key.replaceAll('~', '~0').replaceAll('/', '~1');

class Merge {
  readonly conflicts: PatchConflict[] = [];

  constructor(private readonly prefer: Side) {}

  note(conflict: PatchConflict): unknown {
    if (this.conflicts.length < MAX_CONFLICTS) this.conflicts.push(conflict);
    return conflict[this.prefer];
  }

  /** Three values of one place. `undefined` stands for what is not there. */
  value(base: unknown, theirs: unknown, yours: unknown, path: string): unknown {
    if (sameJson(base, yours) || sameJson(theirs, yours)) return theirs;
    if (sameJson(base, theirs)) return yours;
    if (isMembers(theirs) && isMembers(yours)) return this.members(isMembers(base) ? base : {}, theirs, yours, path);
    return this.note({ path, base, theirs, yours });
  }

  private members(base: Members, theirs: Members, yours: Members, path: string): Members {
    const merged: Record<string, unknown> = {};
    for (const key of new Set([...Object.keys(theirs), ...Object.keys(yours)])) {
      const value = this.value(
        ownEntry(base, key),
        ownEntry(theirs, key),
        ownEntry(yours, key),
        `${path}/${escape(key)}`,
      );
      if (value !== undefined) putEntry(merged, key, value);
    }
    return merged;
  }
}

/** Variants for which something is priced. */
const pricedKeys = ({ price }: ProductDocument): Set<string> =>
  new Set([price.base, ...Object.values(price.stores)].flatMap((plan) => Object.keys(plan.variants ?? {})));

/**
 * A variant that one took out while the other priced it is one thing that both changed: a price of its own belongs to a variant that is chosen.
 * Either it is chosen again, or its prices go.
 */
function settleVariants(
  merge: Merge,
  merged: ProductDocument,
  [base, theirs, yours]: readonly [ProductDocument, ProductDocument, ProductDocument],
): ProductDocument {
  const before = pricedKeys(base);
  let settled = merged;
  for (const key of pricedKeys(merged)) {
    if (ownEntry(settled.variants, key)) continue;
    const [was, there, here] = [base, theirs, yours].map(({ variants }) => ownEntry(variants, key));
    // A price without a variant that neither of the two made is left as it was.
    if (!was || (there === undefined && here === undefined)) {
      if (!before.has(key)) settled = setChosen(settled, [key], false);
      continue;
    }
    const kept = merge.note({ path: `/variants/${escape(key)}`, base: was, theirs: there, yours: here });
    settled = kept
      ? { ...settled, variants: { ...settled.variants, [key]: kept as ProductDocument['variants'][string] } }
      : setChosen(settled, [key], false);
  }
  return settled;
}

/**
 * Two documents that were made from `base`, as one: what only one side changed is taken from it, what both changed to the same is there once,
 * objects are merged by their keys. Where both changed the same to different values, `prefer` is taken and the place is told. Linear in the three.
 */
export function mergeDocuments(
  base: ProductDocument,
  theirs: ProductDocument,
  yours: ProductDocument,
  prefer: Side = 'theirs',
): Merged<ProductDocument> {
  const merge = new Merge(prefer);
  const merged = merge.value(base, theirs, yours, '') as ProductDocument;
  const document = settleVariants(merge, merged, [base, theirs, yours]);
  return { document, conflicts: merge.conflicts };
}
