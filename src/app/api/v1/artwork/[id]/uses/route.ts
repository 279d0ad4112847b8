import { findArtwork } from '@/server/artwork/artwork';
import { usesOfArtwork } from '@/server/artwork/library';
import { json, route } from '@/server/http/route';

/** The products that print an artwork, with what the checks say of it there. */
export const GET = route<{ id: string }>('read', async ({ ctx, actor, params }) => {
  const { id } = await findArtwork(ctx, actor.workspaceId, params.id);
  return json({ products: await usesOfArtwork(ctx, actor.workspaceId, id) });
});
