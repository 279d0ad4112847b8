import { spawn } from 'node:child_process';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { setTimeout as delay } from 'node:timers/promises';
import { afterAll, afterEach, beforeAll, describe, expect, it, vi } from 'vitest';
import { findArtwork, uploadArtwork } from '@/server/artwork/artwork';
import { claim } from '@/server/jobs/claim';
import { handlers } from '@/server/jobs/handlers';
import { runJob } from '@/server/jobs/worker';
import { problemResponse } from '@/server/http/problem';
import type { Actor } from '@/server/people/people';
import { claim as claimFolder } from '../../bin/lib/processes.mjs';
import { freePort } from '../../bin/lib/ports.mjs';
import { restarter } from '../../bin/lib/restart.mjs';
import { artworkFile, makeActor, makeWorld, streamOf, type World } from '../support/world';

let world: World;
let actor: Actor;
beforeAll(async () => {
  world = await makeWorld();
  actor = await makeActor(world.ctx);
});
afterAll(() => world.close());
afterEach(() => void vi.restoreAllMocks());

describe('a reader that stops for reasons of ours', () => {
  /** One try, with the reader's program in place or not. */
  const once = async (there: boolean) => {
    await world.ctx.db.run('UPDATE job SET run_after = UTC_TIMESTAMP(3)');
    const lease = (await claim(world.ctx, Object.keys(handlers)))!;
    if (!there) vi.spyOn(process, 'cwd').mockReturnValue('/nowhere');
    await runJob(world.ctx, lease, handlers[lease.job.kind]!);
    vi.restoreAllMocks();
  };
  const bring = () => uploadArtwork(world.ctx, actor, streamOf(artworkFile('tideline')), 'Tideline.svg');

  it('is no fault of the file: it is tried again, and then it is read', async () => {
    const { id } = await bring();
    await once(false);
    expect((await findArtwork(world.ctx, actor.workspaceId, id)).state).toBe('ingesting');
    await once(true);
    expect((await findArtwork(world.ctx, actor.workspaceId, id)).state).toBe('ready');
  });

  it('each time is told as what it is, and not as damage', async () => {
    const { id } = await bring();
    for (let i = 0; i < 3; i += 1) await once(false);
    const artwork = await findArtwork(world.ctx, actor.workspaceId, id);
    expect(artwork).toMatchObject({ state: 'refused', refusal: { code: 'artwork-unreadable' } });
  });
});

describe('a full disk', () => {
  it.each([
    ['of a file', { code: 'ENOSPC' }],
    ['over a quota', { code: 'EDQUOT' }],
    ['of the database', { errno: 1021 }],
    ['of a table', { errno: 1114 }],
  ])('%s is told as such', async (_name, fault) => {
    const answer = problemResponse(Object.assign(new Error('no room'), fault));
    expect(answer.status).toBe(503);
    expect(await answer.json()).toMatchObject({ code: 'disk-full', detail: expect.stringContaining('disk') });
  });
});

describe('a first start', () => {
  const root = path.resolve(import.meta.dirname, '../..');
  const start = (dir: string, port: number) =>
    spawn(
      process.execPath,
      [
        '-e',
        `import('${root}/bin/lib/mariadb.mjs').then(({ startMariaDb }) => startMariaDb({ dir: ${JSON.stringify(dir)}, port: ${port}, durable: false,
          onStart: (pid) => process.stdout.write('pid ' + pid + '\\n') })).then(() => process.stdout.write('up\\n'), (e) => { process.stdout.write('failed ' + e.message); process.exit(1); })`,
      ],
      { stdio: ['ignore', 'pipe', 'inherit'] },
    );

  it('that was killed while the database was made starts again', async () => {
    const dir = fs.mkdtempSync(path.join(os.tmpdir(), 'typica-cut-'));
    const pids: number[] = [];
    const watch = (child: ReturnType<typeof start>) => {
      let told = '';
      child.stdout!.on('data', (part: Buffer) => {
        told += part.toString();
        for (const [, pid] of part.toString().matchAll(/pid (\d+)/g)) pids.push(Number(pid));
      });
      return () => told;
    };
    const end = (pid: number) => {
      try {
        process.kill(pid, 'SIGKILL');
      } catch {
        // It is gone already.
      }
    };
    for (const ms of [250, 700, 1300]) {
      const child = start(dir, await freePort());
      watch(child);
      await delay(ms);
      end(child.pid!);
      pids.forEach(end);
      await delay(200);
    }
    const child = start(dir, await freePort());
    const told = watch(child);
    for (let i = 0; i < 600 && !/up|failed/.test(told()); i += 1) await delay(100);
    expect(told()).toContain('up');
    end(child.pid!);
    pids.forEach(end);
    await delay(300);
    fs.rmSync(dir, { recursive: true, force: true });
  });

  it('of two at once gets the folder, and one whose process is gone is taken over', () => {
    const file = path.join(fs.mkdtempSync(path.join(os.tmpdir(), 'typica-claim-')), 'start.json');
    fs.writeFileSync(file, JSON.stringify({ pid: 2 ** 22 - 1, started: '1' }));
    expect(claimFolder(file)).toBe(true);
    expect(claimFolder(file)).toBe(false);
  });
});

describe('whatever ends by itself', () => {
  it('is started again: at once when it had come up, later and later when not, and not while all is stopped', async () => {
    vi.useFakeTimers();
    const said: string[] = [];
    let stopping = false;
    let begun = 0;
    const onEnd = restarter({ say: (text: string) => said.push(text), stopping: () => stopping });
    const end = { name: 'web', how: 'SIGKILL', log: 'web.log', again: () => (begun += 1) };
    onEnd(end);
    await vi.advanceTimersByTimeAsync(400);
    expect(begun).toBe(1);
    for (const wait of [600, 1200, 2400]) {
      onEnd(end);
      await vi.advanceTimersByTimeAsync(wait - 50);
      const before = begun;
      await vi.advanceTimersByTimeAsync(100);
      expect(begun).toBe(before + 1);
    }
    await vi.advanceTimersByTimeAsync(60_000);
    onEnd(end);
    expect(said.at(-1)).toContain('in 0.3 s');
    stopping = true;
    await vi.advanceTimersByTimeAsync(1000);
    expect(begun).toBe(4);
    vi.useRealTimers();
  });
});
