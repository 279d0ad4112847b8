import { createPatch, type Operation } from 'rfc6902';
import { invalid } from '../errors';
import { cloneJson, jsonSize, sameJson } from '../json/bounds';
import { MAX_DEPTH, ownMember, parsePointer } from './pointer';
import { putEntry } from '../own-entry';

export type { Operation } from 'rfc6902';

/** Longest list of operations that is taken at once. */
export const MAX_OPERATIONS = 5000;
/** Characters that a document may have. */
export const MAX_DOCUMENT_SIZE = 4 * 1024 * 1024;

/** What a patch may do, in characters of what it writes, and of what its copies and moves carry elsewhere. */
export interface PatchLimits {
  readonly written: number;
  readonly carried: number;
  /** Whether entries of a list may be named by their position. */
  readonly positions: boolean;
}

/** For a patch that somebody sends: twenty short operations must not cost what megabytes of them would. */
const SENT: PatchLimits = { written: 2 * MAX_DOCUMENT_SIZE, carried: 1024 * 1024, positions: false };
/** For patches of our own: revisions that were merged carry the edits of a day, each of which was within bounds. */
export const KEPT: PatchLimits = { written: Infinity, carried: Infinity, positions: true };

/** The patch (RFC 6902) that turns one JSON value into another. */
export const diff = (from: unknown, to: unknown): Operation[] => createPatch(from, to);

/** Why an operation does not fit; said with the operation's number by whoever applies it. */
class Misfit extends Error {}

/** A longer list is not inserted into: each insertion shifts all that comes after it. */
const LONGEST_LIST = 10_000;

type Container = Record<string, unknown> | unknown[];

const indexOf = (list: readonly unknown[], key: string, most: number): number => {
  const index = /^(0|[1-9]\d{0,8})$/.test(key) ? Number(key) : NaN;
  if (!(index <= most)) throw new Misfit(`a list of ${list.length} has no place there`);
  return index;
};

const POSITION =
  'a position in a list means another entry as soon as somebody else changes the list. Write the whole list, or name what has a key';

/** Follows a pointer's parts. Throws where they would name an entry of a list by its position and may not. */
const follow = (root: unknown, parts: readonly string[], { positions }: PatchLimits): unknown =>
  parts.reduce((value, part) => {
    if (Array.isArray(value) && !positions) throw new Misfit(POSITION);
    return ownMember(value, part);
  }, root);

/** Where a pointer's last part lies. */
function parentOf(root: unknown, parts: readonly string[], limits: PatchLimits): { container: Container; key: string } {
  const container = follow(root, parts.slice(0, -1), limits);
  if (Array.isArray(container) && !limits.positions) throw new Misfit(POSITION);
  if (typeof container !== 'object' || container === null) throw new Misfit('nothing that has members is there');
  return { container: container as Container, key: parts.at(-1)! };
}

function write(
  root: unknown,
  parts: readonly string[],
  value: unknown,
  replace: boolean,
  limits: PatchLimits,
): unknown {
  if (parts.length === 0) return value;
  const { container, key } = parentOf(root, parts, limits);
  if (Array.isArray(container)) {
    if (!replace && container.length >= LONGEST_LIST)
      throw new Misfit(`the list there has ${LONGEST_LIST} entries already`);
    const at =
      key === '-' && !replace ? container.length : indexOf(container, key, container.length - (replace ? 1 : 0));
    container.splice(at, replace ? 1 : 0, value);
  } else {
    if (replace && !Object.hasOwn(container, key)) throw new Misfit('nothing is there to be replaced');
    putEntry(container, key, value);
  }
  return root;
}

function remove(root: unknown, parts: readonly string[], limits: PatchLimits): unknown {
  if (parts.length === 0) return null;
  const { container, key } = parentOf(root, parts, limits);
  if (Array.isArray(container)) container.splice(indexOf(container, key, container.length - 1), 1);
  else {
    if (!Object.hasOwn(container, key)) throw new Misfit('nothing is there to be removed');
    delete container[key];
  }
  return root;
}

function read(root: unknown, parts: readonly string[], limits: PatchLimits): unknown {
  const value = follow(root, parts, limits);
  if (value === undefined) throw new Misfit('nothing is there to be taken');
  return value;
}

const partsOf = (pointer: string): string[] => {
  const parts = parsePointer(pointer);
  if (!parts) throw new Misfit('it has no JSON pointer');
  return parts;
};

/** Counts what a patch writes against what one patch may write. */
class Writing {
  private written = 0;
  private carried = 0;

  constructor(private readonly limits: PatchLimits) {}

