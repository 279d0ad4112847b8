import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import type { TestProject } from 'vitest/node';
import { startMariaDb } from '../../bin/lib/mariadb.mjs';
import { freePort } from '../../bin/lib/ports.mjs';

declare module 'vitest' {
  interface ProvidedContext {
    databaseUrl: string;
    /** As the app's own user comes in. */
    appDatabaseUrl: string;
  }
}

/** One MariaDB of our own for all database tests; each test file makes a database in it. */
export default async function setup(project: TestProject) {
  const dir = fs.mkdtempSync(path.join(os.tmpdir(), 'typica-test-db-'));
  const database = (await startMariaDb({ dir, port: await freePort(), durable: false, bufferPoolMb: 128 })) as {
    pid: number;
    url: string;
    setUpUrl: string;
  };
  project.provide('databaseUrl', database.setUpUrl);
  project.provide('appDatabaseUrl', database.url);
  return async () => {
    process.kill(database.pid, 'SIGTERM');
    const until = Date.now() + 20_000;
    while (Date.now() < until) {
      try {
        process.kill(database.pid, 0);
      } catch {
        break;
      }
      await new Promise((resolve) => setImmediate(resolve));
    }
    fs.rmSync(dir, { recursive: true, force: true });
  };
}
