import mysql from 'mysql2/promise';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it, inject } from 'vitest';
import { isTypicaError } from '@/core/errors';
import { migrate, readMigrations } from '@/server/db/migrate';
import { Pools } from '@/server/db/pool';
import { makeWorld, migrationsFolder, type World } from '../support/world';

let world: World;
beforeAll(async () => {
  world = await makeWorld();
});
afterAll(() => world.close());

describe('migrations', () => {
  it('are recorded, and run once however many start together', async () => {
    const all = readMigrations(migrationsFolder);
    const pools = [
      new Pools(world.env.TYPICA_DATABASE_URL!, { connections: 2 }),
      new Pools(world.env.TYPICA_DATABASE_URL!, { connections: 2 }),
    ];
    await world.ctx.db.run('DELETE FROM migration WHERE number > 3');
    const applied = await Promise.all(pools.map((pool) => migrate(pool, migrationsFolder)));
    expect(applied.flat().sort()).toEqual(all.slice(3).map((m) => m.name));
    expect(await world.ctx.db.rows('SELECT number, checksum FROM migration ORDER BY number')).toEqual(
      all.map(({ number, checksum }) => ({ number, checksum })),
    );
    await Promise.all(pools.map((pool) => pool.close()));
  });

  it('stop when one was changed after it was applied, or the database is newer', async () => {
    const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'typica-migrations-'));
    fs.cpSync(migrationsFolder, folder, { recursive: true });
    const last = readMigrations(folder).at(-1)!;
    fs.appendFileSync(path.join(folder, last.name), '\n-- changed\n');
    await expect(migrate(world.ctx.pools, folder)).rejects.toSatisfy((e) => isTypicaError(e, 'migration-changed'));
    fs.rmSync(path.join(folder, last.name));
    await expect(migrate(world.ctx.pools, folder)).rejects.toSatisfy((e) => isTypicaError(e, 'database-newer'));
  });
});

describe('transactions', () => {
  it('are tried again after a deadlock', async () => {
    const { pools, db } = world.ctx;
    await db.run('CREATE TABLE IF NOT EXISTS crossed (id VARCHAR(8) PRIMARY KEY, n INT NOT NULL)');
    await db.run("INSERT INTO crossed VALUES ('d1', 0), ('d2', 0)");
    let runs = 0;
    const cross = (first: string, second: string) =>
      pools.transaction(async (tx) => {
        runs += 1;
        await tx.run('UPDATE crossed SET n = n + 1 WHERE id = ?', [first]);
        await tx.row('SELECT SLEEP(0.2)');
        await tx.run('UPDATE crossed SET n = n + 1 WHERE id = ?', [second]);
      });
    await Promise.all([cross('d1', 'd2'), cross('d2', 'd1')]);
    expect(runs).toBeGreaterThan(2);
    expect(await db.rows('SELECT n FROM crossed')).toEqual([{ n: 2 }, { n: 2 }]);
  });

  it('are tried again as well where one statement is all there is', async () => {
    const { pools, db } = world.ctx;
    await db.run('CREATE TABLE IF NOT EXISTS crossed_alone (id INT PRIMARY KEY, n INT NOT NULL)');
    await db.run('INSERT INTO crossed_alone SELECT seq, 0 FROM seq_1_to_200');
    // The long one holds all rows but the first, which the other holds while it waits for the second: the one that did less is ended.
    let alone: Promise<unknown> | null = null;
    await pools.transaction(async (tx) => {
      await tx.run('UPDATE crossed_alone SET n = n + 1 WHERE id > 1');
      alone ??= db.run('UPDATE crossed_alone SET n = n + 1 ORDER BY id');
      await tx.row('SELECT SLEEP(0.3)');
      await tx.run('UPDATE crossed_alone SET n = n + 1 WHERE id = 1');
    });
    await alone;
    expect(await db.rows('SELECT n, COUNT(*) AS total FROM crossed_alone GROUP BY n')).toEqual([{ n: 2, total: 200 }]);
  });

  it('map what the database says to codes', async () => {
    await world.ctx.db.run("INSERT INTO chore (name, next_at) VALUES ('x', UTC_TIMESTAMP(3))");
    await expect(
      world.ctx.db.run("INSERT INTO chore (name, next_at) VALUES ('x', UTC_TIMESTAMP(3))"),
    ).rejects.toSatisfy((e) => isTypicaError(e, 'duplicate'));
  });
});

describe('the app’s own user of the database', () => {
  it('reads and writes rows, and can neither change tables nor look elsewhere', async () => {
    const setUp = await mysql.createConnection(inject('databaseUrl'));
    await setUp.query('CREATE TABLE IF NOT EXISTS typica.rows_of_ours (n INT)');
    const own = await mysql.createConnection(inject('appDatabaseUrl'));
    try {
      await own.query('INSERT INTO rows_of_ours VALUES (1)');
      const [rows] = await own.query('SELECT n FROM rows_of_ours');
      expect(rows).toEqual([{ n: 1 }]);
      for (const statement of [
        'CREATE TABLE more (n INT)',
        'ALTER TABLE rows_of_ours ADD COLUMN m INT',
        'DROP TABLE rows_of_ours',
        'SELECT * FROM mysql.user',
        "SELECT LOAD_FILE('/etc/passwd') AS f INTO OUTFILE '/tmp/typica-outfile'",
        "CREATE USER 'x'@'127.0.0.1'",
        'SET GLOBAL max_connections = 1',
      ])
        await expect(own.query(statement), statement).rejects.toThrow(/denied/);
    } finally {
      await own.end();
      await setUp.query('DROP TABLE typica.rows_of_ours');
      await setUp.end();
    }
  });
});
