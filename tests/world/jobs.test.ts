import { setTimeout as delay } from 'node:timers/promises';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { TypicaError } from '@/core/errors';
import { claim, giveUpLost } from '@/server/jobs/claim';
import { cancelJob, createGroup, enqueue, groupProgress, retryJob } from '@/server/jobs/jobs';
import { backOffMs, complete, fail, heartbeat, LeaseLost, underLease } from '@/server/jobs/lease';
import { dropIdleTurns } from '@/server/jobs/turns';
import { runJob, work, type JobHandler } from '@/server/jobs/worker';
import type { Actor } from '@/server/people/people';
import { eventually, jobOf, makeActor, makeWorld, type World } from '../support/world';

let world: World;
let actor: Actor;
beforeAll(async () => {
  world = await makeWorld();
  actor = await makeActor(world.ctx);
});
afterAll(() => world.close());
beforeEach(async () => {
  await world.ctx.db.run('DELETE FROM job_dependency');
  await world.ctx.db.run('DELETE FROM job');
});

const add = (over: Partial<Parameters<typeof enqueue>[1]> = {}) =>
  enqueue(world.ctx.db, { workspaceId: actor.workspaceId, kind: 'test', title: 'Test', payload: {}, ...over });
const take = () => claim(world.ctx, ['test']);
const busy = new TypicaError('unavailable', 'shop-busy', 'Busy.', { retryAfterMs: 0 });

