import { setTimeout as delay } from 'node:timers/promises';
import { expect, inject, it } from 'vitest';
import { KillLoad } from '../support/kill-load';

/** The short twin of `npm run soak kill`. */
it('web, worker, shop and database are killed in the middle of work: it goes on by itself, and nothing is twice or lost', async () => {
  const stack = {
    origin: inject('origin'),
    shopUrl: inject('shopUrl'),
    processesFile: inject('processesFile'),
  };
  const load = await KillLoad.prepare(stack, 3);
  load.begin();
  for (const victim of ['worker-1', 'web', 'pennyquay', 'database', 'worker-1'] as const) {
    await delay(1500);
    expect(await load.kill(victim)).toBeLessThan(10_000);
  }
  await load.end();
  expect(await load.damage()).toEqual({ notOnce: [], wrongTitle: [], wrongFee: [], lostEdit: [], jobs: [] });
}, 240_000);
