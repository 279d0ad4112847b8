import { publicArtwork, uploadArtwork } from '@/server/artwork/artwork';
import { browseArtwork } from '@/server/artwork/library';
import { readArtworkQuery } from '@/server/artwork/query';
import { declaredBytes } from '@/server/blobs/upload';
import { json, route } from '@/server/http/route';

/** The workspace's artwork, the newest first: `?q=` words of name or tags, `?tag=`, `?offset=`, `?limit=` (200 at most). */
export const GET = route('read', async ({ ctx, actor, query }) => {
  const { total, artwork, tags } = await browseArtwork(ctx, actor.workspaceId, readArtworkQuery(query));
  return json({ total, tags, artwork: artwork.map((one) => ({ ...publicArtwork(one), products: one.products })) });
});

/** The file itself is the body; its name comes as `?name=`. */
export const POST = route('design', async ({ ctx, actor, request, query }) =>
  json(await uploadArtwork(ctx, actor, request.body, query.get('name'), declaredBytes(request)), 202),
);
