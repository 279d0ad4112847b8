import { notFound } from '@/core/errors';
import { blobResponse } from '@/server/http/blob';
import { route } from '@/server/http/route';
import { findShownPicture } from '@/server/pictures/product-pictures';

/** A picture that is made, under the key of what it is made from: it never changes. */
export const GET = route<{ key: string }>('read', async ({ ctx, actor, request, params }) => {
  const sha256 = await findShownPicture(ctx, actor.workspaceId, params.key);
  if (!sha256) throw notFound('picture', params.key);
  return blobResponse(ctx, request, sha256, { immutable: true });
});
