import { conflict, notFound } from '@/core/errors';
import { findArtwork, readArtworks, type ArtworkRow } from '../artwork/artwork';
import type { Context } from '../context';
import type { Actor } from '../people/people';

export async function findPhotograph(ctx: Context, workspaceId: string, id: string): Promise<ArtworkRow> {
  const photograph = await findArtwork(ctx, workspaceId, id);
  if (photograph.purpose !== 'photograph') throw notFound('photograph', id);
  return photograph;
}

/** A workspace's photographs, the newest first; those that were refused are not among them. */
export const listPhotographs = (ctx: Context, workspaceId: string, limit = 200): Promise<ArtworkRow[]> =>
  readArtworks(
    ctx.db,
    "WHERE workspace_id = ? AND purpose = 'photograph' AND state <> 'refused' ORDER BY created_at DESC, id LIMIT ?",
    [workspaceId, limit],
  );

/** Deletes a photograph that nothing shows. Throws `photograph-used`. */
export async function deletePhotograph(ctx: Context, actor: Actor, id: string): Promise<void> {
  await findPhotograph(ctx, actor.workspaceId, id);
  await ctx.pools.transaction(async (db) => {
    const shot = await db.row<{ id: string }>('SELECT id FROM shot WHERE photograph_id = ? LIMIT 1', [id]);
    const product = await db.row<{ title: string }>(
      `SELECT title FROM product WHERE workspace_id = ? AND archived_at IS NULL AND JSON_SEARCH(document, 'one', ?, NULL, '$.pictures') IS NOT NULL LIMIT 1`,
      [actor.workspaceId, id],
    );
    if (shot || product)
      throw conflict(
        'photograph-used',
        product
          ? `This photograph is a picture of ${product.title}. Remove it there first.`
          : 'A shot is made of this photograph. Delete the shot first.',
      );
    await db.run("DELETE FROM artwork WHERE id = ? AND workspace_id = ? AND purpose = 'photograph'", [
      id,
      actor.workspaceId,
    ]);
  });
}