describe('the queue', () => {
  it('gives the highest priority first, and each job to one worker only', async () => {
    await add({ priority: 1, payload: { n: 1 } });
    await add({ priority: 9, payload: { n: 9 } });
    expect((await take())!.job.payload).toEqual({ n: 9 });
    const rest = await Promise.all(Array.from({ length: 6 }, take));
    expect(rest.filter(Boolean)).toHaveLength(1);
  });

  it('makes one job for one key', async () => {
    const ids = await Promise.all(Array.from({ length: 5 }, () => add({ idempotencyKey: 'once' })));
    expect(new Set(ids).size).toBe(1);
  });

  it('gives a job whose worker died to another, and fences the dead one off', async () => {
    const id = await add();
    const dead = (await take())!;
    expect(await take()).toBeNull();
    await world.ctx.db.run('UPDATE job SET lease_until = UTC_TIMESTAMP(3) - INTERVAL 1 SECOND WHERE id = ?', [id]);
    const second = (await take())!;
    // The same try goes on: it was not the job's fault.
    expect(second.job).toMatchObject({ id, attempts: 1 });
    expect(await complete(world.ctx, dead, 'late')).toBe(false);
    await expect(heartbeat(world.ctx, dead)).rejects.toBeInstanceOf(LeaseLost);
    expect(await complete(world.ctx, second, 'right')).toBe(true);
    expect(await jobOf(world.ctx, actor, id)).toMatchObject({ state: 'done', result: 'right' });
  });

  it('takes what a worker left before what waits, and gives it up when it loses its worker over and over', async () => {
    const { ctx } = world;
    const runOut = (id: string) =>
      ctx.db.run('UPDATE job SET lease_until = UTC_TIMESTAMP(3) - INTERVAL 1 SECOND WHERE id = ?', [id]);
    const killer = await add({ maxAttempts: 3 });
    await take();
    for (let i = 0; i < 5; i += 1) await add({ priority: 9 });
    for (let lost = 1; lost <= 3; lost += 1) {
      await runOut(killer);
      expect((await take())!.job.id).toBe(killer);
    }
    await runOut(killer);
    expect((await take())!.job.id).not.toBe(killer);
    await giveUpLost(ctx);
    expect(await jobOf(ctx, actor, killer)).toMatchObject({ state: 'failed', error: { code: 'job-kills-worker' } });
  });

  it('does not give up one that was only unlucky: it came further each time', async () => {
    const { ctx } = world;
    const id = await add({ maxAttempts: 3 });
    let lease = (await take())!;
    for (let step = 1; step <= 9; step += 1) {
      await heartbeat(ctx, lease, { done: step, total: 10, note: 'further' });
      await ctx.db.run('UPDATE job SET lease_until = UTC_TIMESTAMP(3) - INTERVAL 1 SECOND WHERE id = ?', [id]);
      await giveUpLost(ctx);
      lease = (await take())!;
      expect(lease.job).toMatchObject({ id, attempts: 1 });
    }
  });

  it('waits without end for a shop that only asks for patience', async () => {
    const id = await add({ maxAttempts: 2 });
    const patience = new TypicaError('unavailable', 'shop-busy', 'Later.', { retryAfterMs: 0, costsNoTry: true });
    for (let i = 0; i < 10; i += 1) await fail(world.ctx, (await take())!, patience);
    expect(await jobOf(world.ctx, actor, id)).toMatchObject({ state: 'queued', attempts: 0 });
  });

  it('runs one job of a subject at a time, and lets one of a kind wait', async () => {
    const { ctx } = world;
    const first = await add({ subject: 'thing:1' });
    expect(await add({ subject: 'thing:1' })).toBe(first);
    const lease = (await take())!;
    const second = await add({ subject: 'thing:1' });
    expect(second).not.toBe(first);
    // What was asked for while it ran waits until it is done.
    expect(await take()).toBeNull();
    const elsewhere = await add({ subject: 'thing:2' });
    expect((await take())!.job.id).toBe(elsewhere);
    await complete(ctx, lease, null);
    expect((await take())!.job.id).toBe(second);
  });

  it('does not put an old job back while another about the same is under way', async () => {
    const { ctx } = world;
    const old = await add({ subject: 'thing:3' });
    await fail(ctx, (await take())!, new TypicaError('invalid', 'x', 'No.'));
    const now = await add({ subject: 'thing:3' });
    const lease = (await take())!;
    expect(lease.job.id).toBe(now);
    await expect(retryJob(ctx, actor.workspaceId, old)).rejects.toMatchObject({ code: 'job-under-way' });
    await complete(ctx, lease, null);
    const both = await Promise.allSettled([
      retryJob(ctx, actor.workspaceId, old),
      retryJob(ctx, actor.workspaceId, now),
    ]);
    expect(both.filter((one) => one.status === 'fulfilled' && one.value)).toHaveLength(1);
  });

  it('that failed while the next of its kind waits leaves it to that one', async () => {
    const { ctx } = world;
    const first = await add({ subject: 'thing:4' });
    const lease = (await take())!;
    const second = await add({ subject: 'thing:4' });
    await fail(ctx, lease, busy);
    expect((await jobOf(ctx, actor, first)).state).toBe('cancelled');
    expect((await take())!.job.id).toBe(second);
  });

  it('writes nothing under a lease that another has, and nothing after it was taken over', async () => {
    const { ctx } = world;
    const id = await add();
    const stopped = (await take())!;
    await ctx.db.run('UPDATE job SET lease_until = UTC_TIMESTAMP(3) - INTERVAL 1 SECOND WHERE id = ?', [id]);
    const next = (await take())!;
    let wrote = 0;
    await expect(underLease(ctx, stopped, async () => void (wrote += 1))).rejects.toBeInstanceOf(LeaseLost);
    await underLease(ctx, next, async () => void (wrote += 1));
    expect(wrote).toBe(1);
  });

  it('tries again what can be tried again, later and later, and gives up at last', async () => {
    const id = await add({ maxAttempts: 2 });
    await fail(world.ctx, (await take())!, busy);
    expect(await jobOf(world.ctx, actor, id)).toMatchObject({
      state: 'queued',
      error: { code: 'shop-busy', message: 'Busy.' },
    });
    await fail(world.ctx, (await take())!, busy);
    expect((await jobOf(world.ctx, actor, id)).state).toBe('failed');
    expect(backOffMs(1, 0)).toBe(1000);
    expect(backOffMs(3, 0.5)).toBe(8000);
    expect(backOffMs(30, 0.99)).toBeLessThan(450_001);
  });

  it('does not repeat what only the seller can mend, until asked', async () => {
    const id = await add();
    await fail(world.ctx, (await take())!, new TypicaError('invalid', 'shop-refused', 'No.'));
    expect((await jobOf(world.ctx, actor, id)).state).toBe('failed');
    expect(await retryJob(world.ctx, actor.workspaceId, id)).toBe(true);
    expect((await take())!.job.id).toBe(id);
  });

  it('lets dependents wait, wakes them when all is done, and cancels them when one is not', async () => {
    const [a, b] = [await add(), await add()];
    const waits = await add({ needs: [a, b] });
    expect((await jobOf(world.ctx, actor, waits)).state).toBe('waiting');
    await complete(world.ctx, (await take())!, null);
    expect((await jobOf(world.ctx, actor, waits)).state).toBe('waiting');
    await complete(world.ctx, (await take())!, null);
    expect((await jobOf(world.ctx, actor, waits)).state).toBe('queued');
    const late = await add({ needs: [a] });
    expect((await jobOf(world.ctx, actor, late)).state).toBe('queued');
    await world.ctx.db.run("UPDATE job SET state = 'done' WHERE state = 'queued'");
    const bad = await add();
    const child = await add({ needs: [bad] });
    const below = await add({ needs: [child] });
    await fail(world.ctx, (await take())!, new TypicaError('invalid', 'x', 'No.'));
    expect([(await jobOf(world.ctx, actor, child)).state, (await jobOf(world.ctx, actor, below)).state]).toEqual([
      'cancelled',
      'cancelled',
    ]);
  });

  it('counts a group', async () => {
    const groupId = await createGroup(world.ctx.db, actor.workspaceId, 'Batch');
    for (let i = 0; i < 3; i += 1) await add({ groupId });
    await complete(world.ctx, (await take())!, null);
    expect(await groupProgress(world.ctx, actor.workspaceId, groupId)).toMatchObject({ total: 3, done: 1, open: 2 });
  });

  it('stops what writes something down right after that, without being asked', async () => {
    const id = await add();
    const handler: JobHandler = async (_ctx, { progress, write }) => {
      await cancelJob(world.ctx, actor.workspaceId, id);
      // What came of a step is kept first.
      await write((db) => db.run("UPDATE job SET title = 'kept' WHERE id = ?", [id]));
      await progress(1, 2, 'never');
    };
    await runJob(world.ctx, (await take())!, handler);
    expect(await jobOf(world.ctx, actor, id)).toMatchObject({ state: 'cancelled', title: 'kept' });
  });

  it('stops what has not begun at once, and what runs at one of its next steps', async () => {
    const waiting = await add();
    expect(await cancelJob(world.ctx, actor.workspaceId, waiting)).toBe(true);
    expect((await jobOf(world.ctx, actor, waiting)).state).toBe('cancelled');
    const id = await add();
    let steps = 0;
    const handler: JobHandler = async (_ctx, { progress }) => {
      for (; steps < 50; steps += 1) {
        await progress(steps, 50, 'step');
        if (steps === 3) await cancelJob(world.ctx, actor.workspaceId, id);
        await delay(40);
      }
    };
    await runJob(world.ctx, (await take())!, handler);
    // It asks a few times a second: quick steps do not wait for it.
    expect(steps).toBeLessThan(25);
    const { state, progressDone } = await jobOf(world.ctx, actor, id);
    expect({ state, isFurther: progressDone >= 3 && progressDone <= steps }).toEqual({
      state: 'cancelled',
      isFurther: true,
    });
    expect(await cancelJob(world.ctx, 'w-other', id)).toBe(false);
  });
});

