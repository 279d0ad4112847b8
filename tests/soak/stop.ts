import fs from 'node:fs';
import { setTimeout as delay } from 'node:timers/promises';
import { KillLoad } from '../support/kill-load';
import { withStack } from './stack';

const STOPS = Number(process.env.SOAK_ROUNDS ?? 60);
const WORKERS = 4;
/** A lease holds 30 s. */
const PAST_LEASE_MS = 33_000;

/** Workers stopped past their lease at random moments, and going on: none of them writes what is no longer true. */
export default function stop(): Promise<boolean> {
  return withStack(
    async (stack, say) => {
      const load = await KillLoad.prepare(stack, 8);
      load.begin();
      const pids = () =>
        (JSON.parse(fs.readFileSync(stack.processesFile, 'utf8')) as { name: string; pid: number }[])
          .filter(({ name }) => name.startsWith('worker'))
          .map(({ pid }) => pid);
      for (let stopped = 0; stopped < STOPS;) {
        await delay(Math.random() * 1500);
        // One of them goes on, so that what the others left is taken over.
        const some = pids().slice(0, WORKERS - 1);
        for (const pid of some) {
          await delay(Math.random() * 400);
          process.kill(pid, 'SIGSTOP');
          stopped += 1;
        }
        await delay(PAST_LEASE_MS);
        for (const pid of some) process.kill(pid, 'SIGCONT');
        say(`${stopped} stops, ${load.edits} edits, ${load.sends} sends`);
      }
      await load.end();
      // Whoever woke last has had time for what it would have written.
      await delay(5000);
      const damage = await load.damage();
      const count = Object.values(damage).flat().length;
      if (count > 0) say(JSON.stringify(damage, null, 1));
      say(`soak stop stops ${STOPS}, edits ${load.edits}, sends ${load.sends}, late writes and other damage ${count}`);
      return count === 0;
    },
    { workers: WORKERS },
  );
}
