import fs from 'node:fs/promises';
import http from 'node:http';
import os from 'node:os';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { TypicaError } from '@/core/errors';
import { ProcessPool } from '@/server/processes/pool';
import { Room } from '@/server/processes/room';
import { dropLeftFiles } from '@/server/studio/old-files';
import { canShutIn, shutIn } from '@/server/processes/sandbox';

let folder = '';
beforeAll(async () => {
  folder = await fs.mkdtemp(path.join(os.tmpdir(), 'typica-processes-'));
});
afterAll(() => fs.rm(folder, { recursive: true, force: true }));

/** What the program does with an order: says it back, never ends, or takes memory until it is stopped. */
const PROGRAM = `process.on('message', ({ id, order }) => {
  if (order === 'hang') for (;;);
  if (order === 'eat') { const all = []; for (;;) all.push(Buffer.alloc(4e6, 1)); }
  if (order === 'crash') process.abort();
  if (order === 'wait') return;
  process.send({ id, result: order });
});
process.on('disconnect', () => process.exit(0));`;

interface Made {
  readonly size?: number;
  readonly inFlight?: number;
  readonly seconds?: number;
  readonly room?: Room;
}
const pools: ProcessPool<string, string>[] = [];
async function poolOf({ size = 1, inFlight = 1, seconds = 20, room }: Made = {}) {
  const program = path.join(folder, `program${pools.length}.mjs`);
  await fs.writeFile(program, PROGRAM);
  const pool = new ProcessPool<string, string>({
    name: 'test',
    open: async () => ({
      command: { command: process.execPath, args: [program], env: { PATH: process.env.PATH } },
      clear: async () => undefined,
    }),
    size,
    inFlight,
    seconds,
    memoryMb: 250,
    room,
    holdsMb: 60,
    idleMs: 5000,
    mostWaiting: 5,
    tooSlow: () => new TypicaError('invalid', 'too-slow', 'x'),
    tooHeavy: () => new TypicaError('invalid', 'too-heavy', 'x'),
  });
  pools.push(pool);
  return pool;
}
afterAll(() => Promise.all(pools.map((pool) => pool.close())));

describe('a pool of processes', () => {
  it('answers, and goes on after one that hangs, eats or crashes', async () => {
    const pool = await poolOf({ seconds: 2 });
    expect(await pool.ask('a', { owner: 'w' })).toBe('a');
    await expect(pool.ask('hang', { owner: 'w' })).rejects.toMatchObject({ code: 'too-slow' });
    expect(await pool.ask('b', { owner: 'w' })).toBe('b');
    await expect(pool.ask('eat', { owner: 'w', seconds: 20 })).rejects.toMatchObject({ code: 'too-heavy' });
    await expect(pool.ask('crash', { owner: 'w' })).rejects.toMatchObject({ code: 'studio-crashed' });
    expect(await pool.ask('c', { owner: 'w' })).toBe('c');
  });

  it('ends what nobody waits for any more, begun or not', async () => {
    const pool = await poolOf();
    const [first, second] = [new AbortController(), new AbortController()];
    const running = pool.ask('hang', { owner: 'w', signal: first.signal });
    const waiting = pool.ask('b', { owner: 'w', signal: second.signal });
    second.abort(new Error('gone'));
    await expect(waiting).rejects.toThrow('gone');
    setTimeout(() => first.abort(new Error('gone too')), 300);
    await expect(running).rejects.toThrow('gone too');
    expect(await pool.ask('c', { owner: 'w' })).toBe('c');
  });

  it('leaves a place for others, and takes them in turn', async () => {
    const pool = await poolOf({ size: 2, seconds: 3 });
    const hanging = ['hang', 'hang', 'hang'].map((order) => pool.ask(order, { owner: 'greedy' }).catch(() => 'ended'));
    expect(await pool.ask('a', { owner: 'other' })).toBe('a');
    expect(await pool.ask('b', { owner: 'other' })).toBe('b');
    expect(await Promise.race([...hanging, Promise.resolve('still')])).toBe('still');
    await Promise.all(hanging);
  });

  it('does again what was lost with a process that another order ended', async () => {
    const pool = await poolOf({ inFlight: 3, seconds: 2 });
    await pool.ask('a', { owner: 'w' });
    const lost = pool.ask('wait', { owner: 'x', seconds: 60 });
    const slow = pool.ask('wait', { owner: 'w', seconds: 1 });
    await expect(slow).rejects.toMatchObject({ code: 'too-slow' });
    // It waits in the next process.
    expect(await Promise.race([lost, new Promise((next) => setTimeout(() => next('waits'), 500))])).toBe('waits');
    void lost.catch(() => undefined);
  });

  it('tells whoever asks too much', async () => {
    const pool = await poolOf();
    const all = Array.from({ length: 12 }, () =>
      pool.ask('wait', { owner: 'w', seconds: 1 }).catch((e: TypicaError) => e.code),
    );
    expect(await Promise.race(all)).toBe('studio-busy');
    await pool.close();
  });
});

