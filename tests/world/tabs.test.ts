import { afterAll, beforeAll, expect, it } from 'vitest';
import type { SendResult } from '@/bench/session-types';
import { isTypicaError } from '@/core/errors';
import type { Actor } from '@/server/people/people';
import { patchProduct } from '@/server/products/patch';
import { createProduct, findProduct } from '@/server/products/products';
import { listRevisions } from '@/server/products/revisions';
import { findBlank, makeActor, makeWorld, type World } from '../support/world';
import { histories, playHistory, type SharedProduct } from '../support/tab-histories';

let world: World;
let actor: Actor;
beforeAll(async () => {
  world = await makeWorld({ catalog: true });
  actor = await makeActor(world.ctx);
});
afterAll(() => world.close());

/** The short twin of `npm run soak tabs`, without HTTP between. */
it('histories of two and three tabs with lost requests and answers: no edit is lost, nothing written over in silence', async () => {
  const { ctx } = world;
  const blank = await findBlank(ctx, 'millrace', 'towpath-tee');
  for (const history of histories(25, 7)) {
    const { id } = await createProduct(ctx, actor, { blankId: blank.id, title: 'Tide' });
    const newest = () => findProduct(ctx, actor.workspaceId, id);
    const shared: SharedProduct = {
      areaKey: blank.areas[0]!.key,
      newest,
      revisions: async () => (await listRevisions(ctx, id)).toReversed(),
      transport: {
        load: async () => ({ kind: 'loaded', ...(await newest()) }),
        async send({ revision, operations, label, key }): Promise<SendResult> {
          try {
            return { kind: 'saved', ...(await patchProduct(ctx, actor, id, revision, operations, { label, key })) };
          } catch (error) {
            if (isTypicaError(error) && error.kind === 'conflict') return { kind: 'stale', by: null };
            if (isTypicaError(error, 'not-found')) return { kind: 'gone' };
            throw error;
          }
        },
      },
    };
    expect(await playHistory(history, shared)).toMatchObject({ lost: [], overwritten: [], unlike: 0 });
  }
}, 240_000);
