import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { EMPTY_QUERY } from '@/core/shelf/shelf';
import { MAX_SETS } from '@/core/named-sets';
import { setFavorite } from '@/server/catalog/own-blanks';
import { browseShelf } from '@/server/catalog/shelf';
import { deleteSet, saveSet, namedSets, renameSet } from '@/server/named-sets';
import type { Actor } from '@/server/people/people';
import { createProduct } from '@/server/products/products';
import { deleteProduct } from '@/server/products/shelving';
import { findBlank, makeActor, makeWorld, type World } from '../support/world';

let world: World;
let actor: Actor;
let stranger: Actor;
beforeAll(async () => {
  world = await makeWorld({ catalog: true });
  actor = await makeActor(world.ctx);
  stranger = await makeActor(world.ctx);
});
afterAll(() => world.close());

const colors = (hex: string) => ({ colors: [{ code: 'navy', name: 'Navy', hex }] });

describe('what is kept under a name', () => {
  it('is replaced by what is kept under the same name, and belongs to its workspace alone', async () => {
    const { ctx } = world;
    const first = await saveSet(ctx, actor.workspaceId, { kind: 'colors', name: 'Dark', content: colors('#101010') });
    const again = await saveSet(ctx, actor.workspaceId, { kind: 'colors', name: 'Dark', content: colors('#202020') });
    expect(again.id).toBe(first.id);
    // The same name of another kind is another thing.
    await saveSet(ctx, actor.workspaceId, { kind: 'blank-filter', name: 'Dark', content: { query: 'color=black' } });
    expect(await namedSets(ctx, actor.workspaceId, 'colors')).toEqual([
      { id: first.id, kind: 'colors', name: 'Dark', content: colors('#202020') },
    ]);
    expect(await namedSets(ctx, stranger.workspaceId, null)).toEqual([]);
    await expect(renameSet(ctx, stranger.workspaceId, first.id, 'Mine')).rejects.toMatchObject({ code: 'not-found' });
    await expect(deleteSet(ctx, stranger.workspaceId, first.id)).rejects.toMatchObject({ code: 'not-found' });
    await renameSet(ctx, actor.workspaceId, first.id, 'Darker');
    const other = await saveSet(ctx, actor.workspaceId, { kind: 'colors', name: 'Light', content: colors('#eeeeee') });
    await expect(renameSet(ctx, actor.workspaceId, other.id, 'Darker')).rejects.toMatchObject({ code: 'name-taken' });
    await deleteSet(ctx, actor.workspaceId, first.id);
    expect((await namedSets(ctx, actor.workspaceId, null)).map(({ name }) => name)).toEqual(['Dark', 'Light']);
  });

  it('is refused where its content is of another kind, and when there are too many', async () => {
    const { ctx } = world;
    await expect(
      saveSet(ctx, actor.workspaceId, { kind: 'shots', name: 'x', content: colors('#101010') }),
    ).rejects.toMatchObject({ code: 'set-content' });
    const rows = Array.from({ length: MAX_SETS }, (_, i) => [`nx${i}`, stranger.workspaceId, 'colors', `c${i}`, '{}']);
    await ctx.db.insertMany('named_set', ['id', 'workspace_id', 'kind', 'name', 'content'], rows);
    const keep = (name: string) =>
      saveSet(ctx, stranger.workspaceId, { kind: 'colors', name, content: colors('#101010') });
    await expect(keep('one more')).rejects.toMatchObject({ code: 'sets-full' });
    // One that is there can still be changed.
    expect((await keep('c7')).id).toBe('nx7');
  });

  it('that is kept twice in the same moment is one', async () => {
    const { ctx } = world;
    const made = await Promise.all(
      Array.from({ length: 5 }, () =>
        saveSet(ctx, actor.workspaceId, { kind: 'blank-filter', name: 'at once', content: { query: 'q=tee' } }),
      ),
    );
    expect(new Set(made.map(({ id }) => id)).size).toBe(1);
  });
});

describe('blanks of one’s own', () => {
  it('are the marked ones and those that products are on, counted and found', async () => {
    const { ctx } = world;
    const [tee, mug] = [
      await findBlank(ctx, 'millrace', 'towpath-tee'),
      await findBlank(ctx, 'oststern', 'galley-mug'),
    ];
    const found = async (who: Actor, asked: Partial<typeof EMPTY_QUERY>) => {
      const answer = await browseShelf(ctx, who, { ...EMPTY_QUERY, ...asked });
      return {
        ids: answer.rows.map((row) => row.blank.id),
        favorites: answer.rows.filter((row) => row.favorite).map((row) => row.blank.id),
        counts: [answer.facets.favorite, answer.facets.used],
      };
    };
    await setFavorite(ctx, actor.workspaceId, tee.id, true);
    await setFavorite(ctx, actor.workspaceId, tee.id, true);
    const product = await createProduct(ctx, actor, { blankId: mug.id, title: 'Mug' });
    expect(await found(actor, { favorite: true })).toEqual({ ids: [tee.id], favorites: [tee.id], counts: [1, 0] });
    expect(await found(actor, { used: true })).toMatchObject({ ids: [mug.id], favorites: [], counts: [0, 1] });
    expect((await found(actor, { limit: 200 })).counts).toEqual([1, 1]);
    expect((await found(stranger, { limit: 200 })).counts).toEqual([0, 0]);
    await deleteProduct(ctx, actor, product.id);
    await setFavorite(ctx, actor.workspaceId, tee.id, false);
    expect((await found(actor, { limit: 200 })).counts).toEqual([0, 0]);
    await expect(setFavorite(ctx, actor.workspaceId, 'nosuch', true)).rejects.toMatchObject({ code: 'not-found' });
  });
});
