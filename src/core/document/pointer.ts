import { ownEntry } from '../own-entry';

/**
 * JSON pointers (RFC 6901). Documents are walked along their own members only: what every object inherits (`toString`, `constructor`)
 * is no member of a document, whoever names it.
 */

/** Longest pointer that is read, in characters, and its most parts. */
export const MAX_POINTER = 1000;
export const MAX_DEPTH = 32;

/** The pointer of these parts. */
export const pointerOf = (parts: readonly string[]): string =>
  parts.map((part) => `/${part.replaceAll('~', '~0').replaceAll('/', '~1')}`).join('');

/** A pointer's parts, unescaped; null for what is no pointer, is longer than `MAX_POINTER` or has more parts than `MAX_DEPTH`. One pass. */
export function parsePointer(pointer: unknown): string[] | null {
  if (typeof pointer !== 'string' || pointer.length > MAX_POINTER) return null;
  if (pointer === '') return [];
  if (pointer[0] !== '/') return null;
  const parts: string[] = [];
  let part = '';
  for (let i = 1; i <= pointer.length; i += 1) {
    const letter = pointer[i];
    if (letter === undefined || letter === '/') {
      parts.push(part);
      part = '';
    } else if (letter === '~') {
      const code = pointer[(i += 1)];
      if (code !== '0' && code !== '1') return null;
      part += code === '0' ? '~' : '/';
    } else part += letter;
  }
  // Assigning to this name would change an object's prototype instead of a member.
  return parts.length > MAX_DEPTH || parts.includes('__proto__') ? null : parts;
}

/** A member that an object or array has itself, by its key; undefined for all else. */
export function ownMember(container: unknown, key: string): unknown {
  if (typeof container !== 'object' || container === null) return undefined;
  return Object.hasOwn(container, key) ? ownEntry(container as Record<string, unknown>, key) : undefined;
}

/** A value reached by a pointer, or undefined. */
export function valueAt(document: unknown, pointer: string): unknown {
  const parts = parsePointer(pointer);
  return parts ? parts.reduce<unknown>(ownMember, document) : undefined;
}
