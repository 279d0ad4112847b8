import { setTimeout as delay } from 'node:timers/promises';
import type { ChildProcess } from 'node:child_process';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { Actor } from '@/server/people/people';
import { patchProduct } from '@/server/products/patch';
import { findProduct, type Product } from '@/server/products/products';
import { findSend } from '@/server/sends/send-row';
import { beginSend, planSend, retrySend } from '@/server/sends/sends';
import { viewSend } from '@/server/sends/view';
import type { Store } from '@/server/stores/stores';
import { randomOf } from '../support/random';
import { connectStore, eventually, makeActor, makeTee, makeWorld, startWorker, type World } from '../support/world';

/** The short twin of `npm run soak send`: workers killed at random moments while a faulting shop is sent to. */
const KILLS = 20;
const SEED = Number(process.env.SEND_SEED ?? 20);

let world: World;
let actor: Actor;
let store: Store;
const tees: Product[] = [];
let workers: ChildProcess[] = [];
beforeAll(async () => {
  world = await makeWorld({ catalog: true, requestsPerSecond: 40 });
  actor = await makeActor(world.ctx);
  store = await connectStore(world, actor);
  for (let i = 1; i <= 4; i += 1) tees.push((await makeTee(world.ctx, actor, `Killed tee ${i}`, ['coal'])).product);
});
afterAll(async () => {
  for (const worker of workers) worker.kill('SIGKILL');
  await world.close();
});

async function retitle(product: Product, title: string): Promise<void> {
  const { revision } = await findProduct(world.ctx, actor.workspaceId, product.id);
  await patchProduct(world.ctx, actor, product.id, revision, [
    { op: 'replace', path: '/words/base/title', value: title },
  ]);
}

async function begin(): Promise<string> {
  const id = await planSend(world.ctx, actor, { productIds: tees.map(({ id }) => id), storeIds: [store.id] }, 'live');
  await beginSend(world.ctx, await findSend(world.ctx, actor.workspaceId, id), null);
  return id;
}

/** What a dead worker held is free at once: here nobody waits for leases to run out. */
async function kill(worker: ChildProcess): Promise<void> {
  worker.kill('SIGKILL');
  await world.ctx.db.run("UPDATE job SET lease_until = UTC_TIMESTAMP(3) WHERE state = 'running'");
  await world.ctx.db.run('UPDATE judge_due SET lease_until = NULL, lease_token = NULL');
}

it('every listing is made once, every fee is paid once, and every group ends', async () => {
  const random = randomOf(SEED);
  const faults = world.shop.world.faults.now;
  const groups: string[] = [];
  const start = () => startWorker(world.env);
  workers = [start(), start()];
  for (let i = 0; i < KILLS; i += 1) {
    if (i % 5 === 0) {
      for (const [n, tee] of tees.entries()) await retitle(tee, `Killed tee ${n + 1}, take ${i}`);
      groups.push(await begin());
    }
    const fault = (['loseAnswers', 'failAfter', 'cutAnswers', 'unavailable', 'tooMany'] as const)[
      Math.floor(random() * 5)
    ]!;
    faults[fault] += 1;
    await delay(700 + random() * 1800);
    const which = i % 2;
    await kill(workers[which]!);
    workers[which] = start();
  }
  groups.push(await begin());
  await eventually(
    async () => {
      await world.ctx.db.run(
        "UPDATE job SET run_after = UTC_TIMESTAMP(3) WHERE state = 'queued' AND run_after > UTC_TIMESTAMP(3) + INTERVAL 5 SECOND",
      );
      // Workers die here far faster than a lease runs out: a job that lost eight of them in one place is given up, and asked for again.
      for (const id of groups) await retrySend(world.ctx, await findSend(world.ctx, actor.workspaceId, id));
      const row = await world.ctx.db.row<{ n: number }>(
        "SELECT COUNT(*) AS n FROM job WHERE state IN ('queued', 'running', 'waiting')",
      );
      return Number(row!.n) === 0;
    },
    'the end of all jobs',
    150,
  );
  const { articles, charges } = world.shop.world;
  const titles = articles.all().map(({ title, stage }) => `${title} ${stage}`);
  expect(titles.toSorted()).toEqual(tees.map((_, n) => `Killed tee ${n + 1}, take ${KILLS - 5} live`));
  expect(charges.all()).toHaveLength(tees.length);
  for (const id of groups) {
    const { state, stores } = await viewSend(world.ctx, await findSend(world.ctx, actor.workspaceId, id));
    expect([state, stores[0]!.progress.open]).toEqual(['laid', 0]);
  }
}, 400_000);
