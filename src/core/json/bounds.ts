import { ownEntry, putEntry } from '../own-entry';

/** What a JSON value of a stranger may be, so that whatever walks it comes to an end soon and within the stack. */
export interface JsonBounds {
  readonly maxDepth: number;
  readonly maxValues: number;
}

/**
 * A copy that shares nothing with the original, nor with itself: where one object stands in two places (`structuredClone` keeps that), there are two
 * afterwards, as there are in JSON text. What is undefined is left out. Within the depth of a document.
 */
export function cloneJson<T>(value: T): T {
  if (Array.isArray(value)) return value.map((one: unknown) => cloneJson(one)) as T;
  if (typeof value !== 'object' || value === null) return value;
  const copy: Record<string, unknown> = {};
  for (const [key, one] of Object.entries(value)) if (one !== undefined) putEntry(copy, key, cloneJson(one));
  return copy as T;
}

/** What is told of JSON that is out of bounds. */
export type JsonFault = 'too-deep' | 'too-many';

const [QUOTE, BACKSLASH, COMMA, COLON, OPEN, CLOSE, OPEN_LIST, CLOSE_LIST] = [...'"\\,:{}[]'].map((c) =>
  c.charCodeAt(0),
);

/** Looks at JSON text before it is parsed, in one pass: how deep it is nested, and how many values it holds. Null when within bounds. */
export function jsonFault(text: string, { maxDepth, maxValues }: JsonBounds): JsonFault | null {
  let depth = 0;
  let values = 1;
  for (let i = 0; i < text.length; i += 1) {
    const code = text.charCodeAt(i);
    if (code === QUOTE) {
      for (i += 1; i < text.length && text.charCodeAt(i) !== QUOTE; i += 1)
        if (text.charCodeAt(i) === BACKSLASH) i += 1;
    } else if (code === OPEN || code === OPEN_LIST) {
      depth += 1;
      if (depth > maxDepth) return 'too-deep';
    } else if (code === CLOSE || code === CLOSE_LIST) depth -= 1;
    else if (code === COMMA || code === COLON) {
      values += 1;
      if (values > maxValues) return 'too-many';
    }
  }
  return null;
}

/** Whether text holds half of a character, or a control character other than tab and line breaks. */
export function unprintable(text: string): boolean {
  if (!text.isWellFormed()) return true;
  for (let i = 0; i < text.length; i += 1) {
    const code = text.charCodeAt(i);
    if (code < 32 && code !== 9 && code !== 10 && code !== 13) return true;
  }
  return false;
}

/** The first text of a JSON value, keys among them, that cannot be printed; null when all can. */
export function unprintableText(value: unknown): string | null {
  const open: unknown[] = [value];
  while (open.length > 0) {
    const next = open.pop();
    if (typeof next === 'string') {
      if (unprintable(next)) return next;
    } else if (typeof next === 'object' && next !== null) {
      if (!Array.isArray(next)) {
        const bad = Object.keys(next).find(unprintable);
        if (bad !== undefined) return bad;
      }
      // One by one: spreading a long list into `push` runs out of stack.
      for (const member of Object.values(next)) open.push(member);
    }
  }
  return null;
}

/** How large a JSON value is, about the length of its text, and how deep; counting stops at `most`, and never recurses. */
export function jsonSize(value: unknown, most = Infinity): { readonly size: number; readonly depth: number } {
  const open: { readonly value: unknown; readonly depth: number }[] = [{ value, depth: 1 }];
  let size = 0;
  let deepest = 0;
  while (open.length > 0 && size <= most) {
    const { value: next, depth } = open.pop()!;
    if (depth > deepest) deepest = depth;
    size += 2;
    if (typeof next === 'string') size += next.length;
    else if (typeof next === 'number') size += 8;
    else if (typeof next === 'object' && next !== null)
      for (const key of Object.keys(next)) {
        if (!Array.isArray(next)) size += key.length + 3;
        open.push({ value: ownEntry(next as Record<string, unknown>, key), depth: depth + 1 });
      }
  }
  return { size, depth: deepest };
}

/** Whether two JSON values are the same; the order of members does not count. */
export function sameJson(a: unknown, b: unknown): boolean {
  const open: [unknown, unknown][] = [[a, b]];
  while (open.length > 0) {
    const [x, y] = open.pop()!;
    if (x === y) continue;
    if (typeof x !== 'object' || typeof y !== 'object' || x === null || y === null) return false;
    if (Array.isArray(x) !== Array.isArray(y)) return false;
    const keys = Object.keys(x);
    if (keys.length !== Object.keys(y).length) return false;
    for (const key of keys) {
      if (!Object.hasOwn(y, key)) return false;
      open.push([ownEntry(x as Record<string, unknown>, key), ownEntry(y as Record<string, unknown>, key)]);
    }
  }
  return true;
}
