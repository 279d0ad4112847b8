import type { Readable } from 'node:stream';
import { setTimeout as delay } from 'node:timers/promises';
import mysql, { type Pool, type PoolConnection, type ResultSetHeader, type RowDataPacket } from 'mysql2/promise';
import { TypicaError } from '@/core/errors';
import { log } from '../log';
import { isDeadlock, mapDatabaseError } from './errors';

/** What SQL readers and writers are given: the pool, or one connection in a transaction. */
export type Value = string | number | bigint | boolean | null | Date | Buffer;

type Query = (connection: PoolConnection) => Promise<unknown>;
type Run = (query: Query) => Promise<unknown>;

export class Database {
  constructor(private readonly through: Run) {}

  private async ask<T>(sql: string, query: (connection: PoolConnection) => Promise<[unknown, unknown]>): Promise<T> {
    try {
      const [result] = (await this.through(query)) as [unknown, unknown];
      return result as T;
    } catch (error) {
      throw mapDatabaseError(error, sql);
    }
  }

  /** Rows of a SELECT (or of a statement with RETURNING). Values go in as parameters, never into the text. */
  rows<T>(sql: string, values: readonly Value[] = []): Promise<T[]> {
    return this.ask<T[]>(sql, (connection) => connection.query<RowDataPacket[]>(sql, values as never));
  }

  /** Rows as arrays in the order of the columns: for reading hundreds of thousands of them. */
  arrays<T extends readonly unknown[]>(sql: string, values: readonly Value[] = []): Promise<T[]> {
    return this.ask<T[]>(sql, (connection) =>
      connection.query<RowDataPacket[]>({ sql, values: values as never, rowsAsArray: true }),
    );
  }

  /** LOAD DATA LOCAL INFILE whose file is `stream`; the name in the statement is not looked at, and nothing is read from any disk. */
  async load(sql: string, values: readonly Value[], stream: Readable): Promise<{ affectedRows: number }> {
    const { affectedRows } = await this.ask<ResultSetHeader>(sql, (connection) =>
      connection.query<ResultSetHeader>({ sql, values: values as never, infileStreamFactory: () => stream }),
    );
    return { affectedRows };
  }

  async row<T>(sql: string, values: readonly Value[] = []): Promise<T | null> {
    return (await this.rows<T>(sql, values))[0] ?? null;
  }

  /** Rows changed by an INSERT, UPDATE or DELETE. */
  async run(sql: string, values: readonly Value[] = []): Promise<{ affectedRows: number; insertId: number }> {
    const { affectedRows, insertId } = await this.ask<ResultSetHeader>(sql, (connection) =>
      connection.query<ResultSetHeader>(sql, values as never),
    );
    return { affectedRows, insertId };
  }

  /** Inserts many rows at once; `columns` and `rows` agree in length. Does nothing for no rows. */
  async insertMany(
    into: string,
    columns: readonly string[],
    rows: readonly (readonly Value[])[],
    suffix = '',
  ): Promise<void> {
    for (let i = 0; i < rows.length; i += 500) {
      const part = rows.slice(i, i + 500);
      const marks = part.map(() => `(${columns.map(() => '?').join(',')})`).join(',');
      await this.run(`INSERT INTO ${into} (${columns.join(',')}) VALUES ${marks} ${suffix}`, part.flat());
    }
  }
}

export interface PoolLimits {
  readonly connections?: number;
  /** Longest that one statement may take; the server ends it then. */
  readonly statementSeconds?: number;
}

/** Longest wait for a row that another transaction holds, and for a free connection. */
const LOCK_SECONDS = 10;
const ACQUIRE_MS = 15_000;
/** Who would wait behind so many others is told so at once. */
const MAX_WAITING = 500;
const TRIES = 5;

async function again<T>(work: () => Promise<T>): Promise<T> {
  for (let attempt = 1; ; attempt += 1) {
    try {
      return await work();
    } catch (error) {
      if (!isDeadlock(error) || attempt >= TRIES) throw error;
    }
    await delay(Math.random() * 20 * 2 ** attempt);
  }
}

export class Pools {
  readonly db: Database;
  private readonly pool: Pool;

  constructor(url: string, { connections = 12, statementSeconds = 60 }: PoolLimits = {}) {
    this.pool = mysql.createPool({
      uri: url,
      connectionLimit: connections,
      queueLimit: MAX_WAITING,
      connectTimeout: 10_000,
      timezone: 'Z',
      charset: 'utf8mb4',
      supportBigNumbers: true,
      // Strings stay strings: a DECIMAL never becomes a floating point number.
      decimalNumbers: false,
      // Every error says its statement (`mapDatabaseError`): the stack of each query, kept in case it fails, costs a tenth of a worker's time.
      trace: false,
    });
    this.pool.on('connection', (connection) => {
      // READ COMMITTED: locking reads lock no gaps, so that a claim does not hold up new jobs (docs/decisions/0005).
      // It is asked before whatever else the connection is used for; one that cannot be set so is not used at all.
      const set = `SET SESSION tx_isolation = 'READ-COMMITTED', max_statement_time = ${statementSeconds}, innodb_lock_wait_timeout = ${LOCK_SECONDS}`;
      const plain = connection as unknown as {
        query(sql: string, done: (error: unknown) => void): void;
        destroy(): void;
      };
      plain.query(set, (error) => {
        if (!error) return;
        log.error({ err: error }, 'a database connection could not be set up');
        plain.destroy();
      });
    });
    // A statement by itself is a transaction of its own: what lost to another's locks was undone whole, and is asked again.
    this.db = new Database((query) =>
      again(async () => {
        const connection = await this.acquire();
        try {
          return await query(connection);
        } finally {
          connection.release();
        }
      }),
    );
  }

  /** A connection of one's own. Throws `database-busy` when none comes free in time. */
  private acquire(): Promise<PoolConnection> {
    return new Promise((resolve, reject) => {
      let gone = false;
      const clock = setTimeout(() => {
        gone = true;
        reject(
          new TypicaError('unavailable', 'database-busy', 'The database is busy just now; try again in a moment.'),
        );
      }, ACQUIRE_MS);
      this.pool.getConnection().then(
        (connection) => {
          clearTimeout(clock);
          // It may come yet when whoever waited is gone.
          if (gone) connection.release();
          else resolve(connection);
        },
        (error: unknown) => {
          clearTimeout(clock);
          reject(mapDatabaseError(error, 'connect'));
        },
      );
    });
  }

  /** Runs `work` in one transaction; a deadlock or a lock that timed out is tried again after a short random wait, up to five times. */
  async transaction<T>(work: (db: Database) => Promise<T>): Promise<T> {
    return again(async () => {
      const connection = await this.acquire();
      try {
        await connection.beginTransaction();
        const result = await work(new Database((query) => query(connection)));
        await connection.commit();
        return result;
      } catch (error) {
        // A connection that is gone cannot be rolled back and need not be.
        await connection.rollback().catch(() => connection.destroy());
        throw error;
      } finally {
        connection.release();
      }
    });
  }

  /** One connection for `work`, for named locks that live on a connection. */
  async withConnection<T>(work: (db: Database) => Promise<T>): Promise<T> {
    const connection = await this.acquire();
    try {
      return await work(new Database((query) => query(connection)));
    } finally {
      connection.release();
    }
  }

  close(): Promise<void> {
    return this.pool.end();
  }
}
