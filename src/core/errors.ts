/** What an error is about; the HTTP layer maps each kind to one status. */
export type ErrorKind =
  | 'invalid'
  | 'not-found'
  | 'conflict'
  | 'forbidden'
  | 'unauthenticated'
  | 'too-large'
  | 'too-many'
  | 'unavailable'
  | 'bug';

const BRAND: unique symbol = Symbol.for('typica.error') as never;

/**
 * The one typed error of the house. `code` is stable and is what code tests for; `message` is a sentence for a person that
 * says what happened and what to do next; `fields` carries the values behind it; `visible` says whether the user may see it.
 */
export class TypicaError extends Error {
  /**
   * A bundler may load this file more than once in one process, and what one copy throws another one catches: an error is ours by its brand,
   * not by which copy's class made it.
   */
  static [Symbol.hasInstance](value: unknown): boolean {
    return typeof value === 'object' && value !== null && (value as Record<symbol, unknown>)[BRAND] === true;
  }

  readonly [BRAND] = true;
  readonly code: string;
  readonly kind: ErrorKind;
  readonly fields: Record<string, unknown>;
  readonly visible: boolean;

  constructor(kind: ErrorKind, code: string, message: string, fields: Record<string, unknown> = {}, cause?: unknown) {
    super(message, cause === undefined ? undefined : { cause });
    this.name = 'TypicaError';
    this.kind = kind;
    this.code = code;
    this.fields = fields;
    this.visible = kind !== 'bug';
  }
}

/** What the system's own errors mean for whoever asked; null for those that mean nothing to them. */
export function fromSystem(error: unknown): TypicaError | null {
  const code = (error as { code?: unknown } | null)?.code;
  const sql = (error as { errno?: unknown } | null)?.errno;
  // The disk of the machine, or what of it one may use; MariaDB has numbers of its own for that (1021, 1114), or passes the system's on (28).
  if (code !== 'ENOSPC' && code !== 'EDQUOT' && sql !== 1021 && sql !== 1114) return null;
  return new TypicaError(
    'unavailable',
    'disk-full',
    'The disk of the machine on which Typica runs is full, so this could not be kept. Make room there, then try again; nothing else was lost.',
    {},
    error,
  );
}

export const invalid = (code: string, message: string, fields?: Record<string, unknown>) =>
  new TypicaError('invalid', code, message, fields);
export const notFound = (what: string, id: string) =>
  new TypicaError(
    'not-found',
    'not-found',
    `There is no ${what} with the id ${id.slice(0, 80).toWellFormed()} in this workspace.`,
    {
      what,
      id: id.slice(0, 80).toWellFormed(),
    },
  );
export const conflict = (code: string, message: string, fields?: Record<string, unknown>) =>
  new TypicaError('conflict', code, message, fields);

/** Whether `error` is a TypicaError, optionally with this code. */
export function isTypicaError(error: unknown, code?: string): error is TypicaError {
  return error instanceof TypicaError && (code === undefined || error.code === code);
}
