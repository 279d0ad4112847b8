/** A stretch of three versions of a sequence: what it comes to, or what both sides made of it differently. */
export type Stretch<T> =
  | { readonly kind: 'settled'; readonly items: readonly T[] }
  | { readonly kind: 'open'; readonly agreed: readonly T[]; readonly here: readonly T[]; readonly there: readonly T[] };

/** Longest sequences that are compared item by item; of longer ones all between their common ends is one stretch. */
const MOST = 2_000;

/** How many items two sequences have in common at their beginnings, and then at their ends. */
function commonEnds<T>(a: readonly T[], b: readonly T[]): readonly [first: number, last: number] {
  const least = Math.min(a.length, b.length);
  let first = 0;
  while (first < least && a[first] === b[first]) first += 1;
  let last = 0;
  while (last < least - first && a[a.length - 1 - last] === b[b.length - 1 - last]) last += 1;
  return [first, last];
}

/** Lengths of the longest common subsequences of all ends of two sequences, row by row. */
function lengths<T>(a: readonly T[], b: readonly T[]): Uint16Array[] {
  const rows = Array.from({ length: a.length + 1 }, () => new Uint16Array(b.length + 1));
  for (let i = a.length - 1; i >= 0; i -= 1)
    for (let j = b.length - 1; j >= 0; j -= 1)
      rows[i]![j] = a[i] === b[j] ? rows[i + 1]![j + 1]! + 1 : Math.max(rows[i + 1]![j]!, rows[i]![j + 1]!);
  return rows;
}

/** For each item of `a` where it is in `b` in a longest common subsequence; -1 where it is not in that. */
export function matchesOf<T>(a: readonly T[], b: readonly T[]): Int32Array {
  const at = new Int32Array(a.length).fill(-1);
  const [first, last] = commonEnds(a, b);
  for (let i = 0; i < first; i += 1) at[i] = i;
  for (let i = 1; i <= last; i += 1) at[a.length - i] = b.length - i;
  const [mid, other] = [a.slice(first, a.length - last), b.slice(first, b.length - last)];
  if (mid.length > MOST || other.length > MOST) return at;
  const rows = lengths(mid, other);
  for (let i = 0, j = 0; i < mid.length && j < other.length;)
    if (mid[i] === other[j]) at[first + i++] = first + j++;
    else if (rows[i + 1]![j]! >= rows[i]![j + 1]!) i += 1;
    else j += 1;
  return at;
}

const alike = <T>(a: readonly T[], b: readonly T[]): boolean =>
  a.length === b.length && a.every((item, i) => item === b[i]);

function settle<T>(agreed: readonly T[], here: readonly T[], there: readonly T[]): Stretch<T> {
  if (alike(here, there) || alike(agreed, there)) return { kind: 'settled', items: here };
  if (alike(agreed, here)) return { kind: 'settled', items: there };
  return { kind: 'open', agreed, here, there };
}

/**
 * Merges two versions of a sequence that came from one: what one side changed is as that side has it, and what both changed differently, without an
 * item between them that neither touched, stays open. Items are compared by identity. This is the three-way merge that is known as diff3
 * (S. Khanna, K. Kunal, B. Pierce, A Formal Investigation of Diff3, 2007).
 */
export function mergeSequence<T>(agreed: readonly T[], here: readonly T[], there: readonly T[]): Stretch<T>[] {
  const [inHere, inThere] = [matchesOf(agreed, here), matchesOf(agreed, there)];
  const stretches: Stretch<T>[] = [];
  const add = (stretch: Stretch<T>) => {
    const before = stretches.at(-1);
    if (stretch.kind === 'open') stretches.push(stretch);
    else if (stretch.items.length === 0) return;
    else if (before?.kind !== 'settled') stretches.push(stretch);
    else stretches[stretches.length - 1] = { kind: 'settled', items: [...before.items, ...stretch.items] };
  };
  let [a, h, t] = [0, 0, 0];
  for (let i = 0; i <= agreed.length; i += 1) {
    const isEnd = i === agreed.length;
    // An item that neither side touched ends what was changed before it.
    if (!isEnd && (inHere[i] === -1 || inThere[i] === -1)) continue;
    const [atHere, atThere] = isEnd ? [here.length, there.length] : [inHere[i]!, inThere[i]!];
    add(settle(agreed.slice(a, i), here.slice(h, atHere), there.slice(t, atThere)));
    if (!isEnd) add({ kind: 'settled', items: [agreed[i]!] });
    [a, h, t] = [i + 1, atHere + 1, atThere + 1];
  }
  return stretches;
}

/** What a sequence comes to; null where something of it stays open. */
export function mergedSequence<T>(agreed: readonly T[], here: readonly T[], there: readonly T[]): readonly T[] | null {
  const stretches = mergeSequence(agreed, here, there);
  return stretches.every((one) => one.kind === 'settled') ? stretches.flatMap(({ items }) => items) : null;
}
