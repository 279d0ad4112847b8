import { setTimeout as delay } from 'node:timers/promises';
import { randomOf } from '../support/random';
import { SendLoad } from '../support/send-load';
import { withStack } from './stack';

const KILLS = Number(process.env.SOAK_ROUNDS ?? 300);
const SEED = Number(process.env.SEND_SEED ?? 1);
const WORKERS = 2;
const SHOPS = ['pennyquay', 'broadmere', 'plainfront', 'loopstall'];
const FAULTS = [
  'tooMany',
  'unavailable',
  'failBefore',
  'failAfter',
  'loseAnswers',
  'cutAnswers',
  'brokenJson',
  'halfBatches',
  'endTokens',
] as const;
/** A key that was pasted is renewed by a person alone: ended, the store waits for its seller. */
const PASTED_KEYS = new Set(['plainfront']);
/** A new group is begun after so many kills. */
const GROUP_KILLS = 20;
const END_SECONDS = 900;

/** Workers killed at random moments while four shops fault at random: nothing twice, nothing lost, every fee once, every group ends. */
export default function send(): Promise<boolean> {
  return withStack(
    async (stack, say) => {
      const random = randomOf(SEED);
      const one = <T>(of: readonly T[]): T => of[Math.floor(random() * of.length)]!;
      const load = await SendLoad.prepare(stack, 6);
      for (let i = 0; i < KILLS; i += 1) {
        if (i % GROUP_KILLS === 0) await load.round();
        const shop = one(SHOPS);
        await load.fault(shop, one(FAULTS.filter((fault) => fault !== 'endTokens' || !PASTED_KEYS.has(shop))));
        await delay(random() * 2500);
        load.kill(`worker-${1 + Math.floor(random() * WORKERS)}`);
        if (i % 50 === 49) say(`${i + 1} kills, ${load.sends} groups`);
      }
      await load.round();
      await load.calm(SHOPS);
      const { retried } = await load.end(END_SECONDS);
      const damage = await load.damage();
      say(
        `soak send seed ${SEED}, kills ${KILLS}, groups ${load.sends}, tried again ${retried}, ${JSON.stringify(damage)}`,
      );
      return Object.values(damage).every((count) => count === 0);
    },
    { workers: WORKERS, shops: SHOPS, pace: 10 },
  );
}
