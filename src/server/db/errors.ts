import { fromSystem, TypicaError } from '@/core/errors';
import { log } from '../log';

const codeOf = (error: unknown): string | undefined => (error as { code?: string } | null)?.code;

const busy = (error: unknown) =>
  new TypicaError('unavailable', 'database-busy', 'The database is busy just now; try again in a moment.', {}, error);

/**
 * Turns a driver's error into a typed one: `duplicate` (with the key's name), `deadlock`, `still-referenced`, `text-impossible` for text
 * that no id or code can be, `database-busy`, `database-slow`, `database`. Statements are logged, and not told to whoever asked.
 */
export function mapDatabaseError(error: unknown, sql: string): TypicaError {
  if (error instanceof TypicaError) return error;
  const system = fromSystem(error);
  if (system) return system;
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
        {},
        error,
      );
    case 'ER_ROW_IS_REFERENCED_2':
      return new TypicaError('conflict', 'still-referenced', 'Something still uses this.', {}, error);
    // Ids and codes are ASCII: text beyond it is compared with them, or written as one.
    case 'ER_CANT_AGGREGATE_2COLLATIONS':
    case 'ER_CANT_AGGREGATE_3COLLATIONS':
    case 'ER_CANT_AGGREGATE_NCOLLATIONS':
    case 'ER_TRUNCATED_WRONG_VALUE_FOR_FIELD':
      return new TypicaError(
        'invalid',
        'text-impossible',
        'An id or a code in this request holds letters that none has; check it.',
        {},
        error,
      );
    case 'ER_DATA_TOO_LONG':
      // Whoever wrote the statement should have checked: it is refused cleanly, and told to us.
      log.warn({ err: error, statement }, 'a text longer than its column came as far as the database');
      return new TypicaError(
        'invalid',
        'text-too-long',
        'A text in this request is longer than can be kept.',
        {},
        error,
      );
    case 'ER_STATEMENT_TIMEOUT':
      log.warn({ err: error, statement }, 'a statement took too long');
      return new TypicaError(
        'unavailable',
        'database-slow',
        'The database took too long for this and was stopped; try again later.',
        {},
        error,
      );
    case 'ECONNREFUSED':
    case 'ECONNABORTED':
    case 'EPIPE':
    case 'ER_SERVER_SHUTDOWN':
    case 'ER_CONNECTION_KILLED':
    case 'PROTOCOL_ENQUEUE_AFTER_FATAL_ERROR':
    case 'PROTOCOL_ENQUEUE_AFTER_QUIT':
    case 'ECONNRESET':
    case 'ETIMEDOUT':
    case 'PROTOCOL_CONNECTION_LOST':
    case 'ER_CON_COUNT_ERROR':
      return busy(error);
    default:
      if ((error as Error | null)?.message === 'Queue limit reached.') return busy(error);
      return new TypicaError(
        'bug',
        'database',
        `The database refused a statement: ${(error as Error).message}`,
        { statement },
        error,
      );
  }
}

/** A deadlock or a lock waited for in vain, as the driver says it or as it was mapped: nothing was written, and it may work now. */
export const isDeadlock = (error: unknown): boolean =>
  ['deadlock', 'ER_LOCK_DEADLOCK', 'ER_LOCK_WAIT_TIMEOUT', 'ER_CHECKREAD'].includes(codeOf(error) ?? '');
export const isDuplicate = (error: unknown): error is TypicaError =>
  error instanceof TypicaError && error.code === 'duplicate';