describe('what killed processes left behind', () => {
  it('goes after some hours, and nothing that is younger', async () => {
    const home = path.join(folder, 'left');
    const made = path.join(home, 'tmp', 'made');
    await fs.mkdir(path.join(home, 'tmp', 'studio1', 'in'), { recursive: true });
    await fs.mkdir(made, { recursive: true });
    for (const name of [path.join(made, 'old'), path.join(made, 'new'), path.join(home, 'tmp', 'up1')])
      await fs.writeFile(name, 'x');
    const hoursAgo = new Date(Date.now() - 7 * 3_600_000);
    // One that still works has been given a file lately.
    await fs.mkdir(path.join(home, 'tmp', 'studio2', 'in'), { recursive: true });
    for (const name of ['studio1/in', 'studio1', 'studio2', 'up1', 'made/old'])
      await fs.utimes(path.join(home, 'tmp', name), hoursAgo, hoursAgo);
    await fs.utimes(made, hoursAgo, hoursAgo);
    expect(await dropLeftFiles(home)).toBe(3);
    expect((await fs.readdir(path.join(home, 'tmp'))).toSorted()).toEqual(['made', 'studio2']);
    expect(await fs.readdir(made)).toEqual(['new']);
    expect(await dropLeftFiles(path.join(folder, 'no such home'))).toBe(0);
  });
});

describe('room', () => {
  it('is given in the order of asking; what is larger than all of it has it alone; what rests makes way', async () => {
    const room = new Room(100);
    const first = await room.take(60);
    const order: string[] = [];
    const large = room.take(200).then((release) => (order.push('large'), release));
    const small = room.take(10).then((release) => (order.push('small'), release));
    await new Promise((next) => setTimeout(next, 20));
    expect(order).toEqual([]);
    first();
    (await large)();
    (await small)();
    expect(order).toEqual(['large', 'small']);
    const held = await room.take(80);
    room.canLeave(held);
    (await room.take(50))();
  });

  it('leaves a place free of who has one already; others pass those who wait for their own', async () => {
    const room = new Room(600, 200);
    const slow = [await room.take(200, undefined, 'a'), await room.take(200, undefined, 'a')];
    let third = false;
    const waits = room.take(200, undefined, 'a').then((release) => ((third = true), release));
    (await room.take(200, undefined, 'b'))();
    expect(third).toBe(false);
    slow[0]!();
    (await waits)();
    slow[1]!();
    // Nobody has any: the first piece is given whatever it leaves.
    (await room.take(500, undefined, 'a'))();
  });
});

describe('a process that is shut in', () => {
  it('reads what it was given, and neither the home nor the network nor anybody’s environment', async () => {
    expect(canShutIn()).toBe(true);
    const home = path.join(folder, 'home');
    const given = path.join(folder, 'given');
    for (const place of [home, given]) await fs.mkdir(place, { recursive: true });
    await fs.writeFile(path.join(home, 'secret.key'), 'secret');
    await fs.writeFile(path.join(given, 'file'), 'given');
    const server = http.createServer((_, response) => response.end('reached')).listen(0, '127.0.0.1');
    await new Promise((next) => server.once('listening', next));
    const { port } = server.address() as { port: number };
    process.env.TYPICA_SECRET_FOR_TEST = 'secret';
    await fs.writeFile(
      path.join(given, 'try.mjs'),
      `import fs from 'node:fs';
      const tried = (name, work) => Promise.resolve().then(work).then((v) => [name, String(v)], (e) => [name, 'no: ' + (e.code ?? e.cause?.code)]);
      const results = await Promise.all([
        tried('given', () => fs.readFileSync(${JSON.stringify(path.join(given, 'file'))}, 'utf8')),
        tried('home', () => fs.readFileSync(${JSON.stringify(path.join(home, 'secret.key'))}, 'utf8')),
        tried('passwords', () => fs.readFileSync('/etc/shadow', 'utf8')),
        tried('write', () => fs.writeFileSync(${JSON.stringify(path.join(given, 'file'))}, 'mine')),
        tried('network', async () => (await fetch('http://127.0.0.1:${port}')).text()),
        tried('environment', () => Object.keys(process.env).some((key) => key.startsWith('TYPICA'))),
        tried('others', () => fs.readdirSync('/proc').filter((name) => /^[0-9]+$/.test(name)).length < 10),
      ]);
      process.stdout.write(JSON.stringify(Object.fromEntries(results)));`,
    );
    const { command, args, env } = shutIn({ readOnly: [given], writable: [] }, [path.join(given, 'try.mjs')]);
    const { execFile } = await import('node:child_process');
    const out = await new Promise<string>((resolve, reject) =>
      execFile(command, args, { env: env as NodeJS.ProcessEnv }, (error, stdout, stderr) =>
        error ? reject(new Error(stderr)) : resolve(stdout),
      ),
    );
    server.close();
    delete process.env.TYPICA_SECRET_FOR_TEST;
    expect(JSON.parse(out)).toEqual({
      given: 'given',
      home: 'no: ENOENT',
      passwords: 'no: ENOENT',
      write: 'no: EROFS',
      network: expect.stringMatching(/^no: (ECONNREFUSED|ENETUNREACH)/),
      environment: 'false',
      others: 'true',
    });
  });
});
