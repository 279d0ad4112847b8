/**
 * An entry that a record has itself, under a key that somebody else chose; undefined for all else. What every object inherits (`constructor`,
 * `toString`) is no entry of a record: a plain `record[key]` would find it. A lint rule (eslint/own-members.mjs) sends here.
 */
export function ownEntry<T>(
  record: { readonly [key: string]: T } | null | undefined,
  key: string | null | undefined,
): T | undefined {
  if (!record || key === null || key === undefined) return undefined;
  return Object.hasOwn(record, key) ? record[key] : undefined;
}

/** Puts an entry into a record under any key: a plain `record[key] = …` would change the record's prototype for one of them. */
export function putEntry<T>(record: { [key: string]: T }, key: string, value: T): void {
  if (key === '__proto__')
    Object.defineProperty(record, key, { value, enumerable: true, configurable: true, writable: true });
  else record[key] = value;
}
