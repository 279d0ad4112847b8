import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { colorOption, type Blank } from '@/core/catalog/blank';
import { readBlob } from '@/server/blobs/blobs';
import { loadShots, type StoredShot } from '@/server/catalog/blanks';
import { blankThumbnail, makeBlankThumbnails } from '@/server/pictures/blank-thumbnails';
import { findBlank, makeActor, makeWorld, type World } from '../support/world';

let world: World;
let mug: Blank;
let shot: StoredShot;
let who: { workspaceId: string; currency: string };
beforeAll(async () => {
  world = await makeWorld({ catalog: true });
  mug = await findBlank(world.ctx, 'oststern', 'galley-mug');
  const { workspaceId, currency } = await makeActor(world.ctx);
  who = { workspaceId, currency };
  shot = (await loadShots(world.ctx, [mug.id], workspaceId))[0]!;
});
afterAll(() => world.close());

describe('thumbnails of blanks', () => {
  it('are small, and made once for all workspaces', async () => {
    const { ctx } = world;
    const color = colorOption(mug)?.values[0]?.code ?? null;
    const first = await blankThumbnail(ctx, who, mug, shot, color);
    const bytes = await readBlob(ctx, first);
    const { width, height, format } = await sharp(bytes).metadata();
    expect([Math.max(width, height), format]).toEqual([160, 'jpeg']);
    expect(bytes.byteLength).toBeLessThan(15_000);
    const stranger = await makeActor(ctx);
    expect(await blankThumbnail(ctx, stranger, mug, shot, color)).toBe(first);
    const rows = await ctx.db.rows('SELECT color FROM blank_thumbnail WHERE shot_id = ?', [shot.id]);
    expect(rows).toHaveLength(1);
  });

  it('are made before anybody asks, the first color of each blank first', async () => {
    const { ctx } = world;
    await makeBlankThumbnails(ctx, 3);
    const rows = await ctx.db.rows<{ shotId: string }>('SELECT shot_id AS shotId FROM blank_thumbnail');
    expect(new Set(rows.map(({ shotId }) => shotId)).size).toBe(rows.length);
    expect(rows.length).toBeGreaterThanOrEqual(4);
  });

  it('are made anew when the passes of a shot change', async () => {
    const { ctx } = world;
    await ctx.db.run('UPDATE blank_thumbnail SET content_hash = ?', ['0'.repeat(64)]);
    const before = await ctx.db.row<{ n: number }>('SELECT COUNT(*) AS n FROM blank_thumbnail');
    await makeBlankThumbnails(ctx, 1);
    const fresh = await ctx.db.row<{ n: number }>(
      "SELECT COUNT(*) AS n FROM blank_thumbnail WHERE content_hash <> REPEAT('0', 64)",
    );
    expect(Number(fresh!.n)).toBe(1);
    expect(Number(before!.n)).toBeGreaterThan(1);
  });

  it('of a color that a blank does not have are not found', async () => {
    await expect(blankThumbnail(world.ctx, who, mug, shot, 'nosuch')).rejects.toMatchObject({ code: 'not-found' });
  });
});
