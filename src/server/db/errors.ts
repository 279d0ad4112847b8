import { TypicaError } from '@/core/errors';

const codeOf = (error: unknown): string | undefined => (error as { code?: string } | null)?.code;

/** Turns a driver's error into a typed one: `duplicate` (with the key's name), `deadlock`, `still-referenced`, `database`. */
export function mapDatabaseError(error: unknown, sql: string): TypicaError {
  const statement = sql.replace(/\s+/g, ' ').slice(0, 160);
  switch (codeOf(error)) {
    case 'ER_DUP_ENTRY': {
      const key = /for key '([^']+)'/.exec((error as Error).message)?.[1] ?? '';
      return new TypicaError('conflict', 'duplicate', 'This exists already.', { key }, error);
    }
    case 'ER_LOCK_DEADLOCK':
    case 'ER_LOCK_WAIT_TIMEOUT':
    case 'ER_CHECKREAD':
      return new TypicaError(
        'unavailable',
        'deadlock',
        'The database was busy with the same thing; try again.',
        { statement },
        error,
      );
    case 'ER_ROW_IS_REFERENCED_2':
      return new TypicaError('conflict', 'still-referenced', 'Something still uses this.', { statement }, error);
    default:
      return new TypicaError(
        'bug',
        'database',
        `The database refused a statement: ${(error as Error).message}`,
        { statement },
        error,
      );
  }
}

export const isDeadlock = (error: unknown): boolean => error instanceof TypicaError && error.code === 'deadlock';
export const isDuplicate = (error: unknown): error is TypicaError =>
  error instanceof TypicaError && error.code === 'duplicate';