  /** `value`, which is going to lie `depth` deep. */
  count(value: unknown, depth: number): unknown {
    const found = this.measure(value, depth, this.limits.written - this.written);
    this.written += found;
    if (this.written > this.limits.written)
      throw new Misfit(`it makes the patch write more than ${this.limits.written / 1024 / 1024} million characters`);
    return value;
  }

  /** What is there already and comes to lie somewhere else. */
  carry(value: unknown, depth: number): unknown {
    this.carried += this.measure(value, depth, this.limits.carried - this.carried);
    if (this.carried > this.limits.carried)
      throw new Misfit(`it makes the patch copy more than ${this.limits.carried / 1024 / 1024} million characters`);
    return value;
  }

  private measure(value: unknown, depth: number, most: number): number {
    const found = jsonSize(value, most);
    if (depth + found.depth > MAX_DEPTH) throw new Misfit(`it nests deeper than ${MAX_DEPTH}`);
    return found.size;
  }
}

function applyOne(root: unknown, operation: Operation, writing: Writing, limits: PatchLimits): unknown {
  const parts = partsOf(operation.path);
  switch (operation.op) {
    case 'add':
      return write(root, parts, cloneJson(writing.count(operation.value, parts.length)), false, limits);
    case 'replace':
      return write(root, parts, cloneJson(writing.count(operation.value, parts.length)), true, limits);
    case 'remove':
      return remove(root, parts, limits);
    case 'move': {
      const from = partsOf(operation.from);
      if (from.length < parts.length && from.every((part, i) => part === parts[i]))
        throw new Misfit('nothing can be moved into itself');
      const value = read(root, from, limits);
      return write(remove(root, from, limits), parts, writing.carry(value, parts.length), false, limits);
    }
    case 'copy':
      return write(
        root,
        parts,
        cloneJson(writing.carry(read(root, partsOf(operation.from), limits), parts.length)),
        false,
        limits,
      );
    case 'test':
      if (!sameJson(follow(root, parts, limits), operation.value)) throw new Misfit('another value is there');
      return root;
  }
}

/**
 * A copy of the document with the patch applied: all of it or, by an error `patch-failed` that says which operation, none. Only own members
 * of the document are looked at or written, and what it can write is bounded by `limits`, however often it copies.
 */
export function applyPatch<T>(document: T, operations: readonly Operation[], limits: PatchLimits = SENT): T {
  const writing = new Writing(limits);
  let root: unknown = cloneJson(document);
  for (const [index, operation] of operations.entries()) {
    try {
      root = applyOne(root, operation, writing, limits);
    } catch (error) {
      if (!(error instanceof Misfit)) throw error;
      const path = operation.path.slice(0, 200);
      throw invalid(
        'patch-failed',
        `Operation ${index + 1} of the patch (${operation.op} ${path}) does not fit the document: ${error.message}.`,
        { index, op: operation.op, path },
      );
    }
  }
  return root as T;
}

const OPS: ReadonlySet<unknown> = new Set(['add', 'remove', 'replace', 'move', 'copy', 'test']);
const WITH_FROM: ReadonlySet<unknown> = new Set(['move', 'copy']);
const WITH_VALUE: ReadonlySet<unknown> = new Set(['add', 'replace', 'test']);

/** Throws `patch-invalid` for what is not an RFC 6902 patch. */
export function checkPatch(value: unknown): Operation[] {
  const bad = (says: string) => invalid('patch-invalid', `The request is not a JSON patch (RFC 6902): ${says}.`);
  if (!Array.isArray(value)) throw bad('it must be a list of operations');
  if (value.length > MAX_OPERATIONS)
    throw bad(`it has ${value.length} operations; the most at once is ${MAX_OPERATIONS}`);
  value.forEach((operation: unknown, index) => {
    if (typeof operation !== 'object' || operation === null) throw bad(`operation ${index + 1} is not an object`);
    const op = ownMember(operation, 'op');
    if (!OPS.has(op)) throw bad(`operation ${index + 1} has no known “op”`);
    for (const key of WITH_FROM.has(op) ? ['path', 'from'] : ['path'])
      if (!parsePointer(ownMember(operation, key))) throw bad(`operation ${index + 1} has no JSON pointer as “${key}”`);
    if (WITH_VALUE.has(op) && ownMember(operation, 'value') === undefined)
      throw bad(`operation ${index + 1} has no “value”`);
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

/** A place that two people changed: what it was, what is there now, what this patch wants. */
export interface PatchConflict {
  readonly path: string;
  readonly base: unknown;
  readonly theirs: unknown;
  readonly yours: unknown;
}
