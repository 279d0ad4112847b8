import crypto from 'node:crypto';
import fs from 'node:fs';
import path from 'node:path';
import { TypicaError } from '@/core/errors';
import type { Pools } from './pool';

interface Migration {
  readonly number: number;
  readonly name: string;
  readonly sql: string;
  readonly checksum: string;
}

/** Migrations of a folder, `NNNN_slug.sql`, in order. Throws when numbers are missing or double. */
export function readMigrations(folder: string): Migration[] {
  const files = fs
    .readdirSync(folder)
    .filter((name) => /^\d{4}_[a-z0-9_]+\.sql$/.test(name))
    .sort();
  return files.map((name, index) => {
    const number = Number(name.slice(0, 4));
    if (number !== index + 1)
      throw new TypicaError('bug', 'migration-order', `Migration ${name} should have the number ${index + 1}.`);
    const sql = fs.readFileSync(path.join(folder, name), 'utf8');
    return { number, name, sql, checksum: crypto.createHash('sha256').update(sql).digest('hex') };
  });
}

/** Statements of a migration: each ends with a semicolon at the end of a line. */
export const statementsOf = (sql: string): string[] =>
  sql
    .replace(/^--.*$/gm, '')
    .split(/;\s*$/m)
    .map((statement) => statement.trim())
    .filter(Boolean);

/**
 * Brings the database to the newest migration under a named lock, so that two starts at once do it once. MariaDB commits each DDL
 * statement by itself, so a migration that was cut off is run again: its statements say IF NOT EXISTS. A recorded migration whose text
 * has changed since stops everything. Gives the names of what was applied.
 */
export async function migrate(pools: Pools, folder: string): Promise<string[]> {
  const migrations = readMigrations(folder);
  return pools.withConnection(async (db) => {
    const [lock] = await db.rows<{ got: number }>("SELECT GET_LOCK(CONCAT(DATABASE(), '.migrate'), 60) AS got");
    if (lock?.got !== 1)
      throw new TypicaError(
        'unavailable',
        'migrate-locked',
        'Another start has been migrating this database for a minute.',
      );
    try {
      await db.run(`CREATE TABLE IF NOT EXISTS migration (
        number INT PRIMARY KEY, name VARCHAR(120) NOT NULL, checksum CHAR(64) NOT NULL, applied_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3))`);
      const done = await db.rows<{ number: number; name: string; checksum: string }>(
        'SELECT number, name, checksum FROM migration ORDER BY number',
      );
      const newest = done.at(-1);
      if (newest && newest.number > migrations.length) {
        throw new TypicaError(
          'invalid',
          'database-newer',
          `The database was made by a newer Typica (migration ${newest.name}). Update this copy or use another TYPICA_HOME.`,
        );
      }
      for (const row of done) {
        const ours = migrations[row.number - 1]!;
        if (ours.checksum !== row.checksum)
          throw new TypicaError(
            'invalid',
            'migration-changed',
            `Migration ${row.name} was changed after it was applied; add a new one instead.`,
          );
      }
      const applied: string[] = [];
      for (const migration of migrations.slice(done.length)) {
        for (const statement of statementsOf(migration.sql)) await db.run(statement);
        await db.run('INSERT INTO migration (number, name, checksum) VALUES (?, ?, ?)', [
          migration.number,
          migration.name,
          migration.checksum,
        ]);
        applied.push(migration.name);
      }
      return applied;
    } finally {
      await db.run("DO RELEASE_LOCK(CONCAT(DATABASE(), '.migrate'))");
    }
  });
}