describe('turns', () => {
  const claimed = async (n: number, limits = {}) => {
    const leases = [];
    for (let i = 0; i < n; i += 1) leases.push(await claim(world.ctx, ['test'], limits));
    return leases.map((lease) => lease && String(lease.job.payload.of));
  };

  it('go around workspaces, whatever one of them asks for, and however urgent it is', async () => {
    const other = await makeActor(world.ctx);
    for (let i = 0; i < 4; i += 1) await add({ payload: { of: 'much' }, priority: 99 });
    for (let i = 0; i < 2; i += 1) await add({ payload: { of: 'little' }, workspaceId: other.workspaceId });
    expect((await claimed(2)).toSorted()).toEqual(['little', 'much']);
    expect((await claimed(2)).toSorted()).toEqual(['little', 'much']);
    expect(await claimed(3)).toEqual(['much', 'much', null]);
  });

  it('go around the stores of a workspace', async () => {
    for (let i = 0; i < 3; i += 1) await add({ payload: { of: 'first' }, storeId: 'store-1' });
    await add({ payload: { of: 'second' }, storeId: 'store-2' });
    expect((await claimed(2)).toSorted()).toEqual(['first', 'second']);
  });

  it('pass over a workspace that fills its lanes, and come back to it', async () => {
    await add({ payload: { of: 'mine' } });
    expect(await claimed(1, { passOver: [actor.workspaceId] })).toEqual([null]);
    expect(await claimed(1)).toEqual(['mine']);
  });

  it('are kept for a queue that was quiet for long, and forgotten where nothing waits', async () => {
    await add({ payload: { of: 'waits' } });
    await world.ctx.db.run('UPDATE job_turn SET touched_at = touched_at - INTERVAL 5 HOUR');
    await dropIdleTurns(world.ctx);
    expect(await claimed(1)).toEqual(['waits']);
    await world.ctx.db.run('DELETE FROM job');
    await dropIdleTurns(world.ctx);
    expect(await world.ctx.db.rows('SELECT 1 FROM job_turn')).toEqual([]);
    await add({ payload: { of: 'new' } });
    expect(await claimed(1)).toEqual(['new']);
  });
});

