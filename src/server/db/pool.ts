import type { Readable } from 'node:stream';
import mysql, { type Pool, type PoolConnection, type ResultSetHeader, type RowDataPacket } from 'mysql2/promise';
import { isDeadlock, mapDatabaseError } from './errors';

/** What SQL readers and writers are given: the pool, or one connection in a transaction. */
export type Value = string | number | bigint | boolean | null | Date | Buffer;

export class Database {
  constructor(private readonly connection: Pool | PoolConnection) {}

  /** Rows of a SELECT (or of a statement with RETURNING). Values go in as parameters, never into the text. */
  async rows<T>(sql: string, values: readonly Value[] = []): Promise<T[]> {
    try {
      const [rows] = await this.connection.query<RowDataPacket[]>(sql, values as never);
      return rows as T[];
    } catch (error) {
      throw mapDatabaseError(error, sql);
    }
  }

  /** Rows as arrays in the order of the columns: for reading hundreds of thousands of them. */
  async arrays<T extends readonly unknown[]>(sql: string, values: readonly Value[] = []): Promise<T[]> {
    try {
      const [rows] = await this.connection.query<RowDataPacket[]>({ sql, values: values as never, rowsAsArray: true });
      return rows as unknown as T[];
    } catch (error) {
      throw mapDatabaseError(error, sql);
    }
  }

  /** LOAD DATA LOCAL INFILE whose file is `stream`; the name in the statement is not looked at, and nothing is read from any disk. */
  async load(sql: string, values: readonly Value[], stream: Readable): Promise<{ affectedRows: number }> {
    try {
      const [result] = await this.connection.query<ResultSetHeader>({
        sql,
        values: values as never,
        infileStreamFactory: () => stream,
      });
      return { affectedRows: result.affectedRows };
    } catch (error) {
      throw mapDatabaseError(error, sql);
    }
  }

  async row<T>(sql: string, values: readonly Value[] = []): Promise<T | null> {
    return (await this.rows<T>(sql, values))[0] ?? null;
  }

  /** Rows changed by an INSERT, UPDATE or DELETE. */
  async run(sql: string, values: readonly Value[] = []): Promise<{ affectedRows: number; insertId: number }> {
    try {
      const [result] = await this.connection.query<ResultSetHeader>(sql, values as never);
      return { affectedRows: result.affectedRows, insertId: result.insertId };
    } catch (error) {
      throw mapDatabaseError(error, sql);
    }
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

export class Pools {
  readonly db: Database;
  private readonly pool: Pool;

  constructor(url: string, connectionLimit = 12) {
    this.pool = mysql.createPool({
      uri: url,
      connectionLimit,
      timezone: 'Z',
      charset: 'utf8mb4',
      supportBigNumbers: true,
      // Strings stay strings: a DECIMAL never becomes a floating point number.
      decimalNumbers: false,
    });
    // READ COMMITTED: locking reads lock no gaps, so that a claim does not hold up new jobs (docs/decisions/0005).
    this.pool.on('connection', (connection) =>
      connection.query('SET SESSION TRANSACTION ISOLATION LEVEL READ COMMITTED'),
    );
    this.db = new Database(this.pool);
  }

  /** Runs `work` in one transaction; a deadlock or a lock that timed out is tried again, up to five times. */
  async transaction<T>(work: (db: Database) => Promise<T>): Promise<T> {
    for (let attempt = 1; ; attempt += 1) {
      const connection = await this.pool.getConnection();
      try {
        await connection.beginTransaction();
        const result = await work(new Database(connection));
        await connection.commit();
        return result;
      } catch (error) {
        await connection.rollback().catch(() => undefined);
        if (!isDeadlock(error) || attempt >= 5) throw error;
      } finally {
        connection.release();
      }
    }
  }

  /** One connection for `work`, for named locks that live on a connection. */
  async withConnection<T>(work: (db: Database) => Promise<T>): Promise<T> {
    const connection = await this.pool.getConnection();
    try {
      return await work(new Database(connection));
    } finally {
      connection.release();
    }
  }

  close(): Promise<void> {
    return this.pool.end();
  }
}
