import { findShot } from '@/server/catalog/blanks';
import { route } from '@/server/http/route';
import { packedPlanes } from '@/server/pictures/packed-planes';

/**
 * A shot as the kernel takes it, at half its size and packed by gzip: what a browser needs to draw the proof itself. With `?hash=` of its content the answer
 * may be kept.
 */
export const GET = route<{ id: string }>('read', async ({ ctx, actor, request, params, query }) => {
  const shot = await findShot(ctx, actor.workspaceId, params.id);
  const etag = `"${shot.contentHash}"`;
  const kept = query.get('hash') === shot.contentHash.slice(0, 16);
  const headers = {
    etag,
    'cache-control': kept ? 'private, max-age=31536000, immutable' : 'private, no-cache',
    'content-type': 'application/octet-stream',
  };
  if (request.headers.get('if-none-match') === etag) return new Response(null, { status: 304, headers });
  return new Response(await packedPlanes(ctx, actor.workspaceId, shot), { headers });
});