describe('workers', () => {
  it('leave a lane to others while one workspace is slow', async () => {
    const other = await makeActor(world.ctx);
    for (let i = 0; i < 4; i += 1) await add({ payload: { slow: true } });
    const stop = new AbortController();
    const end = new AbortController();
    const done: string[] = [];
    const handler: JobHandler = async (_ctx, { job }) => {
      if (job.payload.slow) await new Promise((next) => end.signal.addEventListener('abort', next));
      else done.push(job.id);
    };
    const working = work(world.ctx, { test: handler }, stop.signal, { lanes: 3, idleMs: 10 });
    await eventually(
      async () => (await world.ctx.db.rows("SELECT 1 FROM job WHERE state = 'running'")).length === 2,
      'two running jobs',
    );
    const id = await add({ workspaceId: other.workspaceId });
    await eventually(async () => done.includes(id), 'the other’s job');
    // Of the slow one's: the other's may still be on its way to done.
    const mine = await world.ctx.db.rows("SELECT 1 FROM job WHERE state = 'running' AND workspace_id = ?", [
      actor.workspaceId,
    ]);
    expect(mine).toHaveLength(2);
    end.abort();
    stop.abort();
    await working;
  });

  it('leave lanes to other stores while the shop of one is slow', async () => {
    for (let i = 0; i < 6; i += 1) await add({ storeId: 'slow-shop', payload: { slow: true } });
    const stop = new AbortController();
    const end = new AbortController();
    const done: string[] = [];
    const handler: JobHandler = async (_ctx, { job }) => {
      if (!job.payload.slow) done.push(job.id);
      else if (!end.signal.aborted) await new Promise((next) => end.signal.addEventListener('abort', next));
    };
    const working = work(world.ctx, { test: handler }, stop.signal, { lanes: 5, idleMs: 10 });
    const running = () => world.ctx.db.rows("SELECT 1 FROM job WHERE state = 'running'");
    // Half of five lanes, rounded up; the workspace could have four.
    await eventually(async () => (await running()).length === 3, 'three running jobs');
    const ids = [await add({ storeId: 'quick-shop' }), await add()];
    await eventually(async () => ids.every((id) => done.includes(id)), 'the other store’s job, and that of none');
    expect(await running()).toHaveLength(3);
    end.abort();
    await eventually(async () => (await running()).length === 0, 'all jobs');
    stop.abort();
    await working;
  });

  it('share the work: a hundred jobs, each done once', async () => {
    for (let i = 0; i < 100; i += 1) await add({ payload: { i } });
    const done: number[] = [];
    const handler: JobHandler = async (_ctx, { job }) => void done.push(Number(job.payload.i));
    const stop = new AbortController();
    const workers = [1, 2, 3].map(() => work(world.ctx, { test: handler }, stop.signal, { lanes: 2, idleMs: 20 }));
    await eventually(async () => done.length >= 100, 'a hundred jobs');
    stop.abort();
    await Promise.all(workers);
    expect(done.toSorted((a, b) => a - b)).toEqual(Array.from({ length: 100 }, (_, i) => i));
  });
});
