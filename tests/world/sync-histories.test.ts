import { afterAll, beforeAll, expect, it } from 'vitest';
import type { SignedIn } from '@/server/people/people';
import { SyncLife, syncHistories, unhurried } from '../support/sync-histories';
import { connectStore, makeActor, makeTee, makeWorld, type World } from '../support/world';

/** The short twin of `npm run soak sync`, which runs this with more. */
const HISTORIES = Number(process.env.SYNC_HISTORIES ?? 300);
const SEED = Number(process.env.SYNC_SEED ?? 21);
/** A listing lives through so many; then another is made, so that revisions and sightings do not pile up. */
const OF_ONE = 50;

let world: World;
let actor: SignedIn;
beforeAll(async () => {
  const made = await makeWorld({ catalog: true, requestsPerSecond: 1000 });
  world = { ...made, ctx: unhurried(made.ctx) };
  actor = await makeActor(world.ctx);
});
afterAll(() => world.close());

it(
  'histories of edits here and there, sends, readings, faults and kills: no edit is lost, nothing is written over in silence, no listing is there twice',
  { timeout: 6 * 3_600_000 },
  async () => {
    const store = await connectStore(world, actor);
    const histories = syncHistories(HISTORIES, SEED);
    const sums = { steps: 0, kills: 0, faults: 0, sends: 0, conflicts: 0, settled: 0 };
    for (let i = 0; i < histories.length; i += OF_ONE) {
      const { product } = await makeTee(world.ctx, actor, `Histories from ${i}`, ['coal']);
      const life = new SyncLife(world, actor, store, product.id, Object.keys(product.document.variants)[0]!);
      await life.begin();
      for (const [n, steps] of histories.slice(i, i + OF_ONE).entries()) {
        await life.live(steps, `history ${i + n}`);
        expect(life.told().wrong, JSON.stringify(steps)).toEqual([]);
      }
      for (const [key, n] of Object.entries(life.told().tally)) sums[key as keyof typeof sums] += n;
    }
    process.stdout.write(`sync histories: ${HISTORIES}, seed ${SEED}, ${JSON.stringify(sums)}\n`);
    // What is not tried proves nothing.
    for (const n of Object.values(sums)) expect(n).toBeGreaterThan(HISTORIES / 20);
  },
);
