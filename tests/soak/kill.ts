import { setTimeout as delay } from 'node:timers/promises';
import { KillLoad, type Victim } from '../support/kill-load';
import { withStack } from './stack';

const KILLS = Number(process.env.SOAK_ROUNDS ?? 300);
const VICTIMS: readonly Victim[] = ['web', 'worker-1', 'pennyquay', 'database'];
const MAX_DOWN_MS = 10_000;

/** Web, worker, shop and database killed at random moments under load: nothing twice, nothing lost, nothing to be done by hand. */
export default function kill(): Promise<boolean> {
  return withStack(async (stack, say) => {
    const load = await KillLoad.prepare(stack, 8);
    load.begin();
    let longest = 0;
    for (let i = 0; i < KILLS; i += 1) {
      await delay(Math.random() * 2500);
      const victim = VICTIMS[Math.floor(Math.random() * VICTIMS.length)]!;
      longest = Math.max(longest, await load.kill(victim));
      if (i % 50 === 49) say(`${i + 1} kills, ${load.edits} edits, ${load.sends} sends, longest away ${longest} ms`);
    }
    await load.end();
    const damage = await load.damage();
    const count = Object.values(damage).flat().length;
    if (count > 0) say(JSON.stringify(damage, null, 1));
    say(
      `soak kill kills ${KILLS}, edits ${load.edits}, sends ${load.sends}, damage ${count}, longest away ${longest} ms (most ${MAX_DOWN_MS})`,
    );
    return count === 0 && longest <= MAX_DOWN_MS;
  });
}
