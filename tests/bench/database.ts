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

export interface BenchDatabase {
  readonly ctx: Context;
  /** What a process of its own needs to reach the same. */
  readonly env: Record<string, string>;
  /** Fills a table from rows of plain text, in the fastest way there is. */
  fill(table: string, columns: string, rows: Iterable<readonly (string | number)[]>): Promise<void>;
  close(): Promise<void>;
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
  const pools = new Pools(server.setUpUrl);
  await migrate(pools, path.join(root, 'src/server/db/migrations'));
  const env = {
    TYPICA_HOME: dir,
    TYPICA_ORIGIN: 'http://127.0.0.1:1',
    TYPICA_DATABASE_URL: server.setUpUrl,
    TYPICA_KEY_FILE: keyFile,
    TYPICA_PENNYQUAY_URL: 'http://127.0.0.1:2',
  };
  const ctx = makeContext(env as never, { pools, db: pools.db });
  return {
    ctx,
    env,
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
    async close() {
      await pools.close();
      // Its data goes with the folder: there is nothing to be written back.
      process.kill(server.pid, 'SIGKILL');
      fs.rmSync(dir, { recursive: true, force: true });
    },
  };
}
