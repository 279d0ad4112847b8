import { applyPatch as applyOperations, createPatch, type Operation } from 'rfc6902';
import { canonicalJson } from '../listing/canonical';
import { invalid } from '../errors';

export type { Operation } from 'rfc6902';

/** Longest list of operations that is taken at once. */
export const MAX_OPERATIONS = 5000;

/** The patch (RFC 6902) that turns one JSON value into another. */
export const diff = (from: unknown, to: unknown): Operation[] => createPatch(from, to);

/** A value reached by a JSON pointer (RFC 6901), or undefined. */
export function valueAt(document: unknown, pointer: string): unknown {
  let value = document as Record<string, unknown> | undefined;
  for (const part of pointer.split('/').slice(1)) {
    if (value === null || typeof value !== 'object') return undefined;
    value = value[part.replace(/~1/g, '/').replace(/~0/g, '~')] as Record<string, unknown> | undefined;
  }
  return value;
}

/** A copy of the document with the patch applied: all of it or, by an error `patch-failed` that names the operation, none. */
export function applyPatch<T>(document: T, operations: readonly Operation[]): T {
  const copy = structuredClone(document);
  const errors = applyOperations(copy, structuredClone(operations) as Operation[]);
  const failed = errors.findIndex((error) => error !== null);
  if (failed >= 0) {
    const operation = operations[failed]!;
    throw invalid(
      'patch-failed',
      `Operation ${failed + 1} of the patch (${operation.op} ${operation.path}) does not fit the document: ${errors[failed]!.message}.`,
      {
        index: failed,
        operation,
      },
    );
  }
  return copy;
}

/** Throws `patch-invalid` for what is not an RFC 6902 patch without array positions. */
export function checkPatch(value: unknown): Operation[] {
  const bad = (says: string) => invalid('patch-invalid', `The body is not a JSON patch (RFC 6902): ${says}.`);
  if (!Array.isArray(value)) throw bad('it must be an array of operations');
  if (value.length > MAX_OPERATIONS)
    throw bad(`it has ${value.length} operations; the most at once is ${MAX_OPERATIONS}`);
  value.forEach((operation: unknown, index) => {
    const o = operation as Record<string, unknown>;
    if (typeof o !== 'object' || o === null) throw bad(`operation ${index + 1} is not an object`);
    if (!['add', 'remove', 'replace', 'move', 'copy', 'test'].includes(String(o.op)))
      throw bad(`operation ${index + 1} has no known "op"`);
    for (const key of o.op === 'move' || o.op === 'copy' ? ['path', 'from'] : ['path']) {
      const pointer = o[key];
      if (typeof pointer !== 'string' || !/^(\/([^~]|~[01])*)*$/.test(pointer))
        throw bad(`operation ${index + 1} has no JSON pointer as "${key}"`);
      if (/\/(__proto__|constructor|prototype)(\/|$)/.test(pointer))
        throw bad(`operation ${index + 1} names "${pointer}"`);
    }
    if (['add', 'replace', 'test'].includes(String(o.op)) && o.value === undefined)
      throw bad(`operation ${index + 1} has no "value"`);
  });
  return value as Operation[];
}

/** Pointers that a patch changes (not those it only tests). */
export function touchedPaths(operations: readonly Operation[]): string[] {
  return operations.flatMap((operation) => {
    if (operation.op === 'test') return [];
    return operation.op === 'move' ? [operation.from, operation.path] : [operation.path];
  });
}

/** Whether one pointer is the other or lies under it. */
export const overlaps = (a: string, b: string): boolean => a === b || a.startsWith(`${b}/`) || b.startsWith(`${a}/`);

/** A place that two people changed: what it was, what is there now, what this patch wants. */
export interface PatchConflict {
  readonly path: string;
  readonly base: unknown;
  readonly theirs: unknown;
  readonly yours: unknown;
}

/**
 * Where a patch made on `base` meets what others have changed since (`touched`), unless both came to the same value.
 * `current` is the document now.
 */
export function findConflicts(
  base: unknown,
  current: unknown,
  operations: readonly Operation[],
  touched: readonly string[],
): PatchConflict[] {
  const same = (a: unknown, b: unknown) =>
    a === b || (a !== undefined && b !== undefined && canonicalJson(a) === canonicalJson(b));
  let yours: unknown;
  try {
    yours = applyPatch(base, operations);
  } catch {
    yours = undefined;
  }
  const conflicts: PatchConflict[] = [];
  for (const path of new Set(touchedPaths(operations))) {
    if (!touched.some((other) => overlaps(path, other))) continue;
    const conflict = { path, base: valueAt(base, path), theirs: valueAt(current, path), yours: valueAt(yours, path) };
    if (same(conflict.theirs, conflict.yours) || same(conflict.base, conflict.theirs)) continue;
    conflicts.push(conflict);
  }
  return conflicts;
}
