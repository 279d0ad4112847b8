import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { ACTIVITY_PAGE, activityPage, activityPeople, type ActivityQuery } from '@/server/activity/activity';
import { cursorAfter, cursorOf } from '@/server/activity/cursor';
import { note } from '@/server/activity/note';
import { requestSend } from '@/server/listings/request-send';
import type { Actor } from '@/server/people/people';
import { loadBundle } from '@/server/products/bundle';
import { patchProduct } from '@/server/products/patch';
import { findProduct, type Product } from '@/server/products/products';
import { archiveProduct, restoreProduct } from '@/server/products/shelving';
import type { Store } from '@/server/stores/stores';
import { connectStore, makeActor, makeTee, makeWorld, runJobs, type World } from '../support/world';

let world: World;
let actor: Actor;
let store: Store;
let product: Product;
beforeAll(async () => {
  world = await makeWorld({ catalog: true });
  actor = await makeActor(world.ctx);
  store = await connectStore(world, actor);
  ({ product } = await makeTee(world.ctx, actor));
});
afterAll(() => world.close());

const lines = (query: ActivityQuery = {}, of = actor) => activityPage(world.ctx, of.workspaceId, query);
const rename = async (title: string) => {
  const { revision } = await findProduct(world.ctx, actor.workspaceId, product.id);
  const change = [{ op: 'replace' as const, path: '/words/base/title', value: title }];
  await patchProduct(world.ctx, actor, product.id, revision, change, { label: 'Title' });
};

describe('the activity', () => {
  it('tells what was done, by whom, to which product and in which store, newest first', async () => {
    for (const title of ['One', 'Two', 'Three']) await rename(title);
    await requestSend(world.ctx, await loadBundle(world.ctx, actor.workspaceId, product.id), store, 'draft', {
      by: actor.personName,
    });
    await runJobs(world.ctx);
    const told = (await lines()).map(({ about, what, by, times, product: of, store: at }) => [
      ...[about, what, by, times],
      ...[of?.title ?? null, at?.name ?? null],
    ]);
    const { personName: me } = actor;
    const { name } = store;
    expect(told.slice(0, 2)).toEqual([
      ['listing', 'sent', me, 1, 'Three', name],
      ['listing', 'made', null, 1, 'Three', name],
    ]);
    // However often it was changed within an hour: one line, or two where the hour turned.
    const changed = told.filter(([about, what]) => about === 'product' && what === 'changed');
    expect(changed.length).toBeLessThanOrEqual(2);
    expect(changed.reduce((sum, [, , , times]) => sum + Number(times), 0)).toBeGreaterThanOrEqual(3);
    expect(told.filter(([about]) => about === 'store')).toEqual([['store', 'connected', me, 1, null, name]]);
    expect(told.filter(([, what]) => what === 'made')).toContainEqual(['product', 'made', me, 1, 'Three', null]);
  });

  it('is found by what it is about, store, product, person and day', async () => {
    await archiveProduct(world.ctx, actor, product.id);
    await restoreProduct(world.ctx, actor, product.id);
    const whats = async (query: ActivityQuery) => (await lines(query)).map(({ what }) => what);
    expect((await whats({ about: 'product' })).slice(0, 2)).toEqual(['restored', 'archived']);
    expect(new Set((await lines({ storeId: store.id })).map((line) => line.store?.id))).toEqual(new Set([store.id]));
    expect((await lines({ productId: product.id })).every((line) => line.product?.id === product.id)).toBe(true);
    expect(await whats({ by: '' })).toEqual(['made']);
    expect(await whats({ by: actor.personName, about: 'listing', storeId: store.id })).toEqual(['sent']);
    expect(await whats({ until: '2020-01-01' })).toEqual([]);
    expect(await whats({ until: new Date().toISOString().slice(0, 10) })).toEqual(await whats({}));
    expect(await activityPeople(world.ctx, actor.workspaceId)).toEqual([actor.personName]);
  });

  it('is told page by page, each line once, also where many are of one moment, and to its workspace alone', async () => {
    const other = await makeActor(world.ctx);
    for (let i = 0; i < 250; i += 1)
      await note(world.ctx.db, other, { about: 'money', what: 'changed', says: `Line ${i}` });
    await world.ctx.db.run('UPDATE activity SET at = ? WHERE workspace_id = ?', [new Date(), other.workspaceId]);
    const found: string[] = [];
    for (let after: string | null = null; ;) {
      const page = await lines({ after: cursorOf(after) }, other);
      found.push(...page.map(({ says }) => says));
      if (page.length < ACTIVITY_PAGE) break;
      after = cursorAfter(page.at(-1)!);
    }
    expect(found).toEqual(Array.from({ length: 250 }, (_, i) => `Line ${249 - i}`));
    expect((await lines()).some(({ says }) => says.startsWith('Line'))).toBe(false);
  });
});
