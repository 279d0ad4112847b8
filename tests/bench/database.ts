import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { Readable } from 'node:stream';
import crypto from 'node:crypto';
import { startMariaDb } from '../../bin/lib/mariadb.mjs';
import { freePort } from '../../bin/lib/ports.mjs';
import { makeContext, type Context } from '../../src/server/context';
import { migrate } from '../../src/server/db/migrate';
import { Pools } from '../../src/server/db/pool';

const root = path.resolve(import.meta.dirname, '../..');

export interface Fillable {
  readonly ctx: Context;
  /** Fills a table from rows of plain text, in the fastest way there is. */
  fill(table: string, columns: string, rows: Iterable<readonly (string | number)[]>): Promise<void>;
}

export interface BenchDatabase extends Fillable {
  /** What a process of its own needs to reach the same. */
  readonly env: Record<string, string>;
  close(): Promise<void>;
}

/** A database that runs, to be filled. */
export function fillable(env: Record<string, string>): Fillable & { close(): Promise<void> } {
  const pools = new Pools(env.TYPICA_DATABASE_URL!);
  const ctx = makeContext(env as never, { pools, db: pools.db });
  return {
    ctx,
    async fill(table, columns, rows) {
      function* lines() {
        for (const row of rows) yield `${row.join('\t')}\n`;
      }
      await ctx.db.load(
        `LOAD DATA LOCAL INFILE 'rows' INTO TABLE ${table} CHARACTER SET utf8mb4 FIELDS TERMINATED BY '\\t' ESCAPED BY '' LINES TERMINATED BY '\\n' (${columns})`,
        [],
        Readable.from(lines(), { objectMode: false }),
      );
    },
    close: () => pools.close(),
  };
}

/** A MariaDB of its own with the tables of Typica and nothing in them, in a folder that goes with it. */
export async function benchDatabase(): Promise<BenchDatabase> {
  const dir = fs.mkdtempSync(path.join(os.tmpdir(), 'typica-bench-'));
  const server = (await startMariaDb({
    dir: path.join(dir, 'db'),
    port: await freePort(),
    bufferPoolMb: 512,
    durable: false,
  })) as { pid: number; setUpUrl: string };
  const keyFile = path.join(dir, 'secret.key');
  fs.writeFileSync(keyFile, crypto.randomBytes(32).toString('base64'));
  const setUp = new Pools(server.setUpUrl);
  await migrate(setUp, path.join(root, 'src/server/db/migrations'));
  await setUp.close();
  const env = {
    TYPICA_HOME: dir,
    TYPICA_ORIGIN: 'http://127.0.0.1:1',
    TYPICA_DATABASE_URL: server.setUpUrl,
    TYPICA_KEY_FILE: keyFile,
    TYPICA_PENNYQUAY_URL: 'http://127.0.0.1:2',
  };
  const { ctx, fill, close } = fillable(env);
  return {
    ctx,
    env,
    fill,
    async close() {
      await close();
      // Its data goes with the folder: there is nothing to be written back.
      process.kill(server.pid, 'SIGKILL');
      fs.rmSync(dir, { recursive: true, force: true });
    },
  };
}
